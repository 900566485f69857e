import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import { expect, it, vi } from 'vitest';
import { figures } from '../../parts/board/measures.test';
import { show } from '../../test/show';
import { CountryMap } from './CountryMap';
import { viewOf } from './view';

const row = (key: string | null, visits: number) => ({ keys: [key], figures: { ...figures, visits } });

function map(address: string, places: Record<string, ReturnType<typeof row>[]>) {
  const told = { onPick: vi.fn(), onFilter: vi.fn() };
  show(<CountryMap view={viewOf(new URLSearchParams(address), '2026-11-30')} picked={null} {...told} />, {
    'GET /api/v1/arrivals': ({ query }) => ({
      rows: places[query!.rows as string] ?? [],
      total: { ...figures, visits: 100 },
    }),
  });
  return told;
}

it('lists countries with their share, and narrows to one with a key', async () => {
  const told = map('', { country: [row('IE', 60), row('GB', 36), row(null, 4)] });
  const line = (await screen.findByText('Ireland')).closest('tr')!;
  expect(
    within(line)
      .getAllByRole('cell')
      .map((c) => c.textContent),
  ).toEqual(['Ireland', '60', '60.0 %']);
  fireEvent.keyDown(line, { key: 'f' });
  expect(told.onFilter).toHaveBeenCalledWith('country:is:IE');
  fireEvent.click(line);
  expect(told.onPick).toHaveBeenCalledWith('country:is:IE');
  expect(screen.getByText('Country unknown for 4.0 % of visits')).toBeTruthy();
});

it('goes on to the regions of a country, and to the towns of a region', async () => {
  const told = map('where=country:is:IE', { country: [row('IE', 60)], region: [row('Vale', 40), row(null, 20)] });
  fireEvent.click((await screen.findByText('Vale')).closest('tr')!);
  expect(told.onPick).toHaveBeenCalledWith('region:is:Vale');
  expect(screen.getByRole('columnheader', { name: 'Region' })).toBeTruthy();
});

it('lists towns of a region', async () => {
  map('where=country:is:IE&where=region:is:Vale', { country: [row('IE', 60)], town: [row('Mossgate', 40)] });
  expect(await screen.findByText('Mossgate')).toBeTruthy();
});

it('says where regions come from when none are known', async () => {
  map('where=country:is:IE', { country: [row('IE', 60)], region: [row(null, 60)] });
  await waitFor(() => expect(screen.getByText(/Regions are known where the application is given a file/)).toBeTruthy());
});

it('shows the towns of a country as dots where they are known to lie', async () => {
  const town = (region: string, name: string | null, visits: number, point: object | null) => ({
    keys: [region, name],
    figures: { ...figures, visits },
    point,
  });
  const told = map('where=country:is:IE', {
    country: [row('IE', 100)],
    region: [row('Vale', 100)],
    'region,town': [
      town('Vale', 'Mossgate', 64, { latitude: 53.3, longitude: -6.3 }),
      town('Vale', 'Fern Ford', 16, { latitude: 52.1, longitude: -8.6 }),
      town('Vale', null, 20, null),
    ] as never,
  });
  const drawn = await screen.findByRole('img', { name: /by town of Ireland/ });
  await waitFor(() => expect(drawn.querySelectorAll('circle')).toHaveLength(2));
  const [large, small] = drawn.querySelectorAll('circle');
  expect(Number(small!.getAttribute('r')) / Number(large!.getAttribute('r'))).toBe(0.5);
  expect(within(drawn).getByText('Fern Ford: 16')).toBeTruthy();
  expect(screen.getByText(/for 20.0 % of visits/)).toBeTruthy();
  fireEvent.click(large!);
  expect(told.onPick).toHaveBeenCalledWith('town:is:Mossgate');
});
