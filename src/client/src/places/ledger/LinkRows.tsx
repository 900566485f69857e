import type { KeyboardEvent } from 'react';
import type { LedgerRow } from '../../api/client';
import { useFields } from '../../api/known';
import { LinkStrip } from '../../parts/LinkStrip';
import { nextOrder, type Column } from './columns';

interface LinkRowsProps {
  links: LedgerRow[];
  columns: readonly Column[];
  /** A column’s order; with “-” in front it begins with the largest. */
  order: string;
  onOrder: (order: string) => void;
  /** Id of the link that is looked at. */
  selected: string | null;
  /** Tab reaches the first row, as none is looked at. */
  isFirstInReach: boolean;
  onSelect: (id: string) => void;
  chosen: ReadonlySet<string>;
  onChoose: (ids: string[], on: boolean) => void;
}

/** A page of links, one a row. */
export function LinkRows({
  links,
  columns,
  order,
  onOrder,
  selected,
  isFirstInReach,
  onSelect,
  chosen,
  onChoose,
}: LinkRowsProps) {
  const fields = useFields();
  const labels = Object.fromEntries((fields.data ?? []).map((f) => [f.key, f.label]));

  function move(event: KeyboardEvent<HTMLTableRowElement>, id: string) {
    const to =
      event.key === 'ArrowDown'
        ? event.currentTarget.nextElementSibling
        : event.key === 'ArrowUp'
          ? event.currentTarget.previousElementSibling
          : null;
    if (event.target !== event.currentTarget) return;
    if (event.key === 'Enter') onSelect(id);
    else if (to) (to as HTMLElement).focus();
    else return;
    event.preventDefault();
  }

  return (
    <table className="w-full border-separate border-spacing-0 tabular-nums">
      <thead className="sticky top-0 z-10 bg-sheet text-left text-xs text-quiet">
        <tr className="[&>th]:border-b [&>th]:border-line [&>th]:px-2 [&>th]:py-2 [&>th]:font-medium">
          <th scope="col" className="w-8 !pr-0 !pl-5">
            <input
              type="checkbox"
              aria-label="Choose all on this page"
              checked={links.every((l) => chosen.has(l.id))}
              onChange={(e) =>
                onChoose(
                  links.map((l) => l.id),
                  e.target.checked,
                )
              }
            />
          </th>
          <th scope="col">
            <button
              type="button"
              className="hover:text-ink"
              onClick={() => onOrder(order === 'title' ? '-title' : 'title')}
            >
              Link{order === 'title' ? ' ↓' : order === '-title' ? ' ↑' : ''}
            </button>
          </th>
          {columns.map((column) => (
            <th
              key={column.key}
              scope="col"
              title={column.more}
              aria-sort={
                column.order && order.endsWith(column.order)
                  ? order.startsWith('-')
                    ? 'descending'
                    : 'ascending'
                  : undefined
              }
              className={`whitespace-nowrap last:!pr-5 ${column.right ? 'text-right' : ''}`}
            >
              {column.order ? (
                <button
                  type="button"
                  className="hover:text-ink"
                  onClick={() => onOrder(nextOrder(order, column.order!))}
                >
                  {column.title}
                  {order === `-${column.order}` ? ' ↓' : order === column.order ? ' ↑' : ''}
                </button>
              ) : (
                column.title
              )}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {links.map((link, i) => (
          <tr
            key={link.id}
            tabIndex={selected === link.id || (isFirstInReach && i === 0) ? 0 : -1}
            aria-selected={selected === link.id}
            onClick={() => onSelect(link.id)}
            onKeyDown={(e) => move(e, link.id)}
            className="h-[34px] cursor-pointer hover:bg-accent-wash aria-selected:bg-accent-wash [&>td]:border-b [&>td]:border-line [&>td]:px-2 [&>td]:py-1.5"
          >
            <td className="!pr-0 !pl-5" onClick={(e) => e.stopPropagation()}>
              <input
                type="checkbox"
                aria-label={`Choose ${link.title ?? link.url}`}
                checked={chosen.has(link.id)}
                onChange={(e) => onChoose([link.id], e.target.checked)}
              />
            </td>
            <td className="w-full max-w-0 min-w-64">
              <span className="block truncate font-medium">{link.title}</span>
              <LinkStrip segments={link.strip} labels={labels} />
            </td>
            {columns.map((column) => (
              <td
                key={column.key}
                title={column.hover?.(link)}
                className={`max-w-56 truncate whitespace-nowrap last:!pr-5 ${column.right ? 'text-right' : ''} ${column.mono ? 'font-mono text-xs' : ''} ${column.key === 'state' && link.state === 'waiting' ? 'text-warning' : ''}`}
              >
                {column.cell(link)}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
