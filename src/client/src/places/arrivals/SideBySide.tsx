import { creditAsked } from './credit';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { differenceInCalendarDays, parseISO } from 'date-fns';
import { useRef, useState } from 'react';
import type { Schema } from '../../api/client';
import {
  difference,
  figureLabel,
  figureOf,
  isNamed,
  isSum,
  sizeOf,
  usualNames,
  type MeasureName,
} from '../../parts/board/measures';
import { useWidth } from '../../parts/board/useWidth';
import { dayOf } from '../../parts/days';
import { count } from '../../parts/format';
import { Select } from '../../parts/Select';
import { labelOf, type OwnDimension } from './dimensions';
import { useReport } from './report';
import { rowName } from './rowName';
import type { View } from './view';

type Campaign = Schema['ComparedAnswer'];

const strokes = ['stroke-accent', 'stroke-ink', 'stroke-source', 'stroke-medium', 'stroke-campaign', 'stroke-content'];
const inks = ['fill-accent', 'fill-ink', 'fill-source', 'fill-medium', 'fill-campaign', 'fill-content'];

interface SideBySideProps {
  view: View;
  own: OwnDimension[];
  /** Figures that are not offered. */
  without?: (name: MeasureName) => boolean;
}

/** Campaigns side by side, each from its own first day, by one figure at a time. */
export function SideBySide({ view, own, without }: SideBySideProps) {
  const report = useReport();
  const [figure, setFigure] = useState<MeasureName>('visits');
  const field = view.rows.find((r) => r !== 'campaign') ?? 'source';
  const read = useQuery({
    ...report({
      range: view.range,
      open: [],
      asked: {
        rows: field,
        where: view.where,
        compare: view.compare,
        sort: `-${figure}`,
        ...creditAsked(view.credit),
        size: view.size,
        ...(view.search && { search: view.search }),
      },
    }),
    placeholderData: keepPreviousData,
  });
  if (read.isError) return <p className="flex-1 bg-sheet p-5 text-error">{read.error.message}</p>;
  if (!read.data) return <div className="flex-1 bg-sheet" />;
  const { campaigns, rows, names } = read.data;
  const first = campaigns[0];
  return (
    <div data-picture className="min-h-0 flex-1 overflow-auto bg-sheet">
      <Courses campaigns={campaigns} />
      <table aria-label="Campaigns side by side" className="w-full border-separate border-spacing-0 tabular-nums">
        <thead className="sticky top-0 z-10 bg-sheet text-xs text-quiet">
          <tr className="[&>th]:border-b [&>th]:border-line [&>th]:px-3 [&>th]:py-2 [&>th]:text-right [&>th]:align-bottom [&>th]:font-medium">
            <th scope="col" className="!pl-5 !text-left">
              {labelOf(field, own)}
              <span className="mt-1 block font-normal">
                <Select
                  label="Figure"
                  value={figure}
                  onChange={setFigure}
                  options={[...usualNames, ...read.data.named.map((n) => n.measure).filter(isNamed)]
                    .filter((name) => !without?.(name))
                    .map((name) => [name, figureLabel(name)] as const)}
                />
              </span>
            </th>
            {campaigns.map((c, i) => (
              <th key={c.value} scope="col">
                <span className="inline-flex items-center gap-1.5 text-ink">
                  <svg width={14} height={4} aria-hidden>
                    <line x1={0} x2={14} y1={2} y2={2} strokeWidth={2} className={strokes[i]} />
                  </svg>
                  {c.name}
                </span>
                <span className="block font-normal">
                  {dayOf(c.from)} to {dayOf(c.to)}
                </span>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          <Line
            name="Everything"
            strong
            figure={figure}
            figures={campaigns.map((c) => c.total)}
            days={campaigns.map(daysOf)}
          />
          {rows.map((row) => (
            <Line
              key={row.keys[0] ?? ''}
              name={rowName(field, row.keys[0] ?? null, names[field])}
              figure={figure}
              figures={[row.figures, ...(row.beside ?? [])]}
              days={campaigns.map(daysOf)}
            />
          ))}
        </tbody>
      </table>
      {first && campaigns.some((c) => daysOf(c) !== daysOf(first)) && (
        <p className="px-5 py-2 text-xs text-quiet">
          They ran for different numbers of days; beneath each sum stands what it comes to for each day.
        </p>
      )}
    </div>
  );
}

const daysOf = (c: Campaign): number => differenceInCalendarDays(parseISO(c.to), parseISO(c.from)) + 1;

interface LineProps {
  name: string;
  strong?: boolean;
  figure: MeasureName;
  figures: readonly Schema['FigureAnswer'][];
  days: readonly number[];
}

function Line({ name, strong = false, figure, figures, days }: LineProps) {
  const uneven = days.some((d) => d !== days[0]) && isSum(figure);
  return (
    <tr className="h-11 [&>td]:border-b [&>td]:border-line [&>td]:px-3 [&>td]:text-right">
      <td className={`!pl-5 !text-left ${strong ? 'font-semibold' : ''}`}>{name}</td>
      {figures.map((f, i) => (
        <td key={i} className="leading-4">
          {figureOf(figure, f)}
          <span className="block text-2xs text-quiet">
            {uneven
              ? `${((sizeOf(figure, f) ?? 0) / days[i]!).toLocaleString('en-IE', { maximumFractionDigits: 1 })} a day`
              : i > 0 && difference(figure, f, figures[0])}
          </span>
        </td>
      ))}
    </tr>
  );
}

/** Visits of each campaign by day, all beginning at the same edge. */
function Courses({ campaigns }: { campaigns: readonly Campaign[] }) {
  const box = useRef<HTMLDivElement>(null);
  const width = useWidth(box) || 1_100;
  const height = 120;
  const longest = Math.max(1, ...campaigns.map(daysOf));
  const most = Math.max(1, ...campaigns.flatMap((c) => c.series.map((p) => p.visits)));
  const x = (day: number) => (longest < 2 ? 0 : (day / (longest - 1)) * (width - 8) + 4);
  const y = (visits: number) => height - 18 - (visits / most) * (height - 34);
  return (
    <figure className="border-b border-line bg-page px-5 pt-2">
      <div ref={box}>
        <svg
          width={width}
          height={height}
          role="img"
          aria-label="Visits by day, counted from the first day of each campaign"
        >
          <line x1={0} x2={width} y1={y(0)} y2={y(0)} className="stroke-line-strong" />
          {campaigns.map((c, i) => {
            const visits = new Map(
              c.series.map((p) => [differenceInCalendarDays(parseISO(p.day), parseISO(c.from)), p.visits]),
            );
            const course = Array.from({ length: daysOf(c) }, (_, day) => visits.get(day) ?? 0);
            const top = course.indexOf(Math.max(...course));
            return (
              <g key={c.value}>
                <polyline
                  points={course.map((n, day) => `${x(day)},${y(n)}`).join(' ')}
                  className={`fill-none ${strokes[i]}`}
                  strokeWidth={1.5}
                />
                <text
                  x={Math.min(width - 4, x(top) + 4)}
                  y={Math.max(10, y(course[top]!) - 4)}
                  textAnchor={x(top) > width * 0.8 ? 'end' : 'start'}
                  className={`stroke-page text-[10px] font-medium [paint-order:stroke] ${inks[i]}`}
                  strokeWidth={3}
                >
                  {`${c.name}: ${count(course[top]!)} on day ${top + 1}`}
                </text>
              </g>
            );
          })}
          <text x={0} y={height - 5} className="fill-quiet text-[10px]">
            day 1
          </text>
          <text x={width} y={height - 5} textAnchor="end" className="fill-quiet text-[10px]">
            day {longest}
          </text>
        </svg>
      </div>
    </figure>
  );
}
