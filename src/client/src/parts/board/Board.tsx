import { useVirtualizer } from '@tanstack/react-virtual';
import { ArrowDown, ArrowUp, ChevronRight } from 'lucide-react';
import { useEffect, useRef, useState, type KeyboardEvent, type ReactNode } from 'react';
import { SeverityMark } from '../SeverityMark';
import { scalesOf } from './dots';
import { figureOf, measures, type Figures, type MeasureName } from './measures';
import { Difference, Station } from './Station';
import { useWidth } from './useWidth';

/** A line of a board. */
export interface BoardRow {
  /** Its own among the board's rows. */
  id: string;
  /** 0 for the line of everything, 1 for the rows below it, and so on. */
  level: number;
  name: string;
  /** What stands beneath its name, such as a written value. */
  note?: string;
  /** A sentence about it that is a warning. */
  warning?: string;
  /** Stands for what has no value, or for the rows not shown. */
  quiet?: boolean;
  figures: Figures | null;
  before?: Figures | null;
  /** Whether it is open; undefined where it has no rows below. */
  open?: boolean;
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

const indents = ['', '', 'w-5', 'w-10', 'w-15', 'w-20'];
const cell = 'flex shrink-0 flex-col justify-center text-right tabular-nums whitespace-nowrap';

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
  const small = width > 0 && width < 120 + asked.length * 88;
  const stations = small ? [asked.includes('visits') ? 'visits' : asked[0]!, asked.at(-1)!].filter(isFirst) : asked;
  const columns = width > 0 && width < withoutRates ? [] : others;
  const rates = !(width > 0 && width < withoutRates);
  const widths = {
    station: small ? 84 : width > 0 && width < 980 ? 88 : 108,
    column: width > 0 && width < 980 ? 84 : 100,
  };
  const minWidth = (small ? 120 : 200) + stations.length * widths.station + columns.length * widths.column;
  const edge = small ? 'px-3' : 'px-5';
  const named = small ? 'min-w-24' : 'min-w-40';
  const height = plain ? 34 : 44;
  const scales = scalesOf(rows, stations);
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

  const reachable = rows.some((r) => r.id === focused) ? focused : rows[0]?.id;
  return (
    <div ref={scroller} className="min-h-0 flex-1 overflow-auto bg-sheet" data-board>
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
          </div>
        </div>
        <div role="rowgroup" className="relative" style={{ height: virtual.getTotalSize() }}>
          {virtual.getVirtualItems().map((item) => {
            const row = rows[item.index]!;
            const says = row.says !== undefined;
            return (
              <div
                key={row.id}
                role="row"
                data-row={row.id}
                aria-rowindex={item.index + 2}
                aria-level={row.level + 1}
                aria-expanded={row.open}
                aria-selected={onPick ? picked === row.id : undefined}
                tabIndex={row.id === reachable ? 0 : -1}
                onFocus={() => setFocused(row.id)}
                onKeyDown={(e) => onRowKey(e, item.index)}
                onClick={() => !says && onPick?.(row)}
                style={{ height, transform: `translateY(${item.start}px)` }}
                className={`absolute inset-x-0 flex items-stretch border-b border-line ${edge} -outline-offset-2 ${
                  onPick && !says ? 'cursor-pointer hover:bg-accent-wash' : ''
                } aria-selected:bg-accent-wash`}
              >
                <span role="rowheader" className={`flex ${named} flex-1 items-center gap-1 pr-3`}>
                  <span aria-hidden className={`shrink-0 ${indents[row.level]}`} />
                  {row.open !== undefined ? (
                    <button
                      type="button"
                      tabIndex={-1}
                      aria-label={row.open ? 'Close the row' : 'Open the row'}
                      className="-mx-[3px] flex size-6 shrink-0 items-center justify-center rounded text-quiet hover:text-ink"
                      onClick={(e) => {
                        e.stopPropagation();
                        onToggle?.(row, !row.open);
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
                    <span title={row.warning} className="shrink-0">
                      <SeverityMark severity="warning" />
                      <span className="sr-only">{row.warning}</span>
                    </span>
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
                        most={scales.get(row.level)?.[name]}
                        width={widths.station}
                        plain={plain}
                        rates={rates}
                      />
                    ))}
                    {columns.map((name) => (
                      <span key={name} role="gridcell" style={{ width: widths.column }} className={cell}>
                        {figureOf(name, row.figures)}
                        <Difference name={name} row={row} />
                      </span>
                    ))}
                  </>
                )}
              </div>
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
  const label = measures[name].label;
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
