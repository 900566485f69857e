import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { ArrowDown } from 'lucide-react';
import { useState } from 'react';
import { live } from '../../api/live';
import { dayOf } from '../../parts/days';
import { count, duration, rate } from '../../parts/format';
import { Paging } from '../../parts/Paging';
import { usePerson } from '../../parts/person';
import { pageFiguresQuery, type PageOrder } from './queries';
import { isOpen } from './range';
import type { View } from './view';

const heads: [PageOrder | null, string][] = [
  ['seen', 'Seen'],
  ['visits', 'Visits'],
  ['entered', 'Entered'],
  ['left', 'Left'],
  [null, 'Left, of visits'],
  [null, 'Time'],
];
const perPage = 50;

interface PageListProps {
  view: View;
  /** Narrows to visits that began on a page. */
  onEntered: (page: string) => void;
}

/** Pages seen, entered and left, the most first. */
export function PageList({ view, onEntered }: PageListProps) {
  const { today } = usePerson();
  const [order, setOrder] = useState<PageOrder>('seen');
  const [page, setPage] = useState(1);
  const read = useQuery({
    ...pageFiguresQuery(view.range, view.where, view.search, order, page),
    placeholderData: keepPreviousData,
    ...(isOpen(view.range, today) && live),
  });
  if (read.isError) return <p className="flex-1 bg-sheet p-5 text-error">{read.error.message}</p>;
  const pages = read.data ? Math.ceil(read.data.found / perPage) : 1;
  return (
    <div className="min-h-0 flex-1 overflow-auto bg-sheet">
      {read.data?.rawFrom && (
        <p className="border-b border-line px-5 py-2 text-quiet">
          Pages are known from {dayOf(read.data.rawFrom)} on, the first day visits are kept one by one.
        </p>
      )}
      <table aria-label="Pages" className="w-full border-separate border-spacing-0 tabular-nums">
        <thead className="sticky top-0 z-10 bg-sheet text-xs text-quiet">
          <tr className="[&>th]:border-b [&>th]:border-line [&>th]:px-3 [&>th]:py-2 [&>th]:text-right [&>th]:font-medium">
            <th scope="col" className="!pl-5 !text-left">
              Page
            </th>
            {heads.map(([by, says]) => (
              <th key={says} scope="col" aria-sort={by === order ? 'descending' : undefined} className="last:!pr-5">
                {by ? (
                  <button
                    type="button"
                    className={`inline-flex min-h-6 items-center gap-0.5 hover:text-ink ${by === order ? 'text-ink' : ''}`}
                    onClick={() => {
                      setOrder(by);
                      setPage(1);
                    }}
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
          {read.data?.pages.map((p) => (
            <tr
              key={p.page}
              className="h-[34px] whitespace-nowrap [&>td]:border-b [&>td]:border-line [&>td]:px-3 [&>td]:text-right"
            >
              <td className="max-w-96 truncate !pl-5 !text-left">
                <button
                  type="button"
                  className="max-w-full truncate hover:text-accent hover:underline"
                  title="Show the visits that began here"
                  onClick={() => onEntered(p.page)}
                >
                  {p.page}
                </button>
              </td>
              <td>{count(p.seen)}</td>
              <td>{count(p.visits)}</td>
              <td>{count(p.entered)}</td>
              <td>{count(p.left)}</td>
              <td>{rate(p.leftRate)}</td>
              <td className="!pr-5">{duration(p.secondsPerView)}</td>
            </tr>
          ))}
          {read.data?.pages.length === 0 && (
            <tr>
              <td colSpan={7} className="p-8 text-quiet">
                No page was seen in this range{view.where.length > 0 && ' by visits that fulfil the filters'}.
              </td>
            </tr>
          )}
        </tbody>
      </table>
      <div className="flex justify-center p-2 text-xs text-quiet">
        <Paging page={page} pages={pages} onGo={setPage} />
      </div>
    </div>
  );
}
