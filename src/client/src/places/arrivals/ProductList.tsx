import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { type Schema } from '../../api/client';
import { live } from '../../api/live';
import { dayOf } from '../../parts/days';
import { count, money } from '../../parts/format';
import { usePerson } from '../../parts/person';
import { FigureTable } from './FigureTable';
import { productsQuery, type ProductOrder } from './queries';
import { isOpen } from './range';
import type { View } from './view';

const heads: [ProductOrder | null, string][] = [
  ['orders', 'Orders'],
  ['pieces', 'Pieces'],
  ['value', 'Value'],
  ['advertised', 'Advertised pieces'],
  [null, 'Advertised value'],
];
const perPage = 50;

const cellsOf = (p: Schema['ProductAnswer']) => [
  count(p.orders),
  count(p.pieces),
  money(p.value),
  count(p.advertisedPieces),
  money(p.advertisedValue),
];

/** What was bought, and what of it in visits of a campaign that advertises it. */
export function ProductList({ view }: { view: View }) {
  const { today } = usePerson();
  const [order, setOrder] = useState<ProductOrder>('value');
  const [page, setPage] = useState(1);
  const read = useQuery({
    ...productsQuery(view.range, view.where, view.search, order, page),
    placeholderData: keepPreviousData,
    ...(isOpen(view.range, today) && live),
  });
  if (read.isError) return <p className="flex-1 bg-sheet p-5 text-error">{read.error.message}</p>;
  return (
    <FigureTable
      label="Products"
      first="Product"
      heads={heads}
      order={order}
      onOrder={(by) => {
        setOrder(by);
        setPage(1);
      }}
      note={
        read.data?.rawFrom &&
        `Products are known from ${dayOf(read.data.rawFrom)} on, the first day visits are kept one by one.`
      }
      rows={
        read.data &&
        (read.data.found === 0
          ? []
          : [
              { key: 'all', first: 'Everything', cells: cellsOf(read.data.total), strong: true },
              ...read.data.products.map((p) => ({
                key: [p.id, p.name, p.category].join('|'),
                first: (
                  <>
                    {p.name ?? p.id ?? 'Without a name'}
                    {p.category && <span className="pl-2 text-xs text-quiet">{p.category}</span>}
                    {p.id && p.name && <span className="pl-2 font-mono text-xs text-quiet">{p.id}</span>}
                  </>
                ),
                cells: cellsOf(p),
              })),
            ])
      }
      none={`Nothing was bought in this range${view.where.length > 0 ? ' in visits that fulfil the filters' : ''}. Orders name their items on the page after the order, or from the shop’s server.`}
      page={page}
      pages={read.data ? Math.ceil(read.data.found / perPage) : 1}
      onPage={setPage}
    />
  );
}
