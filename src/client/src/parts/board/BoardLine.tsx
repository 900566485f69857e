import { ChevronRight } from 'lucide-react';
import { memo, type KeyboardEvent } from 'react';
import { Link } from 'react-router';
import { SeverityMark } from '../SeverityMark';
import type { BoardRow } from './Board';
import { figureOf, type MeasureName } from './measures';
import { Difference, Station } from './Station';

/** What is done with a line, by its place among the rows. */
export interface LineDoes {
  focus: (at: number) => void;
  key: (event: KeyboardEvent<HTMLElement>, at: number) => void;
  pick: (at: number) => void;
  toggle: (at: number, open: boolean) => void;
}

interface BoardLineProps {
  row: BoardRow;
  /** Its place among the rows, from 0. */
  at: number;
  /** Where it begins, in CSS pixels from the first row. */
  top: number;
  height: number;
  /** Classes for the room at both ends, and for its name. */
  edge: string;
  named: string;
  stations: readonly MeasureName[];
  columns: readonly MeasureName[];
  extras: readonly string[];
  /** The largest figures of its level. */
  scale: Partial<Record<MeasureName, number>> | undefined;
  stationWidth: number;
  columnWidth: number;
  plain: boolean;
  rates: boolean;
  /** The tab key leads to it. */
  reachable: boolean;
  /** Undefined where rows can't be picked. */
  picked: boolean | undefined;
  does: LineDoes;
}

const indents = ['', '', 'w-5', 'w-10', 'w-15', 'w-20'];
const cell = 'flex shrink-0 flex-col justify-center text-right tabular-nums whitespace-nowrap';

function Line({
  row,
  at,
  top,
  height,
  edge,
  named,
  stations,
  columns,
  extras,
  scale,
  stationWidth,
  columnWidth,
  plain,
  rates,
  reachable,
  picked,
  does,
}: BoardLineProps) {
  const says = row.says !== undefined;
  return (
    <div
      role="row"
      data-row={row.id}
      aria-rowindex={at + 2}
      aria-level={row.level + 1}
      aria-expanded={row.open}
      aria-selected={picked}
      tabIndex={reachable ? 0 : -1}
      onFocus={() => does.focus(at)}
      onKeyDown={(e) => does.key(e, at)}
      onClick={() => !says && does.pick(at)}
      style={{ height, transform: `translateY(${top}px)` }}
      className={`absolute inset-x-0 flex items-stretch border-b [contain:layout_style] border-line ${edge} -outline-offset-2 ${
        picked !== undefined && !says ? 'cursor-pointer hover:bg-accent-wash' : ''
      } aria-selected:bg-accent-wash`}
    >
      <span role="rowheader" className={`flex ${named} flex-1 items-center gap-1 pr-3`}>
        {indents[row.level] && <span aria-hidden className={`shrink-0 ${indents[row.level]}`} />}
        {row.open !== undefined ? (
          <button
            type="button"
            tabIndex={-1}
            aria-label={row.open ? 'Close the row' : 'Open the row'}
            className="-mx-[3px] flex size-6 shrink-0 items-center justify-center rounded text-quiet hover:text-ink"
            onClick={(e) => {
              e.stopPropagation();
              does.toggle(at, !row.open);
            }}
          >
            <ChevronRight size={14} strokeWidth={1.5} className={row.open ? 'rotate-90' : ''} />
          </button>
        ) : (
          row.level > 0 && <span className="w-[18px] shrink-0" />
        )}
        <span className="flex min-w-0 flex-col leading-4">
          <span
            title={row.name}
            className={`truncate ${row.quiet ? 'text-quiet' : row.level === 0 ? 'font-semibold' : row.level === 1 ? 'font-medium' : ''}`}
          >
            {row.name}
          </span>
          {row.note && !plain && <span className="caption truncate font-mono text-2xs">{row.note}</span>}
        </span>
        {row.warning && (
          <Link
            to={row.warning.to}
            tabIndex={-1}
            title={`${row.warning.says} ${row.warning.does}`}
            className="-m-1 flex size-6 shrink-0 items-center justify-center rounded"
            onClick={(e) => e.stopPropagation()}
          >
            <SeverityMark severity="warning" />
            <span className="sr-only">{`${row.warning.says} ${row.warning.does}`}</span>
          </Link>
        )}
        {row.action}
      </span>
      {says ? (
        <span role="gridcell" className="flex items-center text-quiet">
          {row.says}
        </span>
      ) : (
        <>
          {stations.map((name, i) => (
            <Station
              key={name}
              name={name}
              previous={i > 0 ? stations[i - 1]! : null}
              last={i === stations.length - 1}
              row={row}
              most={scale?.[name]}
              width={stationWidth}
              plain={plain}
              rates={rates}
            />
          ))}
          {columns.map((name) => (
            <span key={name} role="gridcell" style={{ width: columnWidth }} className={cell}>
              {figureOf(name, row.figures)}
              <Difference name={name} row={row} />
            </span>
          ))}
          {extras.map((head, i) => (
            <span key={head} role="gridcell" style={{ width: columnWidth }} className={cell}>
              {row.extras?.[i]}
            </span>
          ))}
        </>
      )}
    </div>
  );
}

/** True where two values say the same: one level deep, since rows and lists are made anew each time. */
function isAlike(one: unknown, other: unknown): boolean {
  if (Object.is(one, other)) return true;
  if (typeof one !== 'object' || typeof other !== 'object' || one === null || other === null) return false;
  const [a, b] = [one as Record<string, unknown>, other as Record<string, unknown>];
  const keys = Object.keys(a);
  return keys.length === Object.keys(b).length && keys.every((key) => Object.is(a[key], b[key]));
}

/** One line of a board; drawn anew only when something it shows changes. */
export const BoardLine = memo(Line, (before, after) =>
  (Object.keys(after) as (keyof BoardLineProps)[]).every((name) => isAlike(before[name], after[name])),
);
