import { Ellipsis } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { useState } from 'react';
import { figureOf, figureLabel } from '../../parts/board/measures';
import type { BoardRow } from '../../parts/board/Board';
import { copyText } from '../../parts/CopyButton';
import { dayOf } from '../../parts/days';
import { menuItem, PictureItems } from '../../parts/picture/PictureItems';
import { within } from '../../parts/ruler/rulerScale';
import { creditAsked } from './credit';
import { measuresOf, type View } from './view';

interface MoreMenuProps {
  view: View;
  /** What the view is called; empty where it has no name. */
  title: string;
  /** The rows as they are shown. */
  rows: BoardRow[];
  onNote: () => void;
  onWatch: () => void;
  onShare: () => void;
}

/** The address of the report as a file. */
export function fileOf(kind: 'csv' | 'xlsx' | 'pdf', view: View, title = ''): string {
  const query = new URLSearchParams({ ...view.range, rows: view.rows.join(','), measures: measuresOf(view) });
  for (const condition of view.where) query.append('where', condition);
  if (view.compare) query.set('compare', view.compare);
  if (view.sort) query.set('sort', view.sort);
  if (view.search) query.set('search', view.search);
  for (const [name, value] of Object.entries(creditAsked(view.credit))) query.set(name, String(value));
  if (kind === 'pdf') {
    query.set('stations', view.stations.slice(0, 6).join(','));
    query.set('columns', view.columns.slice(0, 3).join(','));
    query.set('series', within(view.range).unit);
    if (title) query.set('title', title);
  }
  return `/api/v1/arrivals.${kind}?${query.toString()}`;
}

/** The rows as lines of cells for a spreadsheet. */
export function cellsOf(view: View, rows: readonly BoardRow[]): string {
  const names = [...view.stations, ...view.columns];
  const cell = (text: string) => text.replace(/[\t\r\n]+/g, ' ');
  return [
    ['', ...names.map((n) => figureLabel(n))],
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

/** What else can be done with a view: files, the clipboard, a note, the live column. */
export function MoreMenu({ view, title, rows, onNote, onWatch, onShare }: MoreMenuProps) {
  const [copied, setCopied] = useState(false);
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger aria-label="More" className="button h-7 px-2">
        <Ellipsis size={14} strokeWidth={1.5} />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content align="end" sideOffset={4} className="floating z-40 min-w-56 p-1">
          <DropdownMenu.Item asChild className={menuItem}>
            <a href={fileOf('xlsx', view)} download>
              Export as workbook (XLSX)
            </a>
          </DropdownMenu.Item>
          <DropdownMenu.Item asChild className={menuItem}>
            <a href={fileOf('csv', view)} download>
              Export as CSV
            </a>
          </DropdownMenu.Item>
          <DropdownMenu.Item asChild className={menuItem}>
            <a href={fileOf('pdf', view, title)} download>
              Export as PDF to print
            </a>
          </DropdownMenu.Item>
          <DropdownMenu.Item
            className={menuItem}
            onSelect={(e) => {
              e.preventDefault();
              void copyText(cellsOf(view, rows)).then(() => setCopied(true));
              setTimeout(() => setCopied(false), 1_500);
            }}
          >
            {copied ? 'Copied' : 'Copy rows as cells'}
          </DropdownMenu.Item>
          {['board', 'postings', 'map', 'products'].includes(view.part) && (
            <PictureItems title={`Arrivals, ${dayOf(view.range.from)} to ${dayOf(view.range.to)}`} />
          )}
          <DropdownMenu.Separator className="my-1 border-t border-line" />
          <DropdownMenu.Item className={menuItem} onSelect={onShare}>
            Share this view …
          </DropdownMenu.Item>
          <DropdownMenu.Item className={menuItem} onSelect={onNote}>
            Notes on a day …
          </DropdownMenu.Item>
          <DropdownMenu.Item className={menuItem} onSelect={onWatch}>
            Watch arrivals live <kbd className="kbd ml-auto">w</kbd>
          </DropdownMenu.Item>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
