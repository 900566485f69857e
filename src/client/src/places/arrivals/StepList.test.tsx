import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import { expect, it, vi } from 'vitest';
import { show } from '../../test/show';
import { StepList } from './StepList';
import type { View } from './view';

const view = (steps: string[]) =>
  ({ range: { from: '2026-11-01', to: '2026-11-30' }, where: [], steps }) as unknown as View;

it('says how many visits reach each step, and what the others did', async () => {
  const asked: Record<string, unknown>[] = [];
  show(<StepList view={view(['page:/shop', 'event:basket begun', 'conversion:'])} onSteps={() => {}} />, {
    'GET /api/v1/arrivals/steps': ({ query }) => {
      asked.push(query!);
      return {
        from: '2026-11-01',
        to: '2026-11-30',
        visits: 1_000,
        rawFrom: null,
        steps: [
          {
            step: 'page:/shop',
            visits: 400,
            rateOfBefore: 0.4,
            rateOfAll: 0.4,
            instead: [
              { page: null, visits: 250 },
              { page: 'garden.example/news', visits: 50 },
            ],
          },
          { step: 'event:basket begun', visits: 100, rateOfBefore: 0.25, rateOfAll: 0.1, instead: [] },
          { step: 'conversion:', visits: 100, rateOfBefore: 1, rateOfAll: 0.1, instead: [] },
        ],
      };
    },
  });
  const table = await screen.findByRole('table', { name: 'Steps' });
  const rows = within(table)
    .getAllByRole('row')
    .slice(1)
    .map((r) =>
      within(r)
        .getAllByRole('cell')
        .map((c) => c.textContent),
    );
  expect(rows).toEqual([
    ['1. /shop', '400', '40.0 %', '40.0 %', '250left50garden.example/news'],
    ['2. basket begun', '100', '25.0 %', '10.0 %', ''],
    ['3. Converted', '100', '100.0 %', '10.0 %', ''],
  ]);
  expect(asked[0]).toMatchObject({ step: ['page:/shop', 'event:basket begun', 'conversion:'] });
});

it('asks for steps where none are chosen, and takes them', async () => {
  const chosen = vi.fn();
  show(<StepList view={view(['event:'])} onSteps={chosen} />, {
    'GET /api/v1/arrivals/pages': { data: { pages: [{ page: 'garden.example/shop' }], found: 1 } },
    'GET /api/v1/arrivals/spots': { data: { spots: [{ name: 'banner' }], found: 1 } },
    'GET /api/v1/arrivals': { data: { named: [{ measure: 'events:a%2Cb', count: 2 }] } },
  });
  fireEvent.click(await screen.findByRole('button', { name: 'Choose steps' }));
  const dialog = await screen.findByRole('dialog', { name: 'Steps, in order' });
  const go = within(dialog).getByRole('button', { name: 'Show the way' });
  expect((go as HTMLButtonElement).disabled).toBe(true);
  // What occurs is offered while typing.
  await waitFor(() => expect(dialog.querySelector('#occurring-event option')?.getAttribute('value')).toBe('a,b'));
  expect(dialog.querySelector('#occurring-page option')?.getAttribute('value')).toBe('/shop');
  expect(dialog.querySelector('#occurring-clicked option')?.getAttribute('value')).toBe('banner');
  fireEvent.change(within(dialog).getByRole('combobox', { name: 'Step 1' }), { target: { value: ' /shop ' } });
  fireEvent.click(go);
  await waitFor(() => expect(chosen).toHaveBeenCalledWith(['page:/shop', 'conversion:']));
});
