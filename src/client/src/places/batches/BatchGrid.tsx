import { keepPreviousData, useQueries } from '@tanstack/react-query';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useRef, type KeyboardEvent } from 'react';
import { api, dataOf, type Schema } from '../../api/client';
import { LinkStrip } from '../../parts/LinkStrip';
import { SeverityMark, gravest } from '../../parts/SeverityMark';
import { outcomeNames } from './states';

type Row = Schema['BatchRowAnswer'];

interface BatchGridProps {
  batch: Schema['BatchAnswer'];
  filter: { outcome?: string; rule?: string };
  total: number;
  labels: Record<string, string>;
  selected: number | null;
  /** Changes whenever rows may have changed. */
  version: string;
  onSelect: (row: Row) => void;
}

const rowHeight = 46;
const perPage = 100;

/** The sheet's rows with what comes of each, beside their own columns. */
export function BatchGrid({ batch, filter, total, labels, selected, version, onSelect }: BatchGridProps) {
  const scroller = useRef<HTMLDivElement>(null);
  const rows = useVirtualizer({
    count: total,
    getScrollElement: () => scroller.current,
    estimateSize: () => rowHeight,
    overscan: 20,
  });
  const items = rows.getVirtualItems();
  const first = Math.floor((items[0]?.index ?? 0) / perPage);
  const last = Math.floor((items.at(-1)?.index ?? 0) / perPage);
  const wanted = Array.from({ length: last - first + 1 }, (_, i) => first + i);
  const pages = useQueries({
    queries: wanted.map((page) => ({
      queryKey: ['batch-rows', batch.id, version, filter, page],
      queryFn: async () =>
        dataOf(
          await api.GET('/api/v1/batches/{id}/rows', {
            params: { path: { id: batch.id }, query: { ...filter, skip: page * perPage, most: perPage } },
          }),
        ),
      placeholderData: keepPreviousData,
      staleTime: 60_000,
    })),
  });
  const rowAt = (index: number): Row | undefined =>
    pages[Math.floor(index / perPage) - first]?.data?.rows[index % perPage];

  function move(event: KeyboardEvent, index: number) {
    const step = event.key === 'ArrowDown' ? 1 : event.key === 'ArrowUp' ? -1 : 0;
    if (event.key === 'Enter') {
      const row = rowAt(index);
      if (row) onSelect(row);
    } else if (step !== 0) {
      const next = Math.min(total - 1, Math.max(0, index + step));
      rows.scrollToIndex(next);
      requestAnimationFrame(() => scroller.current?.querySelector<HTMLElement>(`[data-index="${next}"]`)?.focus());
    } else return;
    event.preventDefault();
  }

  const template = `2.75rem 5.5rem minmax(24rem, 2fr) ${batch.columns.map(() => 'minmax(9rem, 1fr)').join(' ')}`;
  const width = 640 + batch.columns.length * 150;
  return (
    <div
      ref={scroller}
      role="grid"
      aria-label="Rows"
      aria-rowcount={total}
      className="min-h-0 flex-1 overflow-auto bg-sheet"
    >
      <div
        role="row"
        className="sticky top-0 z-10 grid h-[34px] items-center gap-x-3 border-b border-line bg-sheet px-5 text-xs text-quiet"
        style={{ gridTemplateColumns: template, minWidth: width }}
      >
        <span role="columnheader" className="text-right">
          Row
        </span>
        <span role="columnheader">Outcome</span>
        <span role="columnheader">Its link</span>
        {batch.columns.map((column) => (
          <span role="columnheader" key={column} className="truncate" title={column}>
            {column}
          </span>
        ))}
      </div>
      <div className="relative" style={{ height: rows.getTotalSize(), minWidth: width }}>
        {items.map((item) => {
          const row = rowAt(item.index);
          const worst = row ? gravest(row.notices) : undefined;
          return (
            <div
              key={item.key}
              role="row"
              data-index={item.index}
              tabIndex={item.index === 0 || row?.number === selected ? 0 : -1}
              aria-selected={row !== undefined && row.number === selected}
              className="absolute inset-x-0 grid cursor-pointer items-center gap-x-3 border-b border-line px-5 hover:bg-accent-wash focus-visible:outline-offset-[-2px] aria-selected:bg-accent-wash"
              style={{ gridTemplateColumns: template, height: rowHeight, transform: `translateY(${item.start}px)` }}
              onClick={() => row && onSelect(row)}
              onKeyDown={(e) => move(e, item.index)}
            >
              <span role="gridcell" className="text-right text-quiet tabular-nums">
                {row?.number ?? ''}
              </span>
              <span role="gridcell" className="flex items-center gap-1.5">
                {row && row.outcome !== 'empty' && (
                  <SeverityMark
                    severity={worst && worst !== 'note' ? worst : row.outcome === 'stopped' ? 'stop' : 'good'}
                  />
                )}
                {row && outcomeNames[row.outcome]}
              </span>
              <span role="gridcell" className="min-w-0 overflow-hidden">
                {row?.strip.length ? (
                  <LinkStrip segments={row.strip} labels={labels} notices={row.notices} />
                ) : (
                  <span className="block truncate text-quiet">{row?.notices[0]?.message ?? ''}</span>
                )}
              </span>
              {batch.columns.map((column, i) => (
                <span role="gridcell" key={column} className="truncate" title={row?.cells[i]}>
                  {row?.cells[i] ?? ''}
                </span>
              ))}
            </div>
          );
        })}
      </div>
    </div>
  );
}
