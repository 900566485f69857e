import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { choose, show } from '../../test/show';
import { ConversionKinds } from './ConversionKinds';

const kind = {
  id: 'k1',
  name: 'newsletter',
  test: 'page',
  text: '/welcome',
  value: { amount: '5.00', currency: 'EUR' },
  takesValue: false,
  countsEach: false,
  conversions: 214,
  madeBy: 'Orla Fenwick',
  madeAt: '2026-11-20T10:00:00Z',
};
const answers = (more: object = {}) => ({
  'GET /api/v1/conversion-kinds': {
    data: {
      kinds: [kind],
      reported: [{ name: 'ticket', conversions: 90 }],
      waiting: 0,
      currency: 'EUR',
      waitingRefunds: 0,
      refunds: [],
      ...more,
    },
  },
  'POST /api/v1/conversion-kinds/count': {
    data: { times: 30, visits: 21, pages: [{ page: 'marrowmere.example/welcome', times: 30 }], pageCount: 4 },
  },
});

describe('conversions', () => {
  it('say when they count, and which pages report themselves', async () => {
    show(<ConversionKinds tabs={null} />, answers({ waiting: 3 }));
    const row = within(await screen.findByRole('table', { name: 'Defined conversions' })).getAllByRole('row')[1]!;
    expect(row.textContent).toContain('page is /welcome · once in a visit€5.00214');
    expect(screen.getByText('90 in the last 30 days')).toBeTruthy();
    expect(screen.getByText(/3 steps to\s+go/)).toBeTruthy();
  });

  it('say which refunds wait for their order', async () => {
    show(
      <ConversionKinds tabs={null} />,
      answers({
        waitingRefunds: 2,
        refunds: [{ orderId: 'A-17', day: '2026-11-20', value: { amount: '18.50', currency: 'EUR' } }],
      }),
    );
    const part = await screen.findByRole('region', { name: 'Refunds without their order' });
    expect(part.textContent).toContain('2 refunds name an order that neither a page nor a server has reported.');
    expect(part.textContent).toContain('A-17€18.50, 20 Nov 2026');
  });

  it('are tried on the past and saved', async () => {
    const sent = show(<ConversionKinds tabs={null} />, answers());
    fireEvent.click(await screen.findByRole('button', { name: 'New conversion' }));
    fireEvent.change(screen.getByLabelText('Name'), { target: { value: 'order' } });
    await choose('Counts when', 'a page is reached that is like');
    fireEvent.change(screen.getByLabelText(/^Page/), { target: { value: '/orders/*/thanks' } });
    fireEvent.change(screen.getByLabelText('Value of each, in EUR'), { target: { value: '2,50' } });
    fireEvent.click(screen.getByRole('button', { name: 'Try on the last 30 days' }));
    expect(await screen.findByText('It happened 30 times in 21 visits of the last 30 days.')).toBeTruthy();
    expect(screen.getByText('and 3 more pages')).toBeTruthy();
    const body = {
      name: 'order',
      test: 'pagePattern',
      text: '/orders/*/thanks',
      value: 2.5,
      takesValue: false,
      countsEach: false,
    };
    expect(sent[0]).toMatchObject({ call: 'POST /api/v1/conversion-kinds/count', body });
    fireEvent.click(screen.getByRole('button', { name: 'Save' }));
    await waitFor(() => expect(sent[1]).toMatchObject({ call: 'POST /api/v1/conversion-kinds', body }));
  });

  it('take their value from an event', async () => {
    const sent = show(<ConversionKinds tabs={null} />, answers());
    fireEvent.click(await screen.findByRole('button', { name: 'Change newsletter' }));
    await choose('Counts when', 'a page sends an event');
    fireEvent.click(screen.getByLabelText('Take the value from the event'));
    fireEvent.click(screen.getByLabelText(/^Count every time/));
    fireEvent.click(screen.getByRole('button', { name: 'Save' }));
    await waitFor(() =>
      expect(sent[0]).toMatchObject({
        call: 'PUT /api/v1/conversion-kinds/{id}',
        body: { test: 'event', value: null, takesValue: true, countsEach: true },
      }),
    );
  });

  it('are removed after a second word, by owners alone', async () => {
    const sent = show(<ConversionKinds tabs={null} />, answers());
    fireEvent.click(await screen.findByRole('button', { name: 'Remove newsletter' }));
    fireEvent.click(screen.getByRole('button', { name: 'Remove it and its conversions' }));
    await waitFor(() => expect(sent[0]).toMatchObject({ call: 'DELETE /api/v1/conversion-kinds/{id}' }));
  });

  it('are only read by others', async () => {
    show(<ConversionKinds tabs={null} />, answers({ kinds: [] }), 'viewer');
    expect(await screen.findByText(/No conversions are defined yet/)).toBeTruthy();
    expect(screen.queryByRole('button', { name: 'New conversion' })).toBeNull();
  });
});
