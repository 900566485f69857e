import { fireEvent, screen, waitFor } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import type { Schema } from '../../api/client';
import { show } from '../../test/show';
import { RateList } from './RateList';

type Answer = Schema['CostRatesAnswer'];
const first: Schema['CostRate'] = { from: null, basis: 'click', amount: 0.0625, to: null };

function list(answer: (dry: boolean) => Answer, mayWrite = true) {
  const save = vi.fn((_: unknown, dry: boolean) => Promise.resolve(answer(dry)));
  show(<RateList rates={[first]} currency="EUR" of="this placement" mayWrite={mayWrite} save={save} />);
  return save;
}

describe('the rates of a placement or link', () => {
  it('says each with all of its digits, and a viewer changes none', () => {
    list(() => ({ rates: [], correction: null }), false);
    expect(screen.getByText('€0.0625 per click')).toBeTruthy();
    expect(screen.queryByRole('button')).toBeNull();
  });

  it('saves at once what leaves the past alone', async () => {
    const save = list(() => ({ rates: [], correction: null }));
    fireEvent.change(screen.getByLabelText('Amount in EUR'), { target: { value: '0.07' } });
    fireEvent.click(screen.getByText('Add rate'));
    await waitFor(() => expect(save).toHaveBeenCalledTimes(2));
    const added = { from: '2026-11-29', basis: 'click', amount: 0.07, to: null };
    expect(save.mock.calls.map(([, dry]) => dry)).toEqual([true, false]);
    expect(save.mock.calls[1]![0]).toEqual({ rates: [first, added], seen: [first], correctsPast: false });
  });

  it('asks before it changes what earlier days cost', async () => {
    const euros = (amount: string) => ({ amount, currency: 'EUR' });
    const correction = { from: '2026-10-01', before: euros('12.00'), after: euros('0.00') };
    const save = list((dry) => ({ rates: [], correction: dry ? correction : null }));
    fireEvent.click(screen.getByRole('button', { name: 'Remove the rate ever since' }));
    expect((await screen.findByRole('alert')).textContent).toContain(
      'This changes what earlier days cost since 1 Oct 2026: €0.00 instead of €12.00 in all.',
    );
    expect(save).toHaveBeenCalledTimes(1);
    fireEvent.click(screen.getByText('Correct the past'));
    await waitFor(() => expect(screen.queryByRole('alert')).toBeNull());
    expect(save).toHaveBeenLastCalledWith({ rates: [], seen: [first], correctsPast: true }, false);
  });
});
