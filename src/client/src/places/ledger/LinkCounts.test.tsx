import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { figures } from '../../parts/board/measures.test';
import { show } from '../../test/show';
import { LinkCounts } from './LinkCounts';

const read = 'GET /api/v1/links/{id}/counts';

const counts = (more: object = {}) => ({
  clicks: 30,
  scans: 10,
  unique: 33,
  visits: 36,
  visitsDue: 38,
  others: { Crawler: 4, DoubleTap: 2 },
  unit: 'day',
  series: [
    { from: '2026-11-24T00:00:00Z', clicks: 10, scans: 0 },
    { from: '2026-11-25T00:00:00Z', clicks: 20, scans: 10 },
  ],
  countries: [
    { name: 'GB', hits: 30 },
    { name: '', hits: 10 },
  ],
  places: [],
  devices: [{ name: 'phone', hits: 40 }],
  referrers: [{ name: '', hits: 40 }],
  weekHours: Array.from({ length: 168 }, (_, i) => (i === 25 ? 40 : 0)),
  ...more,
});

const answer = (more: object = {}, of: object = {}) => ({
  data: { counts: counts(of), reuse: [], shared: null, visits: [], figures, timeZone: 'Europe/London', ...more },
});

describe('what was counted on a link', () => {
  it('is told as people, and everything else apart', async () => {
    show(<LinkCounts linkId="l1" />, { [read]: answer() });
    await screen.findByText(/30 clicks on the text link and 10 scans of the QR link, by 33 daily visitors/);
    const line = within(screen.getByText('In this range').closest<HTMLElement>('[role=row]')!);
    expect(line.getAllByRole('gridcell').map((c) => c.textContent)).toEqual([
      '200',
      '90.0 %1,250',
      '60.0 %750',
      '4.0 %50',
      '£15.00 each£900.00',
      '12',
      '1,000',
      '1:15',
    ]);
    expect(document.body.textContent).toContain('4 crawlers, 2 double taps');
    expect(document.body.textContent).toContain('94.7 % of 38 expected');
    expect(screen.getByText('United Kingdom')).toBeTruthy();
    expect(screen.getByText('not known')).toBeTruthy();
    expect(screen.getByText('no referrer')).toBeTruthy();
  });

  it('is drawn over time and by hour of the week, from zero', async () => {
    show(<LinkCounts linkId="l1" />, { [read]: answer() });
    const series = await screen.findByRole('img', { name: /^Clicks and scans by day/ });
    const bars = [...series.querySelectorAll('rect')].filter((r) => r.querySelector('title'));
    expect(bars.map((r) => Math.round(Number(r.getAttribute('height'))))).toEqual([13, 40]);
    expect(bars[0]!.querySelector('title')?.textContent).toBe('24 Nov 2026: 10 clicks and scans');
    const week = screen.getByRole('img', { name: 'Clicks and scans by weekday and hour' });
    expect(week.querySelectorAll('rect')).toHaveLength(7 * 24);
    expect(within(week).getByText('Tue 1:00: 40')).toBeTruthy();
  });

  it('is asked for a range of one’s own only when both days are there', async () => {
    const asked: unknown[] = [];
    show(<LinkCounts linkId="l1" />, {
      [read]: ({ query }) => {
        asked.push(query);
        return answer().data;
      },
    });
    await screen.findByText(/clicks on the text link/);
    fireEvent.click(screen.getByText('From … to'));
    fireEvent.change(screen.getByLabelText('First day'), { target: { value: '2026-11-01' } });
    fireEvent.blur(screen.getByLabelText('First day'));
    expect(asked).toEqual([{ range: 'month' }]);
    fireEvent.change(screen.getByLabelText('Last day'), { target: { value: '2026-11-20' } });
    fireEvent.blur(screen.getByLabelText('Last day'));
    await waitFor(() => expect(asked).toContainEqual({ range: 'own', from: '2026-11-01', to: '2026-11-20' }));
  });

  it('says so where nobody used it', async () => {
    show(<LinkCounts linkId="l1" />, {
      [read]: answer({}, { clicks: 0, scans: 0, visits: 0, visitsDue: 0, others: {} }),
    });
    expect(await screen.findByText('No clicks or scans in this range.')).toBeTruthy();
    expect(document.body.textContent).not.toContain('NaN');
  });

  it('tells that a printed code is used elsewhere, since when and by what evidence', async () => {
    const reuse = [
      { host: 'mossgate.example', hits: 7, since: '2026-11-20T08:00:00Z' },
      { host: '', hits: 2, since: '2026-11-22T08:00:00Z' },
    ];
    show(<LinkCounts linkId="l1" />, { [read]: answer({ reuse }) });
    const note = await screen.findByRole('note');
    expect(note.textContent).toContain('used outside print, since');
    expect(
      within(note)
        .getAllByRole('listitem')
        .map((i) => i.textContent?.split(', since')[0]),
    ).toEqual(['7 from mossgate.example', '2 link previews by chats and networks']);
  });

  it('names towns only where they are known', async () => {
    show(<LinkCounts linkId="l1" />, { [read]: answer({}, { places: [{ name: 'Mossgate, Vale', hits: 40 }] }) });
    expect(await screen.findByText('Town')).toBeTruthy();
    expect(screen.getByText('Mossgate, Vale')).toBeTruthy();
  });

  it('is shown to people without an account, until it is taken back', async () => {
    const sent = show(<LinkCounts linkId="l1" />, { [read]: answer() });
    fireEvent.click(await screen.findByRole('button', { name: /Create a results page/ }));
    await waitFor(() => expect(sent[0]?.call).toBe('POST /api/v1/links/{id}/results-page'));
  });

  it('has a results page that is taken back in one stroke', async () => {
    const sent = show(<LinkCounts linkId="l1" />, {
      [read]: answer({ shared: { address: 'https://beacon.example/r/secret', onWherePage: false } }),
    });
    expect((await screen.findByRole('link', { name: 'Results page' })).getAttribute('rel')).toBe('noreferrer');
    fireEvent.click(screen.getByRole('button', { name: 'Withdraw' }));
    await waitFor(() =>
      expect(sent[0]).toMatchObject({ call: 'DELETE /api/v1/links/{id}/results-page', path: { id: 'l1' } }),
    );
  });

  it('is not handed on by somebody who only looks', async () => {
    show(
      <LinkCounts linkId="l1" />,
      { [read]: answer({ shared: { address: 'https://beacon.example/r/secret', onWherePage: false } }) },
      'viewer',
    );
    await screen.findByText(/clicks on the text link/);
    expect(screen.queryByRole('link', { name: 'Results page' })).toBeNull();
  });
});
