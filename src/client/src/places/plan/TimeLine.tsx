import { addDays, format, parseISO } from 'date-fns';
import type { CampaignAnswer, Schema } from '../../api/client';
import { dayOf } from '../../parts/days';
import { money } from '../../parts/format';
import { lanesOf } from '../../parts/ruler/lanes';
import { barOf, monthsOf, placeOf, type Span } from './timeScale';

interface TimeLineProps {
  campaigns: CampaignAnswer[];
  /** Budgets beside what was spent, by campaign; campaigns without one are left out. */
  budgets: Record<string, Schema['BudgetAnswer']>;
  span: Span;
  today: string;
  onOpen: (id: string) => void;
}

const laneHeight = 26;

/** About the share of the line a name takes; it stands inside its bar where that is wide enough. */
const nameWidth = (name: string): number => name.length * 0.0056 + 0.014;

const looks: Record<CampaignAnswer['state'], string> = {
  running: 'border-accent bg-accent text-accent-ink',
  ahead: 'border-accent bg-accent-wash text-ink',
  over: 'border-line-strong bg-page text-quiet',
  alwaysOn: 'border-dashed border-line-strong text-quiet',
};

/** Campaigns as bars over months, today marked; what overlaps stands in lanes of its own. */
export function TimeLine({ campaigns, budgets, span, today, onOpen }: TimeLineProps) {
  const shown = campaigns.filter((c) => barOf(c, span));
  const lanes = [
    // A short bar takes the room of its name, which stands beside it.
    ...lanesOf(shown.filter((c) => c.startsOn !== null).map((c) => ({ ...c, endsOn: roomOf(c, span) }))),
    ...shown.filter((c) => c.startsOn === null).map((c) => [c]),
  ];
  const now = placeOf(today, span);
  return (
    <section aria-label="Time line" className="shrink-0 border-b border-line bg-sheet px-5">
      <div className="relative h-9">
        {monthsOf(span, campaigns).map(({ month, left, width, atOnce }) => (
          <span
            key={month.toISOString()}
            title={atOnce > 1 ? `${atOnce} campaigns run at once` : undefined}
            style={{ left: percent(left), width: percent(width) }}
            className="absolute inset-y-0 flex items-baseline justify-between gap-1 overflow-hidden border-l border-line px-1.5 pt-2 text-xs whitespace-nowrap text-quiet"
          >
            {format(month, span.months > 14 ? 'MMM' : month.getMonth() === 0 ? 'MMM yyyy' : 'MMM')}
          </span>
        ))}
      </div>
      <div className="max-h-44 overflow-y-auto pb-2">
        <div className="@container relative" style={{ height: Math.max(1, lanes.length) * laneHeight }}>
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
              className="absolute -inset-y-1 border-l-2 border-accent"
            />
          )}
          {lanes.flatMap((lane, i) =>
            lane.map((campaign) => {
              const bar = barOf(
                campaigns.find((c) => c.id === campaign.id)!,
                span,
              )!;
              const beside = bar.width < nameWidth(campaign.name);
              return (
                <button
                  key={campaign.id}
                  type="button"
                  title={titleOf(
                    campaigns.find((c) => c.id === campaign.id)!,
                    budgets[campaign.id],
                  )}
                  style={{
                    left: percent(bar.left),
                    top: i * laneHeight + 2,
                    width: beside ? undefined : percent(bar.width),
                  }}
                  className="group absolute flex h-[22px] items-center overflow-visible text-xs whitespace-nowrap"
                  onClick={() => onOpen(campaign.id)}
                >
                  <span
                    style={{ width: beside ? `${bar.width * 100}cqw` : '100%' }}
                    className={`relative flex h-full shrink-0 items-center overflow-hidden rounded border group-hover:brightness-110 ${looks[campaign.state]} ${beside ? '' : 'px-1.5'}`}
                  >
                    {!beside && campaign.name}
                    {budgets[campaign.id] && <Spent budget={budgets[campaign.id]!} />}
                  </span>
                  {beside && <span className="bg-sheet pl-1.5 text-ink group-hover:underline">{campaign.name}</span>}
                </button>
              );
            }),
          )}
        </div>
      </div>
    </section>
  );
}

/** The day up to which a campaign takes room in its lane, with its name beside it where that is. */
function roomOf(campaign: CampaignAnswer, span: Span): string | null {
  const bar = barOf(campaign, span)!;
  const name = nameWidth(campaign.name);
  if (campaign.endsOn === null || bar.width >= name) return campaign.endsOn;
  return format(addDays(parseISO(campaign.endsOn), Math.ceil(span.months * 30.5 * name)), 'yyyy-MM-dd');
}

/** How much of a campaign's budget is spent: a line along its bar, as much of it as of the budget; broken where it is over. */
function Spent({ budget: { share, isOver } }: { budget: Schema['BudgetAnswer'] }) {
  return (
    <span
      aria-hidden
      data-spent={share}
      style={{ width: percent(Math.min(1, share ?? 0)) }}
      className={`absolute bottom-0 left-0 border-b-[3px] border-current opacity-70 ${isOver ? 'border-dashed' : ''}`}
    />
  );
}

function titleOf(campaign: CampaignAnswer, budget: Schema['BudgetAnswer'] | undefined): string {
  const dates = `${campaign.name}: ${datesOf(campaign)}`;
  if (!budget) return dates;
  const foreseen = budget.foreseen ? `, about ${money(budget.foreseen)} by its last day` : '';
  return `${dates}\n${money(budget.spent)} of ${money(budget.budget)} spent${foreseen}`;
}

/** First and last day in words. */
export function datesOf(campaign: { startsOn: string | null; endsOn: string | null }): string {
  if (campaign.startsOn === null) return campaign.endsOn === null ? 'always on' : `until ${dayOf(campaign.endsOn)}`;
  return campaign.endsOn === null
    ? `from ${dayOf(campaign.startsOn)}`
    : `${dayOf(campaign.startsOn)} – ${dayOf(campaign.endsOn)}`;
}

const percent = (fraction: number): string => `${fraction * 100}%`;
