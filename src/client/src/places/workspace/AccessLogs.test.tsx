import { fireEvent, screen, waitFor } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { show } from '../../test/show';
import { AccessLogs } from './AccessLogs';

const list = 'GET /api/v1/imports/access-log';
const log = {
  id: 'l1',
  fileName: 'access.log.gz',
  site: 'Garden',
  state: 'reading',
  fault: null,
  done: 0.4,
  read: 12345,
  kept: 1,
  skipped: { asset: 10000, crawler: 2344 },
  firstDay: '2026-11-01',
  lastDay: '2026-11-02',
  addedBy: 'Orla',
  addedAt: '2026-11-03T10:00:00Z',
  endedAt: null,
};
const answers = {
  'GET /api/v1/sites': {
    data: [{ id: 's1', name: 'Garden', measuringKey: 'k1', hosts: ['marrowmere.example'], largestValue: 1 }],
  },
  [list]: { data: [log] },
};

describe('access logs', () => {
  it('say how far they are read, what was left out and why, and are stopped', async () => {
    const sent = show(<AccessLogs />, answers);
    expect(await screen.findByText(/12,345 lines read, 1 page view kept from 1 Nov 2026 to 2 Nov 2026\./)).toBeTruthy();
    expect(
      screen.getByText(/10,000 pictures, styles, scripts and other files · 2,344 crawlers and other programs/),
    ).toBeTruthy();
    expect(screen.getByLabelText('Reading access.log.gz')).toHaveProperty('value', 0.4);
    fireEvent.click(screen.getByRole('button', { name: 'Cancel access.log.gz' }));
    await waitFor(() =>
      expect(sent[0]).toMatchObject({ call: 'DELETE /api/v1/imports/access-log/{id}', path: { id: 'l1' } }),
    );
  });

  it('are sent with their site', async () => {
    const sent = show(<AccessLogs />, { ...answers, [list]: { data: [] } });
    await screen.findByText('Garden');
    fireEvent.click(screen.getByLabelText('Leave out days the pages measured themselves'));
    fireEvent.change(screen.getByLabelText('Access log'), {
      target: { files: [new File(['x'], 'access.log')] },
    });
    await waitFor(() => expect(sent[0]?.call).toBe('POST /api/v1/imports/access-log'));
    const form = sent[0]!.body as FormData;
    expect([form.get('site'), form.get('measuredDays'), (form.get('file') as File).name]).toEqual([
      's1',
      'keep',
      'access.log',
    ]);
  });

  it('that failed say the way out, and viewers send none', async () => {
    const failed = { ...log, state: 'failed', fault: 'notCombined', firstDay: null, lastDay: null };
    show(<AccessLogs />, { ...answers, [list]: { data: [failed] } }, 'viewer');
    expect(await screen.findByText(/No line is in the combined format/)).toBeTruthy();
    expect(screen.queryByRole('button')).toBeNull();
  });
});
