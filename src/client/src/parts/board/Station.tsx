import type { BoardRow } from './Board';
import { radiusOf } from './dots';
import { difference, figureOf, rateBetween, sizeOf, type MeasureName } from './measures';

interface StationProps {
  name: MeasureName;
  /** The station before it; null for the first. */
  previous: MeasureName | null;
  last: boolean;
  row: BoardRow;
  /** The largest figure of the row's level. */
  most: number | undefined;
  width: number;
  plain: boolean;
  rates: boolean;
}

/** Radius of the dots of the line of everything, which compares with nothing. */
const everything = 4.5;

/** Under this width there is no room for a difference beside the number; the hollow dot still tells it. */
const wideEnough = 100;

/** One figure of a row's line: its dot, the number beneath, and before it the rate from the station before. */
export function Station({ name, previous, last, row, most, width, plain, rates }: StationProps) {
  const { figures, before } = row;
  const says = figureOf(name, figures);
  if (plain)
    return (
      <span
        role="gridcell"
        style={{ width }}
        className="flex shrink-0 items-center justify-end gap-1 text-right tabular-nums whitespace-nowrap"
      >
        {says}
        <Difference name={name} row={row} />
      </span>
    );
  const all = row.level === 0;
  const size = sizeOf(name, figures);
  const radius = all ? (size !== null && size > 0 ? everything : 0) : radiusOf(size, most);
  const earlier = all ? 0 : radiusOf(sizeOf(name, before), most);
  const between = previous && figures && rates ? rateBetween(previous, name, figures) : '';
  return (
    <span role="gridcell" style={{ width }} className="relative block shrink-0 text-center">
      <svg aria-hidden width={width} height={26} className="absolute inset-x-0 top-0 overflow-visible">
        <line
          x1={previous ? 0 : width / 2}
          x2={last ? width / 2 : width}
          y1={13.5}
          y2={13.5}
          className="stroke-line-strong"
          strokeWidth={1}
        />
        {radius > 0 && <circle cx={width / 2} cy={13.5} r={radius} className={all ? 'fill-ink' : 'fill-accent'} />}
        {earlier > 0 && (
          <circle cx={width / 2} cy={13.5} r={earlier} className="fill-none stroke-quiet" strokeWidth={1} />
        )}
      </svg>
      {between && (
        <span className="absolute top-0 left-0 z-[1] -translate-x-1/2 text-2xs leading-3 text-quiet tabular-nums whitespace-nowrap">
          {between}
        </span>
      )}
      <span className="absolute inset-x-0 bottom-[3px] flex items-baseline justify-center gap-1 leading-4 tabular-nums whitespace-nowrap">
        <span className={name === 'visits' ? 'font-medium' : ''}>{says}</span>
        {width >= wideEnough && <Difference name={name} row={row} />}
      </span>
    </span>
  );
}

/** How a figure differs from what the row is compared with. */
export function Difference({ name, row }: { name: MeasureName; row: BoardRow }) {
  if (!row.figures || !row.before) return null;
  const says = difference(name, row.figures, row.before);
  return says === '' ? null : (
    <span className="text-2xs text-quiet" title={`before: ${figureOf(name, row.before)}`}>
      {says}
    </span>
  );
}
