import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import { expect, it } from 'vitest';
import { show } from '../../test/show';
import { ProductList } from './ProductList';
import type { View } from './view';

const view = (where: string[] = []) =>
  ({ range: { from: '2026-11-01', to: '2026-11-30' }, where, search: '' }) as unknown as View;
const eur = (amount: string) => ({ amount, currency: 'EUR' });
const product = (more: object) => ({
  id: null,
  name: null,
  category: null,
  orders: 3,
  pieces: 1_234,
  value: eur('18.00'),
  advertisedPieces: 4,
  advertisedValue: eur('9.00'),
  ...more,
});
const answer = (products: object[]) => ({
  from: '2026-11-01',
  to: '2026-11-30',
  products,
  total: product({ pieces: 2_000 }),
  found: products.length,
  rawFrom: products.length > 2 ? '2026-11-05' : null,
});

it('says what was bought, all of it first, and orders it anew', async () => {
  const asked: Record<string, unknown>[] = [];
  show(<ProductList view={view()} />, {
    'GET /api/v1/arrivals/products': ({ query }) => {
      asked.push(query!);
      return answer([product({ id: 'L-1', name: 'Lantern', category: 'light' }), product({ id: 'B-2' }), product({})]);
    },
  });
  const table = await screen.findByRole('table', { name: 'Products' });
  await screen.findByText('Lantern');
  const rows = within(table)
    .getAllByRole('row')
    .slice(1)
    .map((r) =>
      within(r)
        .getAllByRole('cell')
        .map((c) => c.textContent),
    );
  expect(rows[0]).toEqual(['Everything', '3', '2,000', '€18.00', '4', '€9.00']);
  expect(rows.slice(1).map((r) => r[0])).toEqual(['LanternlightL-1', 'B-2', 'Without a name']);
  expect(screen.getByText(/Products are known from 5 Nov 2026 on/)).toBeTruthy();
  fireEvent.click(screen.getByRole('button', { name: 'Advertised pieces' }));
  await waitFor(() => expect(asked.at(-1)).toMatchObject({ sort: 'advertised', page: 1 }));
  expect(asked[0]).toMatchObject({ sort: 'value' });
});

it('says so where nothing was bought', async () => {
  show(<ProductList view={view(['device:is:phone'])} />, { 'GET /api/v1/arrivals/products': { data: answer([]) } });
  expect(await screen.findByText(/Nothing was bought in this range in visits that fulfil the filters/)).toBeTruthy();
});

it('says why it can’t', async () => {
  show(<ProductList view={view()} />, { 'GET /api/v1/arrivals/products': { refused: 'Try again.' } });
  expect(await screen.findByText('Try again.')).toBeTruthy();
});
