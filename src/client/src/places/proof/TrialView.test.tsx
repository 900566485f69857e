import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { show } from '../../test/show';
import { Proof } from './Proof';
import { TryLink } from '../../parts/TryLink';

const steps = (states: string) =>
  ['clicked', 'redirected', 'arrived', 'measured'].map((kind, i) => ({
    kind,
    state: { W: 'waiting', D: 'done', F: 'failed' }[states[i]!],
    at: null,
  }));

const trial = (more: object = {}) => ({
  id: 't1',
  linkId: 'l1',
  title: 'Lantern Nights · Gate poster',
  url: 'https://marrowmere.example/lantern-nights?utm_source=gate_poster',
  address: 'https://mmr.example/try/0123456789abcdef01234567',
  startedAt: new Date(Date.now() - 60_000).toISOString(),
  startedBy: 'Tomas Birch',
  endsAt: new Date(Date.now() + 1_740_000).toISOString(),
  verdict: 'waiting',
  says: 'Open the address on any device. Each step lights up as it happens.',
  steps: steps('WWWW'),
  findings: [],
  hops: [{ url: 'https://marrowmere.example/lantern-nights?utm_source=gate_poster', status: 200, milliseconds: 120 }],
  plainHops: [],
  pageTitle: 'Lantern Nights',
  click: null,
  otherOpenings: 0,
  visit: null,
  ...more,
});

const lost = trial({
  verdict: 'fails',
  says: 'The visit arrived without utm_source. They are lost at redirect 1; see below.',
  steps: steps('DDFD'),
  findings: [
    {
      rule: 'arrived-without-tags',
      severity: 'error',
      message: 'The visit arrived without utm_source. They are lost at redirect 1; see below.',
      hop: 1,
    },
    { rule: 'tags-dropped', severity: 'error', message: 'The redirect from a to b drops utm_source.', hop: 1 },
  ],
  hops: [
    { url: 'https://marrowmere.example/lanterns?utm_source=gate_poster', status: 301, milliseconds: 20 },
    { url: 'https://marrowmere.example/lantern-nights', status: 200, milliseconds: 30 },
  ],
  click: { at: '2026-11-30T10:00:00Z', device: 'phone', system: null, browser: 'Fernleaf' },
  otherOpenings: 2,
  visit: {
    startedAt: '2026-11-30T10:00:01Z',
    page: 'marrowmere.example/lantern-nights',
    tags: {},
    channel: 'Direct',
    campaign: null,
    placement: 'Gate poster',
  },
});

const stations = () => screen.getAllByRole('listitem').flatMap((item) => item.getAttribute('aria-label') ?? []);

describe('a trial run', () => {
  it('offers its address as a button, a code and text', async () => {
    show(<Proof />, { 'GET /api/v1/trials/{id}': { data: trial() } }, 'owner', '/proof?trial=t1');
    expect(await screen.findByText(/Each step lights up/)).toBeTruthy();
    expect(stations()).toEqual([
      'Clicked: not yet',
      'Redirected: not yet',
      'Arrived with tags: not yet',
      'Measured and sorted: not yet',
    ]);
    const open = screen.getByRole('link', { name: 'Open here' });
    expect([open.getAttribute('href'), open.getAttribute('rel')]).toEqual([trial().address, 'noreferrer']);
    expect(screen.getByAltText(`Code that says ${trial().address}`).getAttribute('src')).toBe(
      '/api/v1/trials/t1/code.svg',
    );
    expect(screen.queryByText('Found')).toBeNull();
  });

  it('says at which step and redirect it failed, each thing once', async () => {
    show(<Proof />, { 'GET /api/v1/trials/{id}': { data: lost } }, 'owner', '/proof?trial=t1');
    expect(await screen.findByText(/arrived without utm_source/)).toBeTruthy();
    expect(stations()).toEqual([
      'Clicked: done',
      'Redirected: done',
      'Arrived with tags: failed',
      'Measured and sorted: done',
    ]);
    expect(within(screen.getByRole('list', { name: 'Findings' })).getAllByRole('listitem')).toHaveLength(1);
    const hops = within(screen.getByRole('list', { name: 'With tags' })).getAllByRole('listitem');
    expect(hops.map((hop) => within(hop).queryByRole('img') !== null)).toEqual([true, false]);
    expect(screen.getByText('Opened 2 times by scanners and other programs, which spoils nothing.')).toBeTruthy();
    expect(screen.getByText('No tags.')).toBeTruthy();
  });

  it('has no address once it is over', async () => {
    const over = trial({ endsAt: '2026-11-30T10:00:00Z', verdict: 'notTried', says: 'Nobody opened the address.' });
    show(<Proof />, { 'GET /api/v1/trials/{id}': { data: over } }, 'owner', '/proof?trial=t1');
    expect(await screen.findByText(/The address ended at/)).toBeTruthy();
    expect(screen.queryByRole('link', { name: 'Open here' })).toBeNull();
  });

  it('is in the list with what came of it', async () => {
    show(<Proof />, { 'GET /api/v1/trials': { data: [trial({ id: 't2' }), lost] } }, 'owner', '/proof?part=trials');
    expect(await screen.findByText('2 trials, 1 failed')).toBeTruthy();
    expect(screen.getAllByRole('link').map((l) => l.getAttribute('href'))).toContain('/proof?trial=t1');
  });

  it('begins from a link, which says how the last one went', async () => {
    const sent = show(<TryLink linkId="l1" />, {
      'GET /api/v1/trials': { data: [lost] },
      'POST /api/v1/trials': { refused: 'The host waits for approval.' },
    });
    expect(await screen.findByText('Tried 1 minute ago: arrives as Direct')).toBeTruthy();
    fireEvent.click(screen.getByRole('button', { name: 'Try it' }));
    expect(await screen.findByRole('alert')).toHaveProperty('textContent', 'The host waits for approval.');
    await waitFor(() => expect(sent).toContainEqual(expect.objectContaining({ body: { linkId: 'l1' } })));
  });

  it('is nothing a viewer begins', async () => {
    show(<TryLink linkId="l1" />, { 'GET /api/v1/trials': { data: [lost] } }, 'viewer');
    expect(await screen.findByText(/Tried/)).toBeTruthy();
    expect(screen.queryByRole('button', { name: 'Try it' })).toBeNull();
  });
});
