import { fireEvent, screen, waitFor } from '@testing-library/react';
import { expect, it, vi } from 'vitest';
import type { LedgerRow } from '../../api/client';
import { show } from '../../test/show';
import { LinkInspector } from './LinkInspector';

const link = {
  id: 'l1',
  title: 'Search ads',
  url: 'https://marrowmere.example/x?utm_term={keyword}',
  strip: [],
  values: [],
  destination: 'https://marrowmere.example/x',
  shortUrl: null,
  copyUrl: 'https://marrowmere.example/x?utm_term={keyword}',
  clicks: 3,
  scans: 0,
  others: 0,
  visits: 0,
  conversions: 0,
  revenue: { amount: '0.00', currency: 'EUR' },
  createdAt: '2026-11-01T00:00:00Z',
  createdBy: 'Orla Fenwick',
  notices: [
    {
      rule: 'placeholder-on-short-link',
      severity: 'warning',
      field: null,
      message: 'Filled in only in the long link.',
    },
  ],
} as unknown as LedgerRow;
const route = {
  leadsTo: 'https://marrowmere.example/x',
  carries: 'nothing',
  endsAtLocal: '2026-12-24T18:00',
  revision: 2,
};

it('lets a platform fill its placeholders in behind the short link, by one press', async () => {
  const sent = show(<LinkInspector link={link} onClose={vi.fn()} onOpen={vi.fn()} />, {
    'GET /api/v1/links/{id}/route': { data: route },
    'PUT /api/v1/links/{id}/route': { data: { ...route, carries: 'overwrite' } },
  });
  expect(screen.getByText('Copy long link')).toBeTruthy();
  fireEvent.click(screen.getByRole('button', { name: 'Carry parameters through' }));
  await waitFor(() => expect(sent).toHaveLength(1));
  // What else was chosen for the link stays.
  expect(sent[0]).toMatchObject({
    call: 'PUT /api/v1/links/{id}/route',
    path: { id: 'l1' },
    body: { carries: 'overwrite', endsAt: '2026-12-24T18:00', revision: 2 },
  });
});

it('says why it can’t', async () => {
  show(<LinkInspector link={link} onClose={vi.fn()} onOpen={vi.fn()} />, {
    'GET /api/v1/links/{id}/route': { data: route },
    'PUT /api/v1/links/{id}/route': { refused: 'Somebody else changed it.' },
  });
  fireEvent.click(screen.getByRole('button', { name: 'Carry parameters through' }));
  expect((await screen.findByRole('alert')).textContent).toBe('Somebody else changed it.');
});

it('is not offered to those who only look', () => {
  show(<LinkInspector link={link} onClose={vi.fn()} onOpen={vi.fn()} />, {}, 'viewer');
  expect(screen.queryByRole('button', { name: 'Carry parameters through' })).toBeNull();
});
