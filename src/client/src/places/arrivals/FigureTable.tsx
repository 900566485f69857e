import { ArrowDown } from 'lucide-react';
import { type ReactNode } from 'react';
import { Paging } from '../../parts/Paging';

interface FigureTableProps<Order extends string> {
  label: string;
  /** Head of the first column. */
  first: string;
  /** Heads of the others, each with the order it stands for; null where it is none. */
  heads: readonly (readonly [Order | null, string])[];
  order: Order;
  onOrder: (order: Order) => void;
  /** How wide the first column may be. */
  firstWidth?: string;
  /** What is to be known before the figures; null for nothing. */
  note?: ReactNode;
  rows: { key: string; first: ReactNode; cells: string[]; strong?: boolean }[] | undefined;
  /** What stands in place of rows. */
  none: ReactNode;
  page: number;
  pages: number;
  onPage: (page: number) => void;
}

/** A table of figures, the most first by one of them, a page at a time. */
export function FigureTable<Order extends string>(props: FigureTableProps<Order>) {
  const { label, first, firstWidth = 'max-w-96', heads, order, onOrder, note, rows, none, page, pages, onPage } = props;
  return (
    <div className="min-h-0 flex-1 overflow-auto bg-sheet">
      {note && <p className="border-b border-line px-5 py-2 text-quiet">{note}</p>}
      <table aria-label={label} className="w-full border-separate border-spacing-0 tabular-nums">
        <thead className="sticky top-0 z-10 bg-sheet text-xs text-quiet">
          <tr className="[&>th]:border-b [&>th]:border-line [&>th]:px-3 [&>th]:py-2 [&>th]:text-right [&>th]:font-medium">
            <th scope="col" className="!pl-5 !text-left">
              {first}
            </th>
            {heads.map(([by, says]) => (
              <th key={says} scope="col" aria-sort={by === order ? 'descending' : undefined} className="last:!pr-5">
                {by ? (
                  <button
                    type="button"
                    className={`inline-flex min-h-6 items-center gap-0.5 hover:text-ink ${by === order ? 'text-ink' : ''}`}
                    onClick={() => onOrder(by)}
                  >
                    {says}
                    {by === order && <ArrowDown size={12} strokeWidth={1.5} aria-hidden />}
                  </button>
                ) : (
                  says
                )}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows?.map((row) => (
            <tr
              key={row.key}
              className={`h-[34px] whitespace-nowrap [&>td]:border-b [&>td]:border-line [&>td]:px-3 [&>td]:text-right [&>td]:last:!pr-5 ${row.strong ? 'font-semibold' : ''}`}
            >
              <td className={`${firstWidth} truncate !pl-5 !text-left`}>{row.first}</td>
              {row.cells.map((cell, i) => (
                <td key={heads[i]![1]}>{cell}</td>
              ))}
            </tr>
          ))}
          {rows?.length === 0 && (
            <tr>
              <td colSpan={heads.length + 1} className="p-8 text-quiet">
                {none}
              </td>
            </tr>
          )}
        </tbody>
      </table>
      <div className="flex justify-center p-2 text-xs text-quiet">
        <Paging page={page} pages={pages} onGo={onPage} />
      </div>
    </div>
  );
}
