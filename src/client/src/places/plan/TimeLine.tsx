import { format } from 'date-fns';
import type { CampaignAnswer } from '../../api/client';
import { barOf, lanesOf, monthsOf, placeOf, type Span } from './timeScale';

interface TimeLineProps {
  campaigns: CampaignAnswer[];
  span: Span;
  today: string;
  onOpen: (id: string) => void;
}

const laneHeight = 26;

const looks: Record<CampaignAnswer['state'], string> = {
  running: 'border-accent bg-accent text-accent-ink',
  ahead: 'border-accent bg-accent-wash text-ink',
  over: 'border-line-strong bg-page text-quiet',
  alwaysOn: 'border-dashed border-line-strong bg-sheet text-quiet',
};

/** Campaigns as bars over months, today marked; what overlaps stands in lanes of its own. */
export function TimeLine({ campaigns, span, today, onOpen }: TimeLineProps) {
  const shown = campaigns.filter((c) => barOf(c, span));
  const lanes = [
    ...lanesOf(shown.filter((c) => c.startsOn !== null)),
    ...shown.filter((c) => c.startsOn === null).map((c) => [c]),
  ];
  const now = placeOf(today, span);
  return (
    <section aria-label="Time line" className="shrink-0 border-b border-line bg-sheet px-5">
      <div className="relative h-9">
        {monthsOf(span, campaigns).map(({ month, left, width, atOnce }) => (
          <span
            key={month.toISOString()}
            style={{ left: percent(left), width: percent(width) }}
            className="absolute inset-y-0 flex items-baseline justify-between gap-1 overflow-hidden border-l border-line px-1.5 pt-2 text-xs whitespace-nowrap text-quiet"
          >
            {format(month, span.months > 14 ? 'MMM' : month.getMonth() === 0 ? 'MMM yyyy' : 'MMM')}
            {atOnce > 1 && span.months <= 14 && (
              <span className="text-2xs" title={`${atOnce} campaigns run at once`}>
                {atOnce}×
              </span>
            )}
          </span>
        ))}
      </div>
      <div className="max-h-44 overflow-y-auto pb-2">
        <div className="relative" style={{ height: Math.max(1, lanes.length) * laneHeight }}>
          {monthsOf(span, []).map(({ month, left }) => (
            <span
              key={month.toISOString()}
              aria-hidden
              style={{ left: percent(left) }}
              className="absolute inset-y-0 border-l border-line"
            />
          ))}
          {now >= 0 && now <= 1 && (
            <span
              aria-label="Today"
              role="img"
              style={{ left: percent(now) }}
              className="absolute -inset-y-1 z-10 border-l-2 border-accent"
            />
          )}
          {lanes.flatMap((lane, i) =>
            lane.map((campaign) => {
              const bar = barOf(campaign, span)!;
              return (
                <button
                  key={campaign.id}
                  type="button"
                  title={`${campaign.name}: ${datesOf(campaign)}`}
                  style={{ left: percent(bar.left), width: percent(bar.width), top: i * laneHeight + 2 }}
                  className={`absolute flex h-[22px] items-center overflow-hidden rounded border px-1.5 text-xs whitespace-nowrap hover:brightness-110 ${looks[campaign.state]}`}
                  onClick={() => onOpen(campaign.id)}
                >
                  {campaign.name}
                </button>
              );
            }),
          )}
        </div>
      </div>
    </section>
  );
}

/** First and last day in words. */
export function datesOf(campaign: { startsOn: string | null; endsOn: string | null }): string {
  if (campaign.startsOn === null) return campaign.endsOn === null ? 'always on' : `until ${dayOf(campaign.endsOn)}`;
  return campaign.endsOn === null
    ? `from ${dayOf(campaign.startsOn)}`
    : `${dayOf(campaign.startsOn)} – ${dayOf(campaign.endsOn)}`;
}

/** A day as it is written in tables. */
export const dayOf = (day: string): string => format(new Date(`${day}T12:00`), 'd MMM yyyy');

const percent = (fraction: number): string => `${fraction * 100}%`;
