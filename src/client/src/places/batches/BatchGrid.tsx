import { useVirtualizer } from '@tanstack/react-virtual';
import { useRef, useState, type ClipboardEvent, type KeyboardEvent, type PointerEvent } from 'react';
import type { Schema } from '../../api/client';
import { LinkStrip } from '../../parts/LinkStrip';
import { SeverityMark, gravest } from '../../parts/SeverityMark';
import { cellsOf, repeated, span, textOf } from './blocks';
import type { Target } from './recipe';
import { outcomeNames } from './states';
import { useRows, type Row, type RowView } from './useRows';
import { TargetCell } from './TargetCell';
import { GridHead } from './GridHead';
import { cellOf, type Place } from './cells';
import { useBlockWriting, type TypedRow } from './useBlockWriting';

interface BatchGridProps {
  batch: Schema['BatchAnswer'];
  view: RowView;
  total: number;
  labels: Record<string, string>;
  /** What is asked for each row and can be typed for it alone, in the order of its columns. */
  targets: Target[];
  /** Words that are known for a target, by its key. */
  known: Record<string, string[]>;
  selected: number | null;
  mayType: boolean;
  /** Changes whenever rows may have changed. */
  version: string;
  onOpen: (row: Row) => void;
  onSort: (column: number) => void;
  onType: (rows: TypedRow[], says: string) => void;
  onStep: (back: boolean) => void;
  onSay: (message: string) => void;
}

const rowHeight = 46;
const headHeight = 34;

/** The sheet's rows with what comes of each: values that can be typed for a row alone, then the sheet's own cells. */
export function BatchGrid(props: BatchGridProps) {
  const { batch, view, total, labels, targets, known, selected, mayType, version, onOpen, onSort, onSay } = props;
  const scroller = useRef<HTMLDivElement>(null);
  const [active, setActive] = useState<Place>({ row: 0, column: -1 });
  const [corner, setCorner] = useState<Place | null>(null);
  const [editing, setEditing] = useState<string | null>(null);
  const [fillTo, setFillTo] = useState<number | null>(null);
  const virtual = useVirtualizer({
    count: total,
    getScrollElement: () => scroller.current,
    estimateSize: () => rowHeight,
    overscan: 20,
  });
  const items = virtual.getVirtualItems();
  const rows = useRows(batch.id, view, version, items[0]?.index ?? 0, items.at(-1)?.index ?? 0);

  const other = corner ?? active;
  const [top, bottom] = span(active.row, other.row);
  const [left, right] = active.column < 0 ? [-1, -1] : span(active.column, other.column);
  const isChosen = (row: number, column: number) => row >= top && row <= bottom && column >= left && column <= right;
  const columns = targets.slice(Math.max(0, left), right + 1);

  function focus(place: Place) {
    virtual.scrollToIndex(place.row);
    requestAnimationFrame(() => {
      // Whoever was quicker than the frame types already: their cell keeps the focus, or it would be left half written.
      if (scroller.current?.querySelector('input:focus:not([type=checkbox])')) return;
      scroller.current?.querySelector<HTMLElement>(`[data-place="${place.row} ${place.column}"]`)?.focus();
    });
  }

  function go(place: Place, extend = false) {
    const row = Math.min(total - 1, Math.max(0, place.row));
    const column = Math.min(targets.length - 1, Math.max(extend ? 0 : -1, place.column));
    if (extend && active.column >= 0) setCorner({ row, column });
    else {
      setCorner(null);
      setActive({ row, column });
    }
    focus({ row, column });
  }

  const { write, fill, fillDown } = useBlockWriting({ rows, total, top, bottom, columns, onType: props.onType, onSay });

  function keyDown(event: KeyboardEvent) {
    if (editing !== null) return;
    const { key, shiftKey } = event;
    const command = event.ctrlKey || event.metaKey;
    const from = shiftKey && active.column >= 0 ? other : active;
    const move = (down: number, across: number) =>
      go({ row: from.row + down, column: from.column + across }, shiftKey && active.column >= 0);
    const inCell = active.column >= 0;
    const say = (error: Error) => onSay(error.message);
    if (command && key.toLowerCase() === 'z' && mayType) props.onStep(!shiftKey);
    else if (command && key.toLowerCase() === 'y' && mayType) props.onStep(false);
    else if (command && key.toLowerCase() === 'd' && inCell && mayType) void fillDown().catch(say);
    else if (command && key === 'Home') go({ row: 0, column: active.column }, shiftKey);
    else if (command && key === 'End') go({ row: total - 1, column: active.column }, shiftKey);
    else if (command || event.altKey) return;
    else if (key === 'ArrowDown') move(1, 0);
    else if (key === 'ArrowUp') move(-1, 0);
    else if (key === 'PageDown') move(15, 0);
    else if (key === 'PageUp') move(-15, 0);
    else if (key === 'ArrowRight') move(0, 1);
    else if (key === 'ArrowLeft') move(0, -1);
    else if (key === 'Enter') {
      const row = rows.at(active.row);
      if (row) onOpen(row);
    } else if (key === 'Escape' && corner) setCorner(null);
    else if (!inCell || !mayType) return;
    else if (key === 'F2') setEditing(textAt(active));
    else if (key === 'Delete' || key === 'Backspace')
      void write(
        top,
        Array.from({ length: bottom - top + 1 }, () => columns.map(() => null)),
        columns,
        'clearing typed values',
      ).catch(say);
    else if (key.length === 1) setEditing(key);
    else return;
    event.preventDefault();
  }

  const textAt = (place: Place) => {
    const row = rows.at(place.row);
    return row ? cellOf(row, targets[place.column]!.key).text : '';
  };

  function copy(event: ClipboardEvent) {
    if (editing !== null || active.column < 0) return;
    const lines: string[][] = [];
    for (let row = top; row <= bottom; row++) {
      const found = rows.at(row);
      if (!found) {
        onSay('Some of the selected rows are not loaded; select fewer to copy them.');
        return;
      }
      lines.push(columns.map((t) => cellOf(found, t.key).text));
    }
    event.clipboardData.setData('text/plain', textOf(lines));
    event.preventDefault();
  }

  function paste(event: ClipboardEvent) {
    if (editing !== null || active.column < 0 || !mayType) return;
    event.preventDefault();
    const cells = cellsOf(event.clipboardData.getData('text/plain'));
    if (cells.length === 0) return;
    // One line goes into every chosen row; a block goes where it begins.
    const lines = cells.length === 1 && bottom > top ? repeated(cells, bottom - top + 1) : cells;
    void write(top, lines, targets.slice(left), `pasting into ${lines.length.toLocaleString('en')} rows`).catch(
      (error: Error) => onSay(error.message),
    );
  }

  /** Drags the corner of what is chosen down; the rows passed over are filled when it is let go. */
  function drag(event: PointerEvent) {
    event.preventDefault();
    event.stopPropagation();
    const box = scroller.current!;
    let reached = bottom;
    const move = (e: globalThis.PointerEvent) => {
      const frame = box.getBoundingClientRect();
      if (e.clientY > frame.bottom - 30) box.scrollTop += rowHeight;
      else if (e.clientY < frame.top + headHeight + 30) box.scrollTop -= rowHeight;
      const at = Math.floor((e.clientY - frame.top - headHeight + box.scrollTop) / rowHeight);
      reached = Math.min(total - 1, Math.max(bottom, at));
      setFillTo(reached);
    };
    const end = () => {
      window.removeEventListener('pointermove', move);
      window.removeEventListener('pointerup', end);
      setFillTo(null);
      void fill(reached).catch((error: Error) => onSay(error.message));
    };
    window.addEventListener('pointermove', move);
    window.addEventListener('pointerup', end);
  }

  const template = `2.75rem 5.5rem minmax(20rem, 2fr) ${targets.map(() => 'minmax(9rem, 1fr)').join(' ')} ${batch.columns.map(() => 'minmax(9rem, 1fr)').join(' ')}`;
  const width = 580 + (targets.length + batch.columns.length) * 156;
  return (
    <div
      ref={scroller}
      role="grid"
      aria-label="Rows"
      aria-rowcount={total}
      aria-multiselectable
      className="min-h-0 flex-1 overflow-auto bg-sheet"
      onKeyDown={keyDown}
      onCopy={copy}
      onPaste={paste}
    >
      <GridHead
        columns={batch.columns}
        targets={targets}
        view={view}
        style={{ gridTemplateColumns: template, minWidth: width }}
        onSort={onSort}
      />
      <div className="relative" style={{ height: virtual.getTotalSize(), minWidth: width }}>
        {items.map((item) => {
          const row = rows.at(item.index);
          const worst = row ? gravest(row.notices) : undefined;
          const whole = { row: item.index, column: -1 };
          return (
            <div
              key={item.key}
              role="row"
              data-place={`${item.index} -1`}
              tabIndex={active.row === item.index && active.column < 0 ? 0 : -1}
              aria-selected={row !== undefined && row.number === selected}
              className="absolute inset-x-0 grid cursor-pointer items-center gap-x-3 border-b border-line px-5 hover:bg-accent-wash focus-visible:outline-offset-[-2px] aria-selected:bg-accent-wash"
              style={{ gridTemplateColumns: template, height: rowHeight, transform: `translateY(${item.start}px)` }}
              onClick={() => {
                if (!row) return;
                setActive(whole);
                setCorner(null);
                onOpen(row);
              }}
            >
              <span role="gridcell" className="text-right text-quiet tabular-nums">
                {row?.number ?? ''}
              </span>
              <span role="gridcell" className="flex items-center gap-1.5">
                {row && row.outcome !== 'empty' && (
                  <SeverityMark
                    severity={worst && worst !== 'info' ? worst : row.outcome === 'stopped' ? 'error' : 'good'}
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
              {targets.map((target, column) => {
                const place = { row: item.index, column };
                const isActive = active.row === place.row && active.column === column;
                const cell = row ? cellOf(row, target.key) : undefined;
                return (
                  <TargetCell
                    key={target.key}
                    target={target}
                    place={place}
                    rowNumber={row?.number}
                    cell={cell}
                    isActive={isActive}
                    isChosen={isChosen(place.row, column)}
                    isFilling={
                      fillTo !== null && place.row > bottom && place.row <= fillTo && column >= left && column <= right
                    }
                    hasHandle={
                      mayType &&
                      editing === null &&
                      column === right &&
                      item.index === bottom &&
                      isChosen(item.index, column)
                    }
                    editing={isActive ? editing : null}
                    known={known[target.key] ?? []}
                    // An inspector that is open follows.
                    onClick={(shift) => row && selected !== null && !shift && onOpen(row)}
                    onPress={(shift) => go(place, shift)}
                    onPass={() => fillTo === null && active.column >= 0 && setCorner(place)}
                    onEdit={() => mayType && setEditing(cell?.text ?? '')}
                    onTyped={(text, down, across) => {
                      setEditing(null);
                      if (row && text !== cell!.text)
                        props.onType(
                          [{ number: row.number, values: { [target.key]: text || null } }],
                          `typing in row ${row.number}`,
                        );
                      if (down !== 0 || across !== 0) go({ row: place.row + down, column: column + across });
                    }}
                    onCancel={() => {
                      setEditing(null);
                      focus(place);
                    }}
                    onDrag={drag}
                    onFillToEnd={() => void fill(total - 1).catch((error: Error) => onSay(error.message))}
                  />
                );
              })}
              {batch.columns.map((column, i) => (
                <span role="gridcell" key={column} className="truncate text-quiet" title={row?.cells[i]}>
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
