import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { choose, show } from '../../test/show';
import { Proof } from './Proof';

const found = (more: object = {}) => ({
  rule: 'tags-lost',
  severity: 'error',
  message: 'The second hop drops the tags.',
  hop: 1,
  firstSeen: '2026-11-20T10:00:00Z',
  lastSeen: '2026-11-28T10:00:00Z',
  goneAt: null,
  mutedBy: null,
  mutedReason: null,
  ...more,
});

const page = (name: string, findings: object[]) => ({
  page: `https://${name}`,
  url: `https://${name}?utm_source=a`,
  links: 3,
  checkedAt: '2026-11-28T10:00:00Z',
  title: name,
  hops: [],
  findings,
});

const run = (more: object = {}) => ({
  startedAt: '2026-11-28T09:00:00Z',
  startedBy: 'Orla Fenwick',
  total: 40,
  done: 20,
  finishedAt: null,
  cancelled: false,
  ...more,
});

const shown = (answer: object, role: 'owner' | 'editor' | 'viewer' = 'owner') =>
  show(
    <Proof />,
    { 'GET /api/v1/page-checks': { data: { days: null, run: null, history: [], pages: [], ...answer } } },
    role,
    '/proof?part=pages',
  );

describe('page checks', () => {
  it('list each page with what was found', async () => {
    shown({
      run: run({ done: 40, finishedAt: '2026-11-28T10:00:00Z' }),
      pages: [page('garden.example/lanterns', [found()]), page('garden.example/bulbs', [])],
    });
    expect(await screen.findByText('2 pages, 1 to look into')).not.toBeNull();
    expect(screen.getByRole('row', { name: /lanterns/ }).textContent).toContain('The second hop drops the tags.');
    expect(screen.getByRole('row', { name: /bulbs/ }).textContent).toContain('nothing');
  });

  it('say how far a run is and are cancelled', async () => {
    const sent = shown({ run: run(), pages: [] });
    expect(await screen.findByText(/^Checking: 20 of 40 pages, until about \d\d:\d\d$/)).not.toBeNull();
    fireEvent.click(screen.getByRole('button', { name: 'Cancel' }));
    await waitFor(() => expect(sent.map((s) => s.call)).toEqual(['DELETE /api/v1/page-checks/run']));
  });

  it('are started and scheduled', async () => {
    const sent = shown({});
    fireEvent.click(await screen.findByRole('button', { name: 'Check all now' }));
    await screen.findByLabelText('Check by itself');
    await choose('Check by itself', 'Every week');
    await waitFor(() =>
      expect(sent.map((s) => [s.call, s.body])).toEqual([
        ['POST /api/v1/page-checks/run', undefined],
        ['PUT /api/v1/page-checks/schedule', { days: 7 }],
      ]),
    );
  });

  it('tell what earlier ones came to', async () => {
    const ended = { finishedAt: '2026-11-28T10:00:00Z', done: 40, batchId: null, found: 3, appeared: 1, gone: 2 };
    shown({
      history: [
        run(ended),
        run({
          ...ended,
          startedAt: '2026-11-27T09:00:00Z',
          startedBy: null,
          cancelled: true,
          found: null,
          batchId: 'b1',
        }),
      ],
    });
    await screen.findByText('Earlier checks');
    const rows = screen.getAllByRole('row').slice(1);
    expect(rows[0]!.textContent).toContain('Orla Fenwick40312');
    expect(rows[1]!.textContent).toContain('cancelled');
    expect(rows[1]!.textContent).toContain('the schedule, one sheet40–12');
  });

  it('are of one sheet alone, and of all again', async () => {
    const asked: unknown[] = [];
    const sent = show(
      <Proof />,
      {
        'GET /api/v1/page-checks': ({ query }) => {
          asked.push(query?.sheet);
          return { days: 7, run: null, history: [], pages: [page('garden.example/lanterns', [found()])] };
        },
      },
      'owner',
      '/proof?part=pages&sheet=b1',
    );
    expect(await screen.findByText('1 page of the sheet, 1 to look into')).not.toBeNull();
    expect(screen.queryByLabelText('Check by itself')).toBeNull();
    fireEvent.click(screen.getByRole('button', { name: 'Check these now' }));
    await waitFor(() => expect(sent.map((s) => s.query)).toEqual([{ sheet: 'b1' }]));
    fireEvent.click(screen.getByRole('button', { name: 'Show all pages' }));
    expect(await screen.findByRole('button', { name: 'Check all now' })).not.toBeNull();
    expect(asked.at(-1)).toBeUndefined();
  });

  it('mute a finding with a reason', async () => {
    const sent = shown({ pages: [page('garden.example/lanterns', [found()])] });
    fireEvent.click(await screen.findByRole('button', { name: 'garden.example/lanterns' }));
    const findings = await screen.findByRole('list', { name: 'Findings' });
    fireEvent.click(within(findings).getByRole('button', { name: 'Mute …' }));
    fireEvent.change(within(findings).getByRole('textbox', { name: 'Reason' }), { target: { value: 'Being rebuilt' } });
    fireEvent.click(within(findings).getByRole('button', { name: 'Mute' }));
    await waitFor(() =>
      expect(sent).toMatchObject([
        {
          call: 'PUT /api/v1/page-checks/mute',
          body: { page: 'https://garden.example/lanterns', rule: 'tags-lost', reason: 'Being rebuilt' },
        },
      ]),
    );
  });

  it('are only looked at by viewers', async () => {
    shown({ pages: [page('garden.example/lanterns', [found({ mutedBy: 'Orla', mutedReason: 'Known' })])] }, 'viewer');
    fireEvent.click(await screen.findByRole('button', { name: 'garden.example/lanterns' }));
    expect(await screen.findByText(/muted by Orla: Known/)).not.toBeNull();
    expect(screen.queryByRole('button', { name: 'Unmute' })).toBeNull();
    expect(screen.queryByRole('button', { name: 'Check all now' })).toBeNull();
  });
});
