import { useVirtualizer } from '@tanstack/react-virtual';
import { ArrowDown, ArrowUp } from 'lucide-react';
import { useEffect, useLayoutEffect, useMemo, useRef, useState, type KeyboardEvent, type ReactNode } from 'react';
import { BoardLine, type LineDoes } from './BoardLine';
import { scalesOf } from './dots';
import { figureLabel, type Figures, type MeasureName } from './measures';
import { useWidth } from './useWidth';

/** What is wrong, and where something is done about it. */
export interface Warning {
  says: string;
  /** A place of the application. */
  to: string;
  /** What is done there, beginning with its verb. */
  does: string;
}

/** A line of a board. */
export interface BoardRow {
  /** Its own among the board's rows. */
  id: string;
  /** 0 for the line of everything, 1 for the rows below it, and so on. */
  level: number;
  name: string;
  /** What stands beneath its name, such as a written value. */
  note?: string;
  /** What is wrong with it, and where something is done about it. */
  warning?: Warning;
  /** Stands for what has no value, or for the rows not shown. */
  quiet?: boolean;
  figures: Figures | null;
  before?: Figures | null;
  /** Whether it is open; undefined where it has no rows below. */
  open?: boolean;
  /** What stands under the board's extra heads, in their order. */
  extras?: string[];
  /** What can be done with it, beside its name. */
  action?: ReactNode;
  /** A row that only says something, such as that the ones below are on their way. */
  says?: ReactNode;
}

interface BoardProps {
  label: string;
  /** Head of the first column. */
  head: string;
  rows: BoardRow[];
  stations: readonly MeasureName[];
  columns: readonly MeasureName[];
  /** Heads of columns that are no figures of visits; rows say what stands there. */
  extras?: readonly string[];
  /** Figures as plain numbers, without dots and rates. */
  plain?: boolean;
  /** A measure, with `-` in front for the largest first; null where rows have no order of their own. */
  sort?: string | null;
  onSort?: (sort: string) => void;
  picked?: string | null;
  onPick?: (row: BoardRow) => void;
  onToggle?: (row: BoardRow, open: boolean) => void;
  /** Further keys on a row. */
  onKey?: (key: string, row: BoardRow) => boolean;
}

const none: readonly string[] = [];

/** Under this width, in CSS pixels, rates and columns go. */
const withoutRates = 700;

/**
 * Rows drawn as lines of stations: a dot whose area compares the rows of one level, the number beneath it, and between two stations
 * how many of the first reached the second. A tree grid to those who hear it; only what can be seen is drawn.
 */
export function Board({
  label,
  head,
  rows,
  stations: asked,
  columns: others,
  extras: otherHeads = none,
  plain = false,
  sort = null,
  onSort,
  picked = null,
  onPick,
  onToggle,
  onKey,
}: BoardProps) {
  const scroller = useRef<HTMLDivElement>(null);
  const width = useWidth(scroller);
  // Where not all stations have room, two stay.
  const small = width > 0 && width < 160 + asked.length * 88;
  const stations = small ? [asked.includes('visits') ? 'visits' : asked[0]!, asked.at(-1)!].filter(isFirst) : asked;
  const rates = !(width > 0 && width < withoutRates);
  const widths = {
    station: small ? 84 : width > 0 && width < 980 ? 88 : 108,
    column: width > 0 && width < 980 ? 84 : 100,
  };
  // What does not fit beside the stations is left out from the right, so that nothing is cut; narrow, all of it is.
  const fit =
    width === 0
      ? others.length + otherHeads.length
      : width < withoutRates
        ? 0
        : Math.max(0, Math.floor((width - 200 - stations.length * widths.station) / widths.column));
  const extras = otherHeads.slice(0, fit);
  const columns = others.slice(0, fit - extras.length);
  const minWidth =
    (small ? 120 : 160) + stations.length * widths.station + (columns.length + extras.length) * widths.column;
  const edge = small ? 'px-3' : 'px-5';
  const named = small ? 'min-w-24' : 'min-w-40';
  const height = plain ? 34 : 44;
  // Scrolling draws anew what comes into sight, and nothing that depends on all rows.
  const scales = useMemo(() => scalesOf(rows, stations), [rows, stations]);
  const [focused, setFocused] = useState<string | null>(null);
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => height,
    getItemKey: (i) => rows[i]!.id,
    overscan: 12,
    initialRect: { width: 1_000, height: 900 },
  });
  const remeasure = virtual.measure;
  useEffect(() => remeasure(), [height, remeasure]);

  function focus(at: number) {
    const row = rows[at];
    if (!row) return;
    virtual.scrollToIndex(at);
    setFocused(row.id);
    requestAnimationFrame(() =>
      [...(scroller.current?.querySelectorAll<HTMLElement>('[data-row]') ?? [])]
        .find((element) => element.dataset.row === row.id)
        ?.focus({ preventScroll: true }),
    );
  }

  function onRowKey(event: KeyboardEvent<HTMLElement>, at: number) {
    const row = rows[at]!;
    if (event.target !== event.currentTarget || event.ctrlKey || event.metaKey || event.altKey) return;
    if (event.key === 'ArrowRight' && row.open === false) onToggle?.(row, true);
    else if (event.key === 'ArrowRight' && row.open) focus(at + 1);
    else if (event.key === 'ArrowLeft' && row.open) onToggle?.(row, false);
    else if (event.key === 'ArrowLeft') focus(rows.findLastIndex((r, i) => i < at && r.level < row.level));
    else if (event.key === 'ArrowDown') focus(at + 1);
    else if (event.key === 'ArrowUp') focus(at - 1);
    else if (event.key === 'Home') focus(0);
    else if (event.key === 'End') focus(rows.length - 1);
    else if (event.key === 'Enter') onPick?.(row);
    else if (!onKey?.(event.key, row)) return;
    event.preventDefault();
  }

  // Lines keep what they do, so that a line whose row stays the same is not drawn anew.
  const latest = useRef({ rows, onRowKey, onPick, onToggle });
  useLayoutEffect(() => {
    latest.current = { rows, onRowKey, onPick, onToggle };
  });
  const does = useMemo(
    (): LineDoes => ({
      focus: (at) => setFocused(latest.current.rows[at]?.id ?? null),
      key: (event, at) => latest.current.onRowKey(event, at),
      pick: (at) => latest.current.onPick?.(latest.current.rows[at]!),
      toggle: (at, open) => latest.current.onToggle?.(latest.current.rows[at]!, open),
    }),
    [],
  );

  const reachable = useMemo(() => (rows.some((r) => r.id === focused) ? focused : rows[0]?.id), [rows, focused]);
  return (
    <div ref={scroller} className="min-h-0 flex-1 overflow-auto bg-sheet" data-board data-picture>
      <div role="treegrid" aria-label={label} aria-rowcount={rows.length + 1} style={{ minWidth }}>
        <div role="rowgroup" className="sticky top-0 z-10 border-b border-line bg-sheet text-xs text-quiet">
          <div role="row" aria-rowindex={1} className={`flex h-8 items-center ${edge}`}>
            <span role="columnheader" className={`${named} flex-1 truncate`}>
              {head}
            </span>
            {[...stations, ...columns].map((name, i) => (
              <Heading
                key={name}
                name={name}
                width={i < stations.length ? widths.station : widths.column}
                centred={i < stations.length && !plain}
                sort={sort}
                onSort={onSort}
              />
            ))}
            {extras.map((head) => (
              <span key={head} role="columnheader" style={{ width: widths.column }} className="shrink-0 text-right">
                {head}
              </span>
            ))}
          </div>
        </div>
        <div role="rowgroup" className="relative" style={{ height: virtual.getTotalSize() }}>
          {virtual.getVirtualItems().map((item) => {
            const row = rows[item.index]!;
            return (
              <BoardLine
                key={row.id}
                row={row}
                at={item.index}
                top={item.start}
                height={height}
                edge={edge}
                named={named}
                stations={stations}
                columns={columns}
                extras={extras}
                scale={scales.get(row.level)}
                stationWidth={widths.station}
                columnWidth={widths.column}
                plain={plain}
                rates={rates}
                reachable={row.id === reachable}
                picked={onPick ? picked === row.id : undefined}
                does={does}
              />
            );
          })}
        </div>
      </div>
    </div>
  );
}

const isFirst = <T,>(name: T, i: number, all: T[]): boolean => all.indexOf(name) === i;

interface HeadingProps {
  name: MeasureName;
  width: number;
  centred: boolean;
  sort: string | null;
  onSort?: (sort: string) => void;
}

/** Head of a figure's column; orders the rows by it, the largest first and then the smallest. */
function Heading({ name, width, centred, sort, onSort }: HeadingProps) {
  const order = sort === `-${name}` ? 'descending' : sort === name ? 'ascending' : undefined;
  const label = figureLabel(name);
  return (
    <span
      role="columnheader"
      aria-sort={order}
      style={{ width }}
      className={`flex shrink-0 ${centred ? 'justify-center' : 'justify-end text-right'}`}
    >
      {onSort ? (
        <button
          type="button"
          className={`inline-flex min-h-6 items-center gap-0.5 hover:text-ink ${order ? 'font-medium text-ink' : ''}`}
          onClick={() => onSort(sort === `-${name}` ? name : `-${name}`)}
        >
          {label}
          {order === 'descending' && <ArrowDown size={12} strokeWidth={1.5} aria-hidden />}
          {order === 'ascending' && <ArrowUp size={12} strokeWidth={1.5} aria-hidden />}
        </button>
      ) : (
        label
      )}
    </span>
  );
}
