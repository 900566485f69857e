import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { figures } from '../../parts/board/measures.test';
import { show } from '../../test/show';
import { Arrivals } from './Arrivals';

const row = (key: string | null) => ({ keys: [key], figures, before: null, beside: null, series: null });
const answer = (more: object = {}) => ({
  from: '2026-10-31',
  to: '2026-11-29',
  rows: [],
  found: 0,
  rest: null,
  restRows: 0,
  total: figures,
  before: null,
  series: [],
  per: 'day',
  names: { campaign: { bulb_sale: 'Bulb Sale' } },
  unknown: {},
  sort: '-visits',
  revenueElsewhere: [],
  costElsewhere: [],
  refundsElsewhere: [],
  dailyVisitors: false,
  shareWithId: 1,
  lost: 0,
  manyValues: [],
  named: [],
  freshness: { upTo: null, waiting: 0 },
  campaigns: [],
  ...more,
});

/** Shows Arrivals, and gives what was asked of the report. */
function arrivals(address = '/arrivals?rows=campaign,medium', more: object = {}) {
  const asked: Record<string, unknown>[] = [];
  show(
    <Arrivals />,
    {
      'GET /api/v1/convention': { data: { document: { fields: [] } } },
      'GET /api/v1/arrivals': ({ query }) => {
        asked.push(query!);
        const order = (query!.sort as string | undefined) ?? '-visits';
        const deep = ((query!.where as string[] | undefined) ?? []).some((w) => w.startsWith('campaign:'));
        return query!.rows === '' || query!.rows === undefined
          ? answer({ series: [{ day: '2026-11-28', visits: 5, convertingVisits: 0 }] })
          : answer({
              rows: deep ? [row('email')] : [row('bulb_sale'), row('fern'), row(null)],
              found: 3,
              sort: order,
              unknown: { campaign: ['fern'] },
              ...(deep && (query!.size as number) < 5_000 && { rest: figures, restRows: 12 }),
              ...more,
            });
      },
    },
    'owner',
    address,
  );
  return asked;
}

const lineOf = (name: string) => screen.getByText(name).closest<HTMLElement>('[role=row]')!;

describe('Arrivals', () => {
  it('open rows into the rows below them', async () => {
    const asked = arrivals();
    await screen.findByText('Bulb Sale');
    expect(lineOf('Bulb Sale').getAttribute('aria-expanded')).toBe('false');
    fireEvent.click(within(lineOf('Bulb Sale')).getByRole('button', { name: 'Open the row' }));
    expect(await screen.findByText('email')).toBeTruthy();
    expect(asked.find((a) => a.rows === 'medium')).toMatchObject({ where: ['campaign:is:bulb_sale'] });
    expect(lineOf('email').getAttribute('aria-level')).toBe('3');
    fireEvent.click(within(lineOf('Bulb Sale')).getByRole('button', { name: 'Close the row' }));
    expect(screen.queryByText('email')).toBeNull();
  });

  it('say which campaigns nobody planned', async () => {
    arrivals();
    await screen.findByText('fern');
    expect(within(lineOf('fern')).getByText('No campaign of the Plan has this value. Add it to the Plan')).toBeTruthy();
    expect(within(lineOf('Bulb Sale')).getByText('bulb_sale')).toBeTruthy();
    expect(lineOf('No campaign').textContent).not.toContain('No campaign of the Plan');
  });

  it('show the rows beyond a page together, until they are asked for', async () => {
    const asked = arrivals();
    await screen.findByText('Bulb Sale');
    fireEvent.click(within(lineOf('Bulb Sale')).getByRole('button', { name: 'Open the row' }));
    fireEvent.click(await screen.findByRole('button', { name: 'Show them' }));
    await waitFor(() => expect(asked.at(-1)).toMatchObject({ rows: 'medium', size: 5_000 }));
    await waitFor(() => expect(screen.queryByText('12 more')).toBeNull());
  });

  it('are narrowed to a row with one key', async () => {
    const asked = arrivals();
    await screen.findByText('Bulb Sale');
    fireEvent.keyDown(lineOf('Bulb Sale'), { key: 'f' });
    await screen.findByRole('button', { name: 'Remove the filter campaign is Bulb Sale' });
    await waitFor(() => expect(asked.at(-1)).toMatchObject({ where: ['campaign:is:bulb_sale'] }));
    fireEvent.click(screen.getByRole('button', { name: /Remove the filter/ }));
    await screen.findByText('fern');
  });

  it('keep everything in the address', async () => {
    const asked = arrivals(
      '/arrivals?rows=source&from=2026-11-01&to=2026-11-07&compare=before&where=device:is:phone&sort=-revenue&stations=visits,revenue&columns=bounceRate&search=x&page=2&size=25',
    );
    await waitFor(() =>
      expect(asked.find((a) => a.rows === 'source')).toEqual({
        from: '2026-11-01',
        to: '2026-11-07',
        rows: 'source',
        where: ['device:is:phone'],
        measures: 'visits,revenue,bounceRate,conversionRate',
        compare: 'before',
        sort: '-revenue',
        search: 'x',
        page: 2,
        size: 25,
      }),
    );
    await screen.findByText('fern');
    expect(screen.getAllByRole('columnheader').map((h) => h.textContent)).toEqual([
      'source',
      'Visits',
      'Revenue',
      'Bounce rate',
    ]);
    expect(screen.getByRole('columnheader', { name: 'Revenue' }).getAttribute('aria-sort')).toBe('descending');
  });

  it('offer only values that occur, with their visits', async () => {
    const asked = arrivals();
    await screen.findByText('Bulb Sale');
    fireEvent.click(screen.getByRole('button', { name: 'Filter' }));
    const values = await screen.findByRole('list', { name: 'Values' });
    fireEvent.click(await within(values).findByRole('button', { name: /fern/ }));
    await waitFor(() =>
      expect(asked.some((a) => (a.where as string[] | undefined)?.[0] === 'source:is:fern')).toBe(true),
    );
  });

  it('offer kinds of conversions and names of events as figures, with how often they occur', async () => {
    const asked = arrivals('/arrivals?rows=campaign', { named: [{ measure: 'conversions:day ticket', count: 1_204 }] });
    await screen.findByText('Bulb Sale');
    fireEvent.click(screen.getByRole('button', { name: 'Figures' }));
    const line = await screen.findByRole('group', { name: 'On the line' });
    fireEvent.click(within(line).getByRole('checkbox', { name: /^day ticket\s*1,204$/ }));
    await waitFor(() => expect(asked.some((a) => String(a.measures).includes('conversions:day ticket'))).toBe(true));
    expect(await screen.findByRole('columnheader', { name: 'day ticket' })).toBeDefined();
  });

  it('say what to do where nothing arrived', async () => {
    arrivals('/arrivals', { total: { ...figures, visits: 0, clicks: 0, cost: null }, rows: [] });
    await screen.findByText('No visits in this range');
  });

  it('show what was paid where nobody came', async () => {
    const cost = { amount: '5.00', currency: 'EUR' };
    arrivals('/arrivals', { total: { ...figures, visits: 0, clicks: 0, cost }, rows: [] });
    await screen.findByRole('treegrid');
    expect(screen.queryByText('No visits in this range')).toBeNull();
  });

  it('follow a model of credit, which they say', async () => {
    const asked = arrivals('/arrivals?rows=campaign&credit=ends:40-20&creditBeside=first&creditDays=30');
    expect(
      await screen.findByText(
        'Conversions and revenue by ends (40 % first, 20 % last), visits up to 30 days before each count; gained by first touch',
      ),
    ).toBeTruthy();
    await waitFor(() =>
      expect(asked.find((a) => a.rows === 'campaign')).toMatchObject({
        credit: 'ends:40-20',
        creditBeside: 'first',
        creditDays: 30,
      }),
    );
  });

  it('are given a model and its settings', async () => {
    const asked = arrivals('/arrivals?rows=campaign');
    fireEvent.click(await screen.findByRole('button', { name: 'Credit' }));
    const menu = await screen.findByRole('dialog', { name: 'Credit' });
    fireEvent.click(within(menu).getByRole('radio', { name: /^Fading/ }));
    await waitFor(() => expect(asked.at(-1)).toMatchObject({ credit: 'fading:10' }));
    const halfLife = await within(menu).findByRole('spinbutton', { name: 'Half-life in days' });
    fireEvent.change(halfLife, { target: { value: '400' } });
    fireEvent.blur(halfLife);
    expect((halfLife as HTMLInputElement).value).toBe('10');
    fireEvent.change(halfLife, { target: { value: '7' } });
    fireEvent.blur(halfLife);
    await waitFor(() => expect(asked.at(-1)).toMatchObject({ credit: 'fading:7' }));
    fireEvent.click(within(menu).getByRole('radio', { name: /^to its own visit/ }));
    await waitFor(() => expect(asked.at(-1)).not.toHaveProperty('credit'));
  });
});
