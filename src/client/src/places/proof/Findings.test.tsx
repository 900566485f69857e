import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { Rail } from '../../parts/Rail';
import { show } from '../../test/show';
import { Proof } from './Proof';

const finding = (more: object = {}) => ({
  id: 'f1',
  area: 'page',
  about: 'https://garden.example/lanterns',
  severity: 'error',
  subject: 'https://garden.example/lanterns',
  message: 'The second request drops the tags.',
  weight: 12,
  then: 12,
  change: 'new',
  firstSeen: '2026-11-27T10:00:00Z',
  goneAt: null,
  quietUntil: null,
  quietReason: null,
  quietBy: null,
  ...more,
});

const shown = (
  findings: object[],
  role: 'owner' | 'editor' | 'viewer' = 'owner',
  at: string | null = '2026-11-28T10:00:00Z',
) => show(<Proof />, { 'GET /api/v1/findings': { data: { at, open: findings.length, findings } } }, role, '/proof');

describe('findings', () => {
  it('stand first, each with its way out', async () => {
    shown([
      finding(),
      finding({
        id: 'f2',
        area: 'stray',
        about: 'nattervin',
        subject: 'nattervin',
        severity: 'warning',
        change: 'worse',
        weight: 40,
      }),
      finding({ id: 'f3', area: 'trial', about: 't9', subject: 'Leaflet', change: 'known' }),
    ]);
    const open = await screen.findByRole('list', { name: 'Open' });
    const ways = within(open)
      .getAllByRole('link')
      .map((l) => [l.textContent, l.getAttribute('href')]);
    expect(ways).toEqual([
      ['Look at the page', '/proof?part=pages&at=https%3A%2F%2Fgarden.example%2Flanterns'],
      ['Assign it', '/proof?part=strays&at=nattervin'],
      ['Look at the trial', '/proof?trial=t9'],
    ]);
    expect(
      within(open)
        .getAllByRole('listitem')
        .map((l) => /new|worse/.exec(l.textContent!)?.[0]),
    ).toEqual(['new', 'worse', undefined]);
    expect(open.textContent).toContain('then 12, now 40');
  });

  it('are quieted for a while with a reason', async () => {
    const sent = shown([finding()]);
    fireEvent.click(await screen.findByRole('button', { name: 'Quiet …' }));
    fireEvent.change(screen.getByRole('textbox', { name: 'Reason' }), { target: { value: 'Being rebuilt' } });
    fireEvent.click(screen.getByRole('button', { name: 'Quiet' }));
    await waitFor(() =>
      expect(sent).toMatchObject([
        { call: 'PUT /api/v1/findings/{id}/quiet', path: { id: 'f1' }, body: { days: 30, reason: 'Being rebuilt' } },
      ]),
    );
  });

  it('that are quiet or gone stand apart', async () => {
    const sent = shown([
      finding({ quietUntil: '2026-12-28T10:00:00Z', quietBy: 'Tomas Birch', quietReason: 'Being rebuilt' }),
      finding({ id: 'f2', change: 'gone', goneAt: '2026-11-28T10:00:00Z' }),
    ]);
    expect((await screen.findByRole('list', { name: 'Quiet' })).textContent).toContain('by Tomas Birch: Being rebuilt');
    expect(screen.getByRole('list', { name: 'Gone' }).textContent).toContain('Gone since');
    fireEvent.click(screen.getByRole('button', { name: 'Count it' }));
    await waitFor(() => expect(sent).toMatchObject([{ path: { id: 'f1' }, body: { days: null, reason: null } }]));
  });

  it('say so where there are none, or none were looked for', async () => {
    shown([]);
    expect(await screen.findByText(/^Nothing was found/)).not.toBeNull();
  });

  it('are only read by viewers', async () => {
    shown([finding()], 'viewer');
    expect(await screen.findByRole('link', { name: 'Look at the page' })).not.toBeNull();
    expect(screen.queryByRole('button', { name: 'Quiet …' })).toBeNull();
  });

  it('are counted on the rail', async () => {
    const person = { name: 'Orla Fenwick', role: 'owner', mail: '', workspace: 'Garden' } as never;
    show(<Rail person={person} onSignOut={() => {}} />, {
      'GET /api/v1/findings': { data: { at: null, open: 4, findings: [] } },
    });
    expect(await screen.findByRole('link', { name: 'Proof, 4 open findings' })).not.toBeNull();
  });
});
