import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { format } from 'date-fns';
import { Link } from 'react-router';
import type { Schema } from '../../api/client';
import { live } from '../../api/live';
import { dayOf } from '../../parts/days';
import { count, exact, rate } from '../../parts/format';
import { usePerson } from '../../parts/person';
import { SeverityMark } from '../../parts/SeverityMark';
import { labelOf, type OwnDimension } from './dimensions';
import { postingsQuery } from './queries';
import { isOpen } from './range';
import { rowName } from './rowName';
import type { View } from './view';

type Answer = Schema['PostingsAnswer'];
type Group = Schema['PostingGroup'];

const spans = [
  ['hour', 1, 'First hour'],
  ['day', 24, 'First day'],
  ['week', 168, 'First week'],
] as const;

const oneDigit = new Intl.NumberFormat('en-IE', { maximumFractionDigits: 1 });

/** Share texts that were posted: what came in the first hour, day and week, and when posting brings most. */
export function PostingList({ view, own }: { view: View; own: OwnDimension[] }) {
  const { today } = usePerson();
  const read = useQuery({
    ...postingsQuery(view.range, view.where),
    placeholderData: keepPreviousData,
    ...(isOpen(view.range, today) && live),
  });
  if (read.isError) return <p className="flex-1 bg-sheet p-5 text-error">{read.error.message}</p>;
  if (!read.data) return <div className="flex-1 bg-sheet" />;
  const { postings, placements, weekdays, hours, ignored, rawFrom, more } = read.data;
  return (
    <div className="min-h-0 flex-1 overflow-auto bg-sheet">
      {ignored.length > 0 && (
        <p className="flex items-center gap-2 border-b border-line px-5 py-2">
          <SeverityMark severity="info" /> Postings are filtered by campaign and placement only; not by{' '}
          {ignored.map((field) => labelOf(field, own)).join(', ')}.
        </p>
      )}
      {more && (
        <p className="flex items-center gap-2 border-b border-line px-5 py-2">
          <SeverityMark severity="info" /> These are the {count(postings.length)} newest postings of the range; choose
          fewer days to see older ones.
        </p>
      )}
      {rawFrom && (
        <p className="border-b border-line px-5 py-2 text-quiet">
          Visits are kept one by one from {dayOf(rawFrom)} on; postings before that show too little.
        </p>
      )}
      {postings.length === 0 ? (
        <div className="p-8">
          <h2 className="mb-2 font-semibold">No postings in this range</h2>
          <p className="max-w-lg text-quiet">
            Mark a share text as placed in Compose, under Texts; from then on its visits are counted here by the hour,
            the day and the week after.
          </p>
        </div>
      ) : (
        <>
          <div className="flex flex-wrap gap-x-10 gap-y-5 border-b border-line px-5 py-4">
            <Times title="By weekday" groups={weekdays} dimension="weekday" best={read.data.bestWeekday} />
            <Times title="By hour of posting" groups={hours} dimension="hour" best={read.data.bestHour} />
            <p className="max-w-md self-end text-quiet">{verdict(read.data)}</p>
          </div>
          <div className="flex max-xl:flex-col">
            <table aria-label="Postings" className="min-w-0 flex-1 border-separate border-spacing-0 tabular-nums">
              <Heads first="Posted" second="Placement" />
              <tbody>
                {postings.map((p) => (
                  <tr key={p.linkId} className={row}>
                    <td className="!pl-5 !text-left whitespace-nowrap" title={exact(p.at)}>
                      {format(new Date(p.at), 'EEE d MMM, HH:mm')}
                    </td>
                    <td className="max-w-72 truncate !text-left">
                      <Link
                        className="hover:text-accent hover:underline"
                        to={`/ledger?open=${p.linkId}`}
                        title={p.title}
                      >
                        {p.placement ?? p.title}
                      </Link>
                      {p.campaign && <span className="caption ml-2">{p.campaign}</span>}
                    </td>
                    {spans.map(([span, length]) => (
                      <td key={span} title={p.hours < length ? 'This span still lasts.' : undefined}>
                        <span className={p.hours < length ? 'text-quiet' : ''}>
                          {count(p.visits[span])}
                          {p.hours < length && '…'}
                        </span>
                        <span className="caption ml-1.5 inline-block min-w-6">
                          {p.conversions[span] > 0 && `${count(p.conversions[span])} conv.`}
                        </span>
                      </td>
                    ))}
                  </tr>
                ))}
              </tbody>
            </table>
            <table
              aria-label="Postings by placement"
              className="w-96 shrink-0 self-start border-separate border-spacing-0 border-l border-line tabular-nums max-xl:w-full"
            >
              <thead className="sticky top-0 bg-sheet text-xs text-quiet">
                <tr className={head}>
                  <th scope="col" className="!text-left">
                    Placement
                  </th>
                  <th scope="col">Postings</th>
                  <th scope="col">Visits each, first day</th>
                </tr>
              </thead>
              <tbody>
                {placements.map((g) => (
                  <tr key={g.name} className={row}>
                    <td className="max-w-48 truncate !text-left">{g.name ?? 'No placement'}</td>
                    <td>{count(g.postings)}</td>
                    <td>{g.visitsEach === null ? '–' : oneDigit.format(g.visitsEach)}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        </>
      )}
    </div>
  );
}

const head = '[&>th]:border-b [&>th]:border-line [&>th]:px-3 [&>th]:py-2 [&>th]:text-right [&>th]:font-medium';
const row = 'h-[34px] [&>td]:border-b [&>td]:border-line [&>td]:px-3 [&>td]:text-right';

const Heads = ({ first, second }: { first: string; second: string }) => (
  <thead className="sticky top-0 bg-sheet text-xs text-quiet">
    <tr className={head}>
      <th scope="col" className="!pl-5 !text-left">
        {first}
      </th>
      <th scope="col" className="!text-left">
        {second}
      </th>
      {spans.map(([span, , says]) => (
        <th key={span} scope="col">
          {says}
        </th>
      ))}
    </tr>
  </thead>
);

interface TimesProps {
  title: string;
  groups: Group[];
  dimension: 'weekday' | 'hour';
  best: Answer['bestHour'];
}

/** Visits of each posting on its first day, by when it was posted, as bars from zero; the best one marked where chance allows it. */
function Times({ title, groups, dimension, best }: TimesProps) {
  const most = Math.max(1e-9, ...groups.map((g) => g.visitsEach ?? 0));
  const [step, height] = [dimension === 'hour' ? 14 : 34, 56];
  const name = (g: Group) => rowName(dimension, g.name);
  return (
    <figure data-picture>
      <figcaption className="mb-1 text-xs font-medium text-quiet">{title}: visits each, first day</figcaption>
      <svg
        width={groups.length * step}
        height={height + 14}
        role="img"
        aria-label={`${title}; the table says the same`}
      >
        <line x1={0} x2={groups.length * step} y1={height} y2={height} className="stroke-line-strong" />
        {groups.map((g, i) => {
          const tall = ((g.visitsEach ?? 0) / most) * (height - 12);
          const isBest = best !== null && String(best.group) === g.name;
          return (
            <g key={g.name}>
              <rect
                x={i * step + 2}
                width={step - 4}
                y={height - tall}
                height={tall}
                className={isBest ? 'fill-accent' : 'fill-line-strong'}
              >
                <title>{`${name(g)}: ${g.postings} ${g.postings === 1 ? 'posting' : 'postings'}, ${g.visitsEach === null ? 'no' : oneDigit.format(g.visitsEach)} visits each`}</title>
              </rect>
              {(dimension === 'weekday' || i % 6 === 0) && (
                <text
                  x={i * step + (dimension === 'weekday' ? step / 2 : 0)}
                  y={height + 11}
                  textAnchor={dimension === 'weekday' ? 'middle' : 'start'}
                  className="fill-quiet text-[10px]"
                >
                  {dimension === 'weekday' ? name(g).slice(0, 2) : name(g)}
                </text>
              )}
            </g>
          );
        })}
      </svg>
      <div className="sr-only">
        <table>
          <caption>{title}</caption>
          <tbody>
            {groups.map((g) => (
              <tr key={g.name}>
                <th scope="row">{name(g)}</th>
                <td>{count(g.postings)} postings</td>
                <td>{g.visitsEach === null ? 'no visits' : `${oneDigit.format(g.visitsEach)} visits each`}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </figure>
  );
}

/** When posting brings most, as far as chance allows saying so. */
function verdict({ bestWeekday, bestHour }: Answer): string {
  const told = [
    bestWeekday && { ...bestWeekday, says: `on ${rowName('weekday', String(bestWeekday.group))}s` },
    bestHour && {
      ...bestHour,
      says: `from ${rowName('hour', String(bestHour.group))} to ${rowName('hour', String((bestHour.group + 1) % 24))}`,
    },
  ].filter((b) => b !== null);
  return told.length === 0
    ? 'No weekday and no hour brings clearly more visits than the others; the differences here can be chance.'
    : told
        .map(
          (b) =>
            `Postings ${b.says} bring ${rate(b.lift)} more visits on their first day than their placements do on average (${count(b.postings)} postings; chance alone shows as much in ${rate(b.chance)} of cases).`,
        )
        .join(' ');
}
