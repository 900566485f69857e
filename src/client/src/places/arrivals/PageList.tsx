import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { live } from '../../api/live';
import { dayOf } from '../../parts/days';
import { count, duration, rate } from '../../parts/format';
import { usePerson } from '../../parts/person';
import { FigureTable } from './FigureTable';
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
  return (
    <FigureTable
      label="Pages"
      first="Page"
      heads={heads}
      order={order}
      onOrder={(by) => {
        setOrder(by);
        setPage(1);
      }}
      note={
        read.data?.rawFrom &&
        `Pages are known from ${dayOf(read.data.rawFrom)} on, the first day visits are kept one by one.`
      }
      rows={read.data?.pages.map((p) => ({
        key: p.page,
        first: (
          <button
            type="button"
            className="max-w-full truncate hover:text-accent hover:underline"
            title="Show the visits that began here"
            onClick={() => onEntered(p.page)}
          >
            {p.page}
          </button>
        ),
        cells: [
          count(p.seen),
          count(p.visits),
          count(p.entered),
          count(p.left),
          rate(p.leftRate),
          duration(p.secondsPerView),
        ],
      }))}
      none={`No page was seen in this range${view.where.length > 0 ? ' by visits that fulfil the filters' : ''}.`}
      page={page}
      pages={read.data ? Math.ceil(read.data.found / perPage) : 1}
      onPage={setPage}
    />
  );
}
