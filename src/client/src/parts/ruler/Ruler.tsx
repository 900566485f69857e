import { format, parseISO } from 'date-fns';
import { useMemo, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { useWidth } from '../board/useWidth';
import { dayOf } from '../days';
import { count } from '../format';
import {
  daysBetween,
  edgesOf,
  moved,
  placeOf,
  plus,
  stretched,
  ticksOf,
  unitsOf,
  type Days,
  type Extent,
} from './rulerScale';
import { lanesOf, type Lasting } from './lanes';

/** Something that ran for a while. */
export interface RulerBar extends Lasting {
  id: string;
  name: string;
}

/** Something that happened on a day. */
export interface RulerNote {
  day: string;
  text: string;
}

/** A row drawn over the bars, by the first days of units. */
export interface RulerLine {
  name: string;
  points: ReadonlyMap<string, number>;
}

interface RulerProps {
  extent: Extent;
  /** What the bars count, such as “visits”. */
  counts: string;
  points: ReadonlyMap<string, number>;
  range: Days;
  compared?: Days | null;
  bars?: RulerBar[];
  notes?: RulerNote[];
  lines?: RulerLine[];
  today: string;
  tall?: boolean;
  onRange?: (range: Days) => void;
  onNote?: (day: string) => void;
}

const laneHeight = 11;
const mostLanes = 3;
const names: Record<Extent['unit'], string> = {
  hour: 'd MMM yyyy HH:mm',
  day: 'd MMM yyyy',
  week: "'week of' d MMM yyyy",
  month: 'MMMM yyyy',
};

/**
 * The days as a low band of thin bars, today marked, with what ran beneath them. The range is dragged over it, moved with the arrow
 * keys and stretched with Shift; what it is compared with is hatched.
 */
export function Ruler({
  extent,
  counts,
  points,
  range,
  compared = null,
  bars = [],
  notes = [],
  lines = [],
  today,
  tall = false,
  onRange,
  onNote,
}: RulerProps) {
  const box = useRef<HTMLDivElement>(null);
  const width = useWidth(box) || 1_150;
  const units = useMemo(() => unitsOf(extent), [extent]);
  const [drag, setDrag] = useState<{ anchor: string; to: string } | null>(null);
  const shown = drag ? daysBetween(extent.unit, drag.anchor, drag.to, today) : range;
  const height = tall ? 150 : 44;
  const most = Math.max(1, ...points.values(), ...lines.flatMap((l) => [...l.points.values()]));
  const step = width / units.length;
  const edges = edgesOf(shown, extent, units);
  const comparedEdges = compared && edgesOf(compared, extent, units);
  // A bar takes the room of its name, which stands behind it, or before it where the ruler ends.
  const lanes = lanesOf(bars.flatMap((bar) => placedBar(bar, extent, units, step) ?? [])).slice(0, mostLanes);
  const below = height + 3 + lanes.length * laneHeight;
  const now = placeOf(today, extent, units);

  function unitAt(event: PointerEvent): string {
    const left = box.current!.getBoundingClientRect().left;
    const at = Math.floor(((event.clientX - left) / width) * units.length);
    return units[Math.min(units.length - 1, Math.max(0, at))]!;
  }

  function onKey(event: KeyboardEvent) {
    const by = event.key === 'ArrowRight' ? 1 : event.key === 'ArrowLeft' ? -1 : 0;
    if (by === 0 || !onRange) return;
    event.preventDefault();
    onRange((event.shiftKey ? stretched : moved)(range, extent.unit, by, today));
  }

  return (
    <div data-picture className="relative border-b border-line bg-page px-5 pt-2 pb-1 max-sm:px-3">
      <div ref={box} className="relative touch-none select-none" style={{ height: below + 15 }}>
        <svg
          width={width}
          height={below + 15}
          role="img"
          aria-label={`${counts} by ${extent.unit}, ${dayOf(extent.from)} to ${dayOf(extent.to)}`}
          className="absolute inset-0 overflow-visible"
          onPointerDown={(e) => {
            if (!onRange || e.button !== 0) return;
            e.currentTarget.setPointerCapture(e.pointerId);
            setDrag({ anchor: unitAt(e), to: unitAt(e) });
          }}
          onPointerMove={(e) => drag && setDrag({ ...drag, to: unitAt(e) })}
          onPointerUp={() => {
            if (drag) onRange!(daysBetween(extent.unit, drag.anchor, drag.to, today));
            setDrag(null);
          }}
          onPointerCancel={() => setDrag(null)}
          onDoubleClick={(e) => {
            const at = Math.floor(((e.clientX - box.current!.getBoundingClientRect().left) / width) * units.length);
            onNote?.((units[at] ?? today).slice(0, 10));
          }}
        >
          <defs>
            <pattern id="compared" width={5} height={5} patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
              <line x1={0} y1={0} x2={0} y2={5} className="stroke-line-strong" strokeWidth={1.5} />
            </pattern>
          </defs>
          <rect x={0} y={0} width={width} height={below + 15} fill="transparent" />
          {comparedEdges && (
            <rect
              x={comparedEdges.left * width}
              y={0}
              width={(comparedEdges.right - comparedEdges.left) * width}
              height={height}
              fill="url(#compared)"
            >
              <title>{`compared with ${dayOf(compared.from)} to ${dayOf(compared.to)}`}</title>
            </rect>
          )}
          {units.map((unit, i) => {
            const n = points.get(unit) ?? 0;
            const tallness = (n / most) * (height - 4);
            const inside = unit.slice(0, 10) <= shown.to && plus(extent.unit, unit, 1) > shown.from;
            return (
              <rect
                key={unit}
                x={i * step + step * 0.12}
                y={height - tallness}
                width={Math.max(1, step * 0.76)}
                height={tallness}
                className={
                  lines.length > 0
                    ? inside
                      ? 'fill-accent opacity-20'
                      : 'fill-line'
                    : inside
                      ? 'fill-accent'
                      : 'fill-line-strong'
                }
              >
                <title>{`${format(parseISO(unit), names[extent.unit])}: ${count(n)} ${counts.toLowerCase()}`}</title>
              </rect>
            );
          })}
          <line x1={0} x2={width} y1={height + 0.5} y2={height + 0.5} className="stroke-line-strong" />
          {lineLabels(lines, units, height, most).map(({ line, y, place }) => (
            <Line
              key={line.name}
              line={line}
              place={place}
              units={units}
              step={step}
              height={height}
              most={most}
              labelAt={y}
            />
          ))}
          {lanes.flatMap((lane, l) =>
            lane.map(({ bar, left, right, says }) => {
              const y = height + 4 + l * laneHeight;
              return (
                <g key={bar.id}>
                  <rect
                    x={left * width}
                    y={y}
                    width={Math.max(2, (right - left) * width)}
                    height={4}
                    rx={2}
                    className={bar.endsOn !== null && bar.endsOn < today ? 'fill-line-strong' : 'fill-campaign'}
                  >
                    <title>{bar.name}</title>
                  </rect>
                  <text
                    x={says === 'before' ? left * width - 4 : says === 'behind' ? right * width + 4 : left * width + 6}
                    y={y + 6}
                    textAnchor={says === 'before' ? 'end' : 'start'}
                    strokeWidth={says === 'on' ? 6 : 0}
                    className="fill-quiet stroke-page text-[9px] [paint-order:stroke]"
                  >
                    {bar.name}
                  </text>
                </g>
              );
            }),
          )}
          {ticksOf(extent, units).map((tick) => {
            const x = placeOf(tick.day, extent, units) * width;
            return x > width - 56 || Math.abs(x - now * width) < 72 ? null : (
              <text key={tick.day} x={x} y={below + 11} className="fill-quiet text-[10px]">
                {tick.says}
              </text>
            );
          })}
          {now >= 0 && now < 1 && (
            <text
              x={(now + 0.5 / units.length) * width}
              y={below + 11}
              textAnchor="end"
              className="fill-ink text-[10px]"
            >
              today
            </text>
          )}
        </svg>
        {edges && onRange && (
          <div
            role="slider"
            tabIndex={0}
            aria-label="Range; arrow keys move it, with Shift they stretch it"
            aria-valuemin={0}
            aria-valuemax={units.length - 1}
            aria-valuenow={Math.round(edges.right * units.length) - 1}
            aria-valuetext={`${dayOf(shown.from)} to ${dayOf(shown.to)}`}
            onKeyDown={onKey}
            style={{
              left: edges.left * width - 1,
              width: Math.max(3, (edges.right - edges.left) * width + 2),
              height: below + 1,
            }}
            className="pointer-events-none absolute top-0 border border-accent"
          />
        )}
        {notes.map((note) => {
          const at = placeOf(note.day, extent, units);
          return at < 0 || at >= 1 ? null : (
            <button
              key={note.day + note.text}
              type="button"
              title={`${dayOf(note.day)}: ${note.text}`}
              aria-label={`Note on ${dayOf(note.day)}: ${note.text}`}
              style={{ left: (at + 0.5 / units.length) * width - 12, top: height - 12 }}
              className="group absolute flex size-6 items-center justify-center"
              onClick={() => onNote?.(note.day)}
            >
              <span aria-hidden className="size-2.5 rotate-45 border border-info bg-sheet group-hover:bg-info" />
            </button>
          );
        })}
      </div>
      {/* A table does not shrink to nothing by itself; what is around it does. */}
      <div className="sr-only">
        <table>
          <caption>{`${counts} by ${extent.unit}`}</caption>
          <tbody>
            {units.map((unit) => (
              <tr key={unit}>
                <th scope="row">{format(parseISO(unit), names[extent.unit])}</th>
                <td>{count(points.get(unit) ?? 0)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </div>
  );
}

/** Width of a name's letters, in CSS pixels. */
const nameWidth = (name: string): number => name.length * 5 + 12;

/** Where a bar stands, and the stretch it takes with its name; null where it lies outside. */
function placedBar(bar: RulerBar, extent: Extent, units: readonly string[], step: number) {
  const at = edgesOf({ from: bar.startsOn, to: bar.endsOn }, extent, units);
  if (!at) return null;
  const name = nameWidth(bar.name) / step / units.length;
  // Its name stands behind it, before it where the ruler ends, and on it where it has no room at either side.
  const says = at.right + name <= 1 ? 'behind' : at.left - name >= 0 ? 'before' : 'on';
  const dayAt = (place: number) => units[Math.min(units.length - 1, Math.max(0, Math.floor(place * units.length)))]!;
  return {
    bar,
    ...at,
    says,
    startsOn: dayAt(says === 'before' ? at.left - name : at.left),
    endsOn: dayAt(says === 'behind' ? at.right + name : at.right),
  };
}

interface LineProps {
  line: RulerLine;
  place: number;
  units: readonly string[];
  step: number;
  height: number;
  most: number;
  /** Where its name stands, from the top. */
  labelAt: number;
}

const hues = ['stroke-ink', 'stroke-source', 'stroke-medium', 'stroke-campaign', 'stroke-content', 'stroke-own'];
const inks = ['fill-ink', 'fill-source', 'fill-medium', 'fill-campaign', 'fill-content', 'fill-own'];

/** Height of a name, in CSS pixels. */
const nameHeight = 11;

const yOf = (n: number, height: number, most: number): number => height - (n / most) * (height - 4);

/** Lines with the heights of their names at the right end, so that none covers another. */
function lineLabels(lines: RulerLine[], units: readonly string[], height: number, most: number) {
  const last = units.slice(-7);
  const ordered = lines
    .map((line, place) => {
      const mean = last.reduce((sum, u) => sum + (line.points.get(u) ?? 0), 0) / last.length;
      return { line, place, y: yOf(mean, height, most) - 3 };
    })
    .sort((a, b) => b.y - a.y);
  // From the lowest up, each at least a name's height above the one before.
  let free = height - 1;
  for (const label of ordered) {
    label.y = Math.min(label.y, free);
    free = label.y - nameHeight;
  }
  return ordered;
}

/** One row as a thin line, with its name at the right end. */
function Line({ line, place, units, step, height, most, labelAt }: LineProps) {
  return (
    <g className="pointer-events-none">
      <polyline
        points={units.map((u, i) => `${(i + 0.5) * step},${yOf(line.points.get(u) ?? 0, height, most)}`).join(' ')}
        className={`fill-none ${hues[place % hues.length]}`}
        strokeWidth={1.25}
      />
      <text
        x={units.length * step - 3}
        y={labelAt}
        textAnchor="end"
        className={`stroke-page text-[10px] font-medium [paint-order:stroke] ${inks[place % inks.length]}`}
        strokeWidth={3}
      >
        {line.name}
      </text>
    </g>
  );
}
