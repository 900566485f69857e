import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import type { Schema } from '../../api/client';
import { choose, show } from '../../test/show';
import { LinkRoute } from './LinkRoute';

const read = 'GET /api/v1/links/{id}/route';
const change = 'PUT /api/v1/links/{id}/route';
const page = 'https://marrowmere.example/orchid-week';

const route = (more: Partial<Schema['RouteAnswer']> = {}): Schema['RouteAnswer'] => ({
  leadsTo: page,
  url: `${page}?utm_source=gate_poster`,
  state: 'live',
  paused: false,
  endsAt: null,
  endsAtLocal: null,
  fallback: null,
  mostUses: null,
  usesLeft: null,
  turns: [],
  permanent: false,
  withoutTags: false,
  carries: 'nothing',
  clickIds: false,
  timeZone: 'Europe/London',
  revision: 3,
  history: [],
  ...more,
});

async function edited(more: Partial<Schema['RouteAnswer']>, answer: Parameters<typeof show>[1] = {}) {
  const sent = show(<LinkRoute linkId="l1" />, {
    [read]: { data: route(more) },
    [change]: { data: route({ ...more, revision: 4 }) },
    ...answer,
  });
  fireEvent.click(await screen.findByRole('button', { name: 'Change destination' }));
  return sent;
}

describe('where short links lead', () => {
  it('is said with its end, its other pages and what goes along', async () => {
    show(<LinkRoute linkId="l1" />, {
      [read]: {
        data: route({
          mostUses: 500,
          usesLeft: 120,
          fallback: 'https://marrowmere.example/over',
          turns: [{ leadsTo: 'https://marrowmere.example/app', from: null, until: null, device: 'phone' }],
          permanent: true,
          withoutTags: true,
          carries: 'keepTags',
        }),
      },
    });
    await screen.findByText(page);
    const text = document.body.textContent;
    expect(text).toContain('ends after 500 uses, 120 of them left');
    expect(text).toContain('then opens https://marrowmere.example/over');
    expect(text).toContain('https://marrowmere.example/app');
    expect(text).toContain('redirects permanently (301)');
    expect(text).toContain('sends no tags');
  });

  it('is changed with the revision that was looked at', async () => {
    const sent = await edited({});
    fireEvent.change(screen.getByLabelText(/Destination page/), {
      target: { value: 'https://marrowmere.example/visit' },
    });
    fireEvent.click(screen.getByLabelText('paused'));
    fireEvent.click(screen.getByRole('button', { name: 'Change' }));
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(sent[0]).toMatchObject({
      call: change,
      path: { id: 'l1' },
      body: { leadsTo: 'https://marrowmere.example/visit', paused: true, endsAt: null, mostUses: null, revision: 3 },
    });
    expect(await screen.findByRole('button', { name: 'Change destination' })).toBeTruthy();
  });

  it('asks for a page after the end only where there is an end', async () => {
    const sent = await edited({});
    expect(screen.queryByLabelText(/Destination after the end/)).toBeNull();
    fireEvent.change(screen.getByLabelText(/Ends after this many/), { target: { value: '200' } });
    fireEvent.change(screen.getByLabelText(/Destination after the end/), {
      target: { value: 'https://marrowmere.example/over' },
    });
    fireEvent.click(screen.getByRole('button', { name: 'Change' }));
    await waitFor(() =>
      expect(sent[0]?.body).toMatchObject({ mostUses: 200, fallback: 'https://marrowmere.example/over' }),
    );
  });

  it('can be another page for some times or a kind of device', async () => {
    const sent = await edited({});
    fireEvent.click(screen.getByRole('button', { name: /Add a redirect rule/ }));
    fireEvent.click(screen.getByRole('button', { name: /Add a redirect rule/ }));
    fireEvent.change(screen.getByLabelText('Rule 1'), { target: { value: 'https://marrowmere.example/soon' } });
    fireEvent.change(screen.getAllByLabelText('Until')[0]!, { target: { value: '24 Dec 2026' } });
    fireEvent.blur(screen.getAllByLabelText('Until')[0]!);
    fireEvent.change(screen.getAllByLabelText('Time of Until')[0]!, { target: { value: '18:00' } });
    fireEvent.blur(screen.getAllByLabelText('Time of Until')[0]!);
    fireEvent.change(screen.getByLabelText('Rule 2'), { target: { value: 'https://marrowmere.example/app' } });
    await choose('Device for rule 2', 'on a tablet');
    fireEvent.click(screen.getByRole('button', { name: 'Change' }));
    await waitFor(() =>
      expect(sent[0]?.body).toMatchObject({
        turns: [
          { leadsTo: 'https://marrowmere.example/soon', from: null, until: '2026-12-24T18:00', device: null },
          { leadsTo: 'https://marrowmere.example/app', from: null, until: null, device: 'tablet' },
        ],
      }),
    );
  });

  it('lets another page go again', async () => {
    const turn = { leadsTo: 'https://marrowmere.example/app', from: null, until: null, device: 'phone' };
    const sent = await edited({ turns: [turn, { ...turn, device: 'tablet' }] });
    fireEvent.click(screen.getByRole('button', { name: 'Remove rule 1' }));
    fireEvent.click(screen.getByRole('button', { name: 'Change' }));
    await waitFor(() => expect(sent[0]?.body).toMatchObject({ turns: [{ ...turn, device: 'tablet' }] }));
  });

  it('warns before a redirect browsers remember', async () => {
    await edited({});
    fireEvent.click(screen.getByLabelText('permanent redirect (301)'));
    expect(screen.getByText(/Browsers remember it/)).toBeTruthy();
  });

  it('keeps what was typed when somebody else was quicker', async () => {
    await edited({}, { [change]: { refused: 'Somebody changed where this link leads in the meantime.' } });
    fireEvent.change(screen.getByLabelText(/Destination page/), {
      target: { value: 'https://marrowmere.example/mine' },
    });
    fireEvent.click(screen.getByRole('button', { name: 'Change' }));
    expect((await screen.findByRole('alert')).textContent).toContain('in the meantime');
    expect(screen.getByLabelText<HTMLInputElement>(/Destination page/).value).toBe('https://marrowmere.example/mine');
  });

  it('is told with every change, to everybody, and changed by those who may', async () => {
    const before = { ...route(), leadsTo: 'https://marrowmere.example/old' };
    show(
      <LinkRoute linkId="l1" />,
      {
        [read]: {
          data: route({ history: [{ at: '2026-11-25T10:00:00Z', who: 'Tomas Birch', before, after: route() }] }),
        },
      },
      'viewer',
    );
    const changes = await screen.findByRole('list', { name: 'Changes' });
    expect(within(changes).getAllByRole('listitem')).toHaveLength(1);
    expect(changes.textContent).toContain('https://marrowmere.example/old');
    expect(changes.textContent).toContain('Tomas Birch');
    expect(screen.queryByRole('button')).toBeNull();
  });
});
