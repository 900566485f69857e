import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { live } from '../../api/live';
import { dayOf } from '../../parts/days';
import { count, rate } from '../../parts/format';
import { usePerson } from '../../parts/person';
import { FigureTable } from './FigureTable';
import { spotsQuery, type SpotOrder } from './queries';
import { isOpen } from './range';
import type { View } from './view';

const heads: [SpotOrder | null, string][] = [
  ['seen', 'Seen'],
  [null, 'in visits'],
  ['clicked', 'Clicked'],
  ['rate', 'Of visits that saw it'],
  [null, 'Conversions after it was seen'],
  ['conversions', 'after a click'],
];
const perPage = 50;

/** Banners and links of one's own pages: seen, clicked, and conversions later in the same visit. */
export function SpotList({ view }: { view: View }) {
  const { today } = usePerson();
  const [order, setOrder] = useState<SpotOrder>('seen');
  const [page, setPage] = useState(1);
  const read = useQuery({
    ...spotsQuery(view.range, view.where, view.search, order, page),
    placeholderData: keepPreviousData,
    ...(isOpen(view.range, today) && live),
  });
  if (read.isError) return <p className="flex-1 bg-sheet p-5 text-error">{read.error.message}</p>;
  return (
    <FigureTable
      label="Spots"
      first="Spot"
      heads={heads}
      order={order}
      onOrder={(by) => {
        setOrder(by);
        setPage(1);
      }}
      note={
        read.data?.rawFrom &&
        `Spots are known from ${dayOf(read.data.rawFrom)} on, the first day visits are kept one by one.`
      }
      rows={read.data?.spots.map((s) => ({
        key: s.name,
        first: s.name,
        cells: [
          count(s.seen),
          count(s.seenVisits),
          count(s.clicked),
          rate(s.clickRate),
          count(s.conversionsAfterSeen),
          count(s.conversionsAfterClicked),
        ],
      }))}
      none={
        <>
          No spot was seen in this range{view.where.length > 0 ? ' in visits that fulfil the filters' : ''}. Give an
          element of your page a name, and it is counted:{' '}
          <code className="font-mono text-xs">
            &lt;a data-beacon-spot=&quot;header banner&quot; href=&quot;/offer&quot;&gt;
          </code>
        </>
      }
      page={page}
      pages={read.data ? Math.ceil(read.data.found / perPage) : 1}
      onPage={setPage}
    />
  );
}
