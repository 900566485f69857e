import { useVirtualizer } from '@tanstack/react-virtual';
import { X } from 'lucide-react';
import { useRef, type KeyboardEvent } from 'react';
import type { ComposeAnswer, SavedLink } from '../../api/client';
import { LinkStrip } from '../../parts/LinkStrip';
import { SeverityMark, gravest } from '../../parts/SeverityMark';
import type { Cell } from './composition';

interface ComposeGridProps {
  cells: Cell[];
  answers: Map<string, ComposeAnswer>;
  saved: Map<string, SavedLink>;
  placementName: (id: string) => string;
  /** Key of the field that tells variants apart. */
  contentKey: string;
  selected: string | null;
  ticked: Set<string>;
  onSelect: (key: string) => void;
  onTick: (keys: string[], on: boolean) => void;
  onRemove: (keys: string[]) => void;
}

const rowHeight = 50;

/** The links worked out, one row each. Space ticks, Delete takes out. */
export function ComposeGrid(props: ComposeGridProps) {
  const { cells, answers, saved, placementName, contentKey, selected, ticked, onSelect, onTick, onRemove } = props;
  const scroller = useRef<HTMLDivElement>(null);
  const rows = useVirtualizer({
    count: cells.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => rowHeight,
    overscan: 12,
  });

  function move(event: KeyboardEvent, index: number) {
    const step = event.key === 'ArrowDown' ? 1 : event.key === 'ArrowUp' ? -1 : 0;
    const { key } = cells[index]!;
    if (event.key === 'Enter' && !event.ctrlKey && !event.metaKey) {
      event.preventDefault();
      onSelect(key);
    } else if (event.key === ' ') {
      event.preventDefault();
      onTick([key], !ticked.has(key));
    } else if (event.key.toLowerCase() === 'a' && (event.ctrlKey || event.metaKey)) {
      event.preventDefault();
      onTick(
        cells.map((c) => c.key),
        true,
      );
    } else if (event.key === 'Delete') {
      event.preventDefault();
      onRemove(ticked.size ? [...ticked] : [key]);
    } else if (step !== 0) {
      event.preventDefault();
      const next = Math.min(cells.length - 1, Math.max(0, index + step));
      rows.scrollToIndex(next);
      requestAnimationFrame(() => scroller.current?.querySelector<HTMLElement>(`[data-index="${next}"]`)?.focus());
    }
  }

  const nameOf = (cell: Cell) => (cell.read ? 'Read back' : placementName(cell.placement) || 'No placement');

  return (
    <div
      ref={scroller}
      role="grid"
      aria-label="Links"
      aria-rowcount={cells.length}
      className="min-h-0 flex-1 overflow-auto bg-sheet"
    >
      <div style={{ height: rows.getTotalSize() }} className="relative min-w-[720px]">
        {rows.getVirtualItems().map((item) => {
          const cell = cells[item.index]!;
          const answer = answers.get(cell.key);
          const done = saved.get(cell.key);
          const worst = answer ? gravest(answer.notices) : undefined;
          const mark = worst && worst !== 'info' ? worst : answer?.ready ? 'good' : worst;
          return (
            <div
              key={cell.key}
              role="row"
              data-index={item.index}
              tabIndex={item.index === 0 || selected === cell.key ? 0 : -1}
              aria-selected={selected === cell.key}
              onKeyDown={(e) => e.target === e.currentTarget && move(e, item.index)}
              onClick={() => onSelect(cell.key)}
              style={{ height: rowHeight, transform: `translateY(${item.start}px)` }}
              className="group absolute inset-x-0 flex items-center gap-3 border-b border-line px-5 aria-selected:bg-accent-wash focus-visible:outline-offset-[-2px]"
            >
              <span role="gridcell" className="-ml-1 flex items-center gap-2">
                <input
                  type="checkbox"
                  tabIndex={-1}
                  aria-label={`Choose ${nameOf(cell)}`}
                  checked={ticked.has(cell.key)}
                  onClick={(e) => e.stopPropagation()}
                  onChange={(e) => onTick([cell.key], e.target.checked)}
                />
                {mark && <SeverityMark severity={mark} />}
              </span>
              <span role="gridcell" className="w-44 shrink-0">
                <span className="block truncate">{nameOf(cell)}</span>
                <span className="caption block truncate">
                  {[cell.variant ?? answer?.fields.find((f) => f.key === contentKey)?.value, cell.keyword]
                    .filter(Boolean)
                    .join(' · ')}
                </span>
              </span>
              <span role="gridcell" className="min-w-0 flex-1">
                {answer?.strip.length ? (
                  <LinkStrip
                    segments={answer.strip}
                    fields={answer.fields}
                    notices={answer.notices}
                    onPick={() => onSelect(cell.key)}
                  />
                ) : (
                  <span className="text-quiet">{answer ? (answer.notices[0]?.message ?? '') : 'Calculating …'}</span>
                )}
              </span>
              <span role="gridcell" className="shrink-0 text-right">
                {done ? (
                  <span className="font-mono text-xs text-good">
                    {done.waiting ? 'waits for approval' : done.shortUrl?.replace(/^https?:\/\//, '')}
                  </span>
                ) : (
                  <button
                    type="button"
                    tabIndex={-1}
                    aria-label={`Remove ${nameOf(cell)}`}
                    className="invisible rounded p-1 text-quiet group-hover:visible hover:text-ink"
                    onClick={(e) => {
                      e.stopPropagation();
                      onRemove([cell.key]);
                    }}
                  >
                    <X size={14} strokeWidth={1.5} />
                  </button>
                )}
              </span>
            </div>
          );
        })}
      </div>
    </div>
  );
}
