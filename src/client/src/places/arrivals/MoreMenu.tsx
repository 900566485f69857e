import { Ellipsis } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { useState } from 'react';
import { figureOf, measures } from '../../parts/board/measures';
import type { BoardRow } from '../../parts/board/Board';
import { copyText } from '../../parts/CopyButton';
import { measuresOf, type View } from './view';

interface MoreMenuProps {
  view: View;
  /** The rows as they are shown. */
  rows: BoardRow[];
  onNote: () => void;
  onWatch: () => void;
}

/** The address of the report as a file. */
export function fileOf(kind: 'csv' | 'xlsx', view: View): string {
  const query = new URLSearchParams({ ...view.range, rows: view.rows.join(','), measures: measuresOf(view) });
  for (const condition of view.where) query.append('where', condition);
  if (view.compare) query.set('compare', view.compare);
  if (view.sort) query.set('sort', view.sort);
  if (view.search) query.set('search', view.search);
  return `/api/v1/arrivals.${kind}?${query.toString()}`;
}

/** The rows as lines of cells for a spreadsheet. */
export function cellsOf(view: View, rows: readonly BoardRow[]): string {
  const names = [...view.stations, ...view.columns];
  const cell = (text: string) => text.replace(/[\t\r\n]+/g, ' ');
  return [
    ['', ...names.map((n) => measures[n].label)],
    ...rows
      .filter((row) => row.figures)
      .map((row) => [
        `${'  '.repeat(Math.max(0, row.level - 1))}${row.name}`,
        ...names.map((name) => figureOf(name, row.figures)),
      ]),
  ]
    .map((line) => line.map(cell).join('\t'))
    .join('\n');
}

const itemClass =
  'flex cursor-pointer items-center gap-3 rounded px-2 py-1.5 outline-none data-highlighted:bg-accent-wash';

/** What else can be done with a view: files, the clipboard, a note, the live column. */
export function MoreMenu({ view, rows, onNote, onWatch }: MoreMenuProps) {
  const [copied, setCopied] = useState(false);
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger aria-label="More" className="button h-7 px-2">
        <Ellipsis size={14} strokeWidth={1.5} />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content align="end" sideOffset={4} className="floating z-40 min-w-56 p-1">
          <DropdownMenu.Item asChild className={itemClass}>
            <a href={fileOf('xlsx', view)} download>
              Export as workbook (XLSX)
            </a>
          </DropdownMenu.Item>
          <DropdownMenu.Item asChild className={itemClass}>
            <a href={fileOf('csv', view)} download>
              Export as CSV
            </a>
          </DropdownMenu.Item>
          <DropdownMenu.Item
            className={itemClass}
            onSelect={(e) => {
              e.preventDefault();
              void copyText(cellsOf(view, rows)).then(() => setCopied(true));
              setTimeout(() => setCopied(false), 1_500);
            }}
          >
            {copied ? 'Copied' : 'Copy rows as cells'}
          </DropdownMenu.Item>
          <DropdownMenu.Separator className="my-1 border-t border-line" />
          <DropdownMenu.Item className={itemClass} onSelect={onNote}>
            Notes on a day …
          </DropdownMenu.Item>
          <DropdownMenu.Item className={itemClass} onSelect={onWatch}>
            Watch arrivals live <kbd className="kbd ml-auto">w</kbd>
          </DropdownMenu.Item>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
