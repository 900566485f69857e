import { fireEvent, screen, waitFor } from '@testing-library/react';
import { expect, it, vi } from 'vitest';
import { choose, show } from '../../test/show';
import { ShareTexts } from './ShareTexts';

const text = (linkId: string, placement: string, mayUseToday: boolean) => ({
  linkId,
  placement,
  publisher: null,
  content: null,
  text: `Text for ${placement}`,
  characters: 10,
  missing: [],
  useForm: null,
  mayUseToday,
  nextDay: '2026-12-03',
  waiting: false,
  placedAt: null,
  placedBy: null,
});
const answers = {
  'GET /api/v1/share-texts': {
    data: [{ page: 'm.example/x', title: 'X', links: 3, placed: 0, text: 'Hello', revision: 1 }],
  },
  'POST /api/v1/share-texts/fill': {
    data: { texts: [text('1', 'Gate', true), text('2', 'Walkers', false), text('3', 'Growers', true)] },
  },
  'GET /api/v1/placements': {
    data: [
      { id: 'p1', name: 'Gate' },
      { id: 'p2', name: 'Walkers' },
    ],
  },
  'GET /api/v1/placement-sets': { data: [{ id: 's1', name: 'Groups', placements: ['p2'] }] },
};

it('passes over texts that are not due yet, and says so', async () => {
  document.execCommand = vi.fn(() => true);
  show(<ShareTexts parts={null} campaigns={[]} campaign="c1" onCampaign={vi.fn()} />, answers);
  const first = (await screen.findByText('Text for Gate')).closest('li')!;
  fireEvent.keyDown(first, { key: 'Enter' });
  await screen.findByText('Copied for Gate. 1 not yet due was skipped.');
  await waitFor(() => expect(document.activeElement?.textContent).toContain('Text for Growers'));
});

it('shows the texts of one set', async () => {
  show(<ShareTexts parts={null} campaigns={[]} campaign="c1" onCampaign={vi.fn()} />, answers);
  await screen.findByText('Text for Gate');
  await screen.findByLabelText('Set');
  await choose('Set', 'Groups');
  await waitFor(() => expect(screen.queryByText('Text for Gate')).toBeNull());
  expect(screen.getByText('Text for Walkers')).toBeTruthy();
});
