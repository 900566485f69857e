import { fireEvent, screen } from '@testing-library/react';
import { expect, it, vi } from 'vitest';
import { show } from '../../test/show';
import { BehindVisits, withoutVisits } from './BehindVisits';

const search = new URLSearchParams(
  'state=all&page=3&visitsFrom=2026-11-01&visitsTo=2026-11-30&visitsWhere=source:is:the_trellis&visitsWhere=medium:not:print',
);
const answers = { 'GET /api/v1/convention': { data: { document: { fields: [] } } } };

it('says which visits the links are behind, and leads to them and back to all links', async () => {
  const leave = vi.fn();
  show(<BehindVisits search={search} onLeave={leave} />, answers);
  expect(
    await screen.findByText(
      'Links behind visits from 1 Nov 2026 to 30 Nov 2026: source is the_trellis; medium is not print',
    ),
  ).toBeTruthy();
  expect(screen.getByRole('link', { name: 'Show these visits' }).getAttribute('href')).toBe(
    '/arrivals?from=2026-11-01&to=2026-11-30&where=source%3Ais%3Athe_trellis&where=medium%3Anot%3Aprint',
  );
  fireEvent.click(screen.getByRole('button', { name: 'All links' }));
  expect(leave).toHaveBeenCalledOnce();
});

it('says nothing where the Ledger is not narrowed to visits', () => {
  show(<BehindVisits search={new URLSearchParams('state=live')} onLeave={() => {}} />, answers);
  expect(screen.queryByText(/Links behind visits/)).toBeNull();
  expect(withoutVisits(search).toString()).toBe('state=all');
});
