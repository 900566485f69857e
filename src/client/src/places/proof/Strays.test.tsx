import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { show } from '../../test/show';
import { Proof } from './Proof';

const group = (more: object = {}) => ({
  kind: 'unknownValue',
  field: 'utm_source',
  fieldLabel: 'Source',
  likely: 'nattervine',
  isSettled: false,
  visits: 12,
  first: '2026-11-03',
  last: '2026-11-20',
  links: 0,
  moreStrays: 0,
  strays: [
    { key: null, when: { utm_source: 'nattervin' }, then: { utm_source: 'nattervine' }, visits: 8 },
    { key: null, when: { utm_source: 'natervine' }, then: { utm_source: 'nattervine' }, visits: 4 },
  ],
  referrers: [{ where: 'nattervine.example', visits: 5 }],
  pages: [{ where: 'garden.example/bulbs', visits: 9 }],
  ...more,
});

const key = group({
  kind: 'misspeltKey',
  likely: 'utm_source',
  strays: [{ key: 'utm_soruce', when: {}, then: {}, visits: 3 }],
});

const assigned = {
  id: 'a1',
  stray: 'E-mail',
  means: 'email',
  fieldLabel: 'Medium',
  by: 'Orla Fenwick',
  at: '2026-11-20T10:00:00Z',
};

const shown = (answer: object = {}, role: 'owner' | 'editor' | 'viewer' = 'owner') =>
  show(
    <Proof />,
    {
      'GET /api/v1/strays': { data: { moreGroups: 0, groups: [group()], assigned: [], inside: [], ...answer } },
      'GET /api/v1/convention': {
        data: {
          document: {
            fields: [
              {
                key: 'utm_source',
                label: 'Source',
                means: 'byKey',
                words: [{ written: 'nattervine', label: 'Nattervine' }],
              },
            ],
          },
        },
      },
      'GET /api/v1/campaigns': { data: [] },
      'POST /api/v1/strays/effect': {
        data: { more: 0, rows: [{ by: 'source', name: 'nattervine', before: 100, after: 112 }] },
      },
      'POST /api/v1/strays/assignments': { data: { ids: ['a1', 'a2'] } },
      'POST /api/v1/strays/assignments/undo': { data: undefined },
      'POST /api/v1/strays/words': { data: undefined },
    },
    role,
    '/proof?part=strays',
  );

const bodies = (sent: { call: string; body?: unknown }[], call: string) =>
  sent.filter((s) => s.call === call).map((s) => s.body);

const choose = async (name: RegExp) => fireEvent.click(await screen.findByRole('button', { name }));

describe('strays', () => {
  it('are listed with what they probably mean', async () => {
    shown();
    expect(await screen.findByText('90 days: 1 group with 12 visits')).not.toBeNull();
    expect(
      within(screen.getByRole('table', { name: 'Strays' }))
        .getAllByRole('cell')
        .map((c) => c.textContent),
    ).toEqual(['nattervin, natervine', 'nattervine Source', 'unknown value', '12', '3 Nov – 20 Nov']);
  });

  it('are assigned by one key, with what changes told before', async () => {
    const sent = shown();
    await choose(/nattervin, natervine/);
    expect((await screen.findByRole('table', { name: 'Visits before and after' })).textContent).toContain(
      'source nattervine100→ 112',
    );
    expect(screen.getByRole('list', { name: 'Where they were seen' }).textContent).toContain('garden.example/bulbs9');
    fireEvent.click(screen.getByRole('checkbox', { name: /natervine/ }));
    await waitFor(() =>
      expect(bodies(sent, 'POST /api/v1/strays/effect').at(-1)).toEqual({
        assignments: [{ when: { utm_source: 'nattervin' }, then: { utm_source: 'nattervine' } }],
      }),
    );
    fireEvent.keyDown(window, { key: 'a' });
    await waitFor(() =>
      expect(bodies(sent, 'POST /api/v1/strays/assignments')).toEqual([
        { assignments: [{ when: { utm_source: 'nattervin' }, then: { utm_source: 'nattervine' } }] },
      ]),
    );
  });

  it('with a misspelt key are read as a field', async () => {
    const sent = shown({ groups: [key] });
    await choose(/utm_soruce/);
    fireEvent.click(await screen.findByRole('button', { name: 'Assign' }));
    await waitFor(() =>
      expect(bodies(sent, 'POST /api/v1/strays/assignments')).toEqual([
        { assignments: [{ key: 'utm_soruce', field: 'utm_source' }] },
      ]),
    );
  });

  it('become aliases in the draft', async () => {
    const sent = shown();
    await choose(/nattervin, natervine/);
    fireEvent.click(await screen.findByRole('button', { name: 'Alias in the draft' }));
    expect(await screen.findByRole('link', { name: 'Look at the draft' })).not.toBeNull();
    expect(bodies(sent, 'POST /api/v1/strays/words')).toEqual([
      { field: 'utm_source', values: ['nattervin', 'natervine'], word: 'nattervine' },
    ]);
  });

  it('are only looked at by viewers, and what counts right already needs nobody', async () => {
    shown({ assigned: [assigned] }, 'viewer');
    await choose(/nattervin, natervine/);
    expect(screen.queryByRole('button', { name: 'Assign' })).toBeNull();
    expect(screen.queryByRole('button', { name: 'Undo E-mail' })).toBeNull();
  });

  it('are given back by undoing', async () => {
    const sent = shown({ groups: [], assigned: [assigned] });
    await choose(/Undo E-mail/);
    await waitFor(() => expect(bodies(sent, 'POST /api/v1/strays/assignments/undo')).toEqual([{ ids: ['a1'] }]));
  });

  it('inside the own site stand with the page they are on', async () => {
    shown({
      groups: [],
      inside: [
        {
          standsOn: 'garden.example/start',
          leadsTo: 'garden.example/bulbs',
          tags: { utm_source: 'homepage' },
          times: 7,
          first: '2026-11-03',
          last: '2026-11-03',
        },
      ],
    });
    expect((await screen.findByRole('table', { name: 'Tags inside your own site' })).textContent).toContain(
      'garden.example/startgarden.example/bulbsutm_source=homepage73 Nov',
    );
  });

  it('say so where there are none', async () => {
    shown({ groups: [] });
    expect(
      await screen.findByText(/Every tag that arrived in the last 90 days is one the convention knows/),
    ).not.toBeNull();
  });
});
