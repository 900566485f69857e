import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { choose, show } from '../../test/show';
import { Proof } from './Proof';

const none = { shown: null, sent: null, delivered: null, opened: null, clicks: null, visits: null, conversions: null };

const figure = (called: string, theirs: number, ours: number, verdict: string, more: object = {}) => ({
  key: called,
  system: 'Wendfar',
  linkId: null,
  campaignId: null,
  placementId: null,
  called: [called],
  kind: 'clicks',
  beside: 'clicks',
  theirs,
  ours,
  gap: (theirs - ours) / theirs,
  verdict,
  causes: [],
  likeliest: null,
  shares: [],
  all: { ...none, clicks: theirs },
  from: '2026-11-02',
  to: '2026-11-29',
  weeks: [],
  ...more,
});

const lost = figure('Lantern Nights', 200, 120, 'finding', {
  campaignId: 'lantern',
  causes: [
    { kind: 'programs', missing: 50, says: 'Programs asked for the short links 50 times.' },
    { kind: 'unexplained', missing: 30, says: 'Nothing here explains these.' },
  ],
  likeliest: 'programs',
  shares: [{ part: 'clicks', whole: 'shown', share: 0.05 }],
  all: { ...none, shown: 4_000, clicks: 200 },
  weeks: [
    { week: '2026-11-02', theirs: 40, ours: 40, gap: null, verdict: 'tooFew' },
    { week: '2026-11-09', theirs: 160, ours: 80, gap: 0.5, verdict: 'finding' },
  ],
});

const unmatched = {
  system: 'Wendfar',
  part: 'campaign',
  text: 'Lantern Nihgts',
  rows: 3,
  says: 'No campaign is called so.',
  likelyId: 'lantern',
  likely: 'Lantern Nights',
};

const answer = (more: object = {}) => ({
  from: '2026-11-02',
  to: '2026-11-29',
  count: 0,
  figures: [],
  unmatchedCount: 0,
  unmatched: [],
  named: [],
  ...more,
});

const made = {
  id: 'one',
  system: 'Wendfar',
  name: 'november.csv',
  read: 12,
  done: 12,
  kept: 11,
  firstDay: '2026-11-02',
  lastDay: '2026-11-29',
  madeAt: '2026-11-30T09:00:00Z',
  madeBy: 'Tomas Birch',
  finishedAt: '2026-11-30T09:00:01Z',
  undoneAt: null,
  undoneBy: null,
};

const recipe = {
  day: 'Day',
  shown: null,
  sent: null,
  delivered: null,
  opened: null,
  clicks: 'Clicks',
  visits: null,
  conversions: null,
  link: null,
  campaign: 'Campaign',
  placement: null,
  values: {},
  decimal: null,
  dayFirst: null,
};

const read = {
  id: null,
  system: '',
  read: 3,
  kept: 2,
  skipped: { countUnreadable: 1 },
  firstDay: '2026-11-02',
  lastDay: '2026-11-03',
  totals: { ...none, clicks: 120 },
  rows: [{ number: 4, problem: 'countUnreadable', about: 'many', says: '“many” isn’t a count.' }],
  unmatchedCount: 1,
  unmatched: [{ part: 'campaign', text: 'Lantern Nihgts', says: '', likely: 'Lantern Nights' }],
  recipe,
  columns: ['Day', 'Campaign', 'Clicks', 'Taps'],
};

const shown = (data: object, imports: object[] = [], role: 'owner' | 'viewer' = 'owner', more: object = {}) =>
  show(
    <Proof />,
    {
      'GET /api/v1/figures': { data },
      'GET /api/v1/imports/figures': { data: imports },
      'GET /api/v1/campaigns': {
        data: [
          { id: 'lantern', name: 'Lantern Nights' },
          { id: 'bulbs', name: 'Bulb Sale' },
        ],
      },
      'GET /api/v1/placements': { data: [] },
      'GET /api/v1/fields': { data: [] },
      ...more,
    },
    role,
    '/proof?part=reconcile',
  );

describe('figures of other systems', () => {
  it('stand beside ours with the gap and its most likely cause', async () => {
    shown(
      answer({
        count: 2,
        figures: [lost, figure('Bulb Sale', 100, 95, 'quiet', { kind: 'clicks', beside: 'visits' })],
      }),
    );
    expect(await screen.findByText('2 compared, 1 to look into')).toBeTruthy();
    const rows = within(screen.getByRole('table', { name: 'Figures compared' }))
      .getAllByRole('row')
      .slice(1);
    expect(rows.map((r) => r.textContent)).toEqual([
      'Lantern NightsWendfar200 clicks120 clicks40.0 %Programs',
      'Bulb SaleWendfar100 clicks95 visits, not clicks5.0 %small',
    ]);
  });

  it('have both sides, causes, weeks and rates of their own in the inspector', async () => {
    shown(answer({ count: 1, figures: [lost] }));
    fireEvent.click(await screen.findByRole('button', { name: /Lantern Nights, clicks of Wendfar: look into it/ }));
    const panel = screen.getByRole('complementary', { name: 'Lantern Nights · Wendfar' });
    expect(panel.textContent).toContain('80 are missing (40.0 %): look into it.');
    const causes = within(within(panel).getByRole('list', { name: 'Likely causes' })).getAllByRole('listitem');
    expect(causes.map((c) => c.textContent)).toEqual([
      'Programs 50Programs asked for the short links 50 times.',
      'Not explained 30Nothing here explains these.',
    ]);
    const weeks = within(within(panel).getByRole('table', { name: 'Week by week' }))
      .getAllByRole('row')
      .slice(1);
    expect(weeks.map((w) => w.textContent)).toEqual(['2 Nov 20264040–', '9 Nov 20261608050.0 %']);
    expect(panel.textContent).toContain('5.0 % of shown');
    expect(within(panel).getByRole('link', { name: 'The campaign in Plan' }).getAttribute('href')).toBe(
      '/plan?campaign=lantern',
    );
  });

  it('say how to begin while there are none', async () => {
    shown(answer());
    expect(await screen.findByText(/Choose a table it gives you/)).toBeTruthy();
    expect(screen.getByRole('link', { name: 'Download a sample table' }).getAttribute('href')).toBe(
      '/api/v1/samples/figures.csv',
    );
  });

  it('are shown before they count, and need the name of their system', async () => {
    const sent = shown(answer(), [], 'owner', {
      'POST /api/v1/imports/figures': ({ query }: { query?: Record<string, unknown> }) =>
        query?.dry ? read : { ...read, id: 'one' },
    });
    const file = new File(['Day,Campaign,Clicks'], 'november.csv', { type: 'text/csv' });
    fireEvent.change(await screen.findByLabelText('Table of figures'), { target: { files: [file] } });
    const preview = await screen.findByRole('region', { name: 'What november.csv says' });
    expect(preview.textContent).toContain('2 of 3 rows can be imported: 120 clicks, 2 Nov 2026 to 3 Nov 2026.');
    expect(preview.textContent).toContain('One name is not known yet.');
    expect(preview.textContent).toContain('Lantern Nihgts: probably Lantern Nights');
    expect(within(preview).getByRole('table', { name: 'Rows left out' }).textContent).toContain(
      '“many” isn’t a count.',
    );
    const take = within(preview).getByRole('button', { name: 'Import 2 rows' });
    expect(take.hasAttribute('disabled')).toBe(true);
    await choose('Clicks', 'Taps');
    await waitFor(() => expect(sent.length).toBe(2));
    fireEvent.change(screen.getByLabelText('Which system counts this'), { target: { value: 'Wendfar' } });
    fireEvent.click(take);
    expect(await screen.findByText('2 rows imported, 1 row left out.')).toBeTruthy();
    expect(sent.at(-1)!.query).toEqual({ dry: false, system: 'Wendfar' });
  });

  it('wait while a name is not matched, and take the likely one or another', async () => {
    const sent = shown(answer({ unmatchedCount: 1, unmatched: [unmatched] }));
    const names = await screen.findByRole('region', { name: 'Names not matched' });
    expect(names.textContent).toContain('campaign in 3 rows of Wendfar');
    fireEvent.click(within(names).getByRole('button', { name: 'It is Lantern Nights' }));
    await waitFor(() =>
      expect(sent.at(-1)!.body).toEqual({
        system: 'Wendfar',
        part: 'campaign',
        text: 'Lantern Nihgts',
        id: 'lantern',
        link: null,
      }),
    );
    await choose('What Lantern Nihgts means', 'leave it out');
    await waitFor(() => expect((sent.at(-1)!.body as { id: unknown }).id).toBeNull());
  });

  it('take a link by its short URL', async () => {
    const sent = shown(answer({ unmatchedCount: 1, unmatched: [{ ...unmatched, part: 'link', likelyId: null }] }));
    fireEvent.change(await screen.findByLabelText('Link that Lantern Nihgts means'), {
      target: { value: 'mmr.example/lantern' },
    });
    fireEvent.click(screen.getByRole('button', { name: 'Match' }));
    await waitFor(() => expect((sent.at(-1)!.body as { link: string }).link).toBe('mmr.example/lantern'));
  });

  it('keep what was matched by hand, which can be undone', async () => {
    const sent = shown(
      answer({
        named: [
          {
            system: 'Wendfar',
            part: 'campaign',
            text: 'Lantern Nihgts',
            id: 'lantern',
            madeBy: 'Tomas Birch',
            madeAt: '2026-11-30T09:00:00Z',
          },
        ],
      }),
    );
    const list = await screen.findByRole('list', { name: 'Names matched by hand', hidden: true });
    await waitFor(() => expect(list.textContent).toContain('Lantern Nihgts → Lantern Nights'));
    fireEvent.click(screen.getByRole('button', { name: 'Undo Lantern Nihgts', hidden: true }));
    await waitFor(() => expect(sent.at(-1)!.call).toBe('POST /api/v1/figures/names/forget'));
  });

  it('list their imports with how far one is that goes on', async () => {
    const sent = shown(answer({ count: 1, figures: [lost] }), [
      { ...made, id: 'two', name: 'large.csv', read: 100_000, done: 45_000, finishedAt: null, firstDay: null },
      made,
    ]);
    const list = await screen.findByRole('list', { name: 'Imports of figures' });
    expect(within(list).getByRole('progressbar', { name: 'Import of large.csv' }).getAttribute('value')).toBe('45000');
    expect(list.textContent).toContain('45,000 of 100,000 rows');
    expect(list.textContent).toContain('2 Nov 2026 to 29 Nov 2026, 11 of 12 rows');
    fireEvent.click(within(list).getByRole('button', { name: 'Undo november.csv' }));
    await waitFor(() => expect(sent.at(-1)!.call).toBe('POST /api/v1/imports/figures/{id}/undo'));
  });

  it('are only looked at by a viewer', async () => {
    shown(answer({ count: 1, figures: [lost], unmatchedCount: 1, unmatched: [unmatched] }), [made], 'viewer');
    expect(await screen.findByRole('table', { name: 'Figures compared' })).toBeTruthy();
    expect(screen.queryByLabelText('Table of figures')).toBeNull();
    expect(screen.queryByRole('button', { name: /It is|Undo/ })).toBeNull();
  });
});
