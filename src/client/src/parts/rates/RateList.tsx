import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { Refused, type Schema } from '../../api/client';
import { DateField } from '../DateField';
import { dayOf } from '../days';
import { FormField } from '../FormField';
import { money } from '../format';
import { usePerson } from '../person';
import { Select } from '../Select';

type Rate = Schema['CostRate'];
type Basis = Rate['basis'];
type Answer = Schema['CostRatesAnswer'];

interface RateListProps {
  title?: string;
  /** The rates as they are kept, in order. */
  rates: Rate[];
  currency: string;
  /** What the rates are of, as in “this placement”. */
  of: string;
  mayWrite: boolean;
  /** Keeps other rates, or with `dry` only says what that would change. */
  save: (change: { rates: Rate[]; seen: Rate[]; correctsPast: boolean }, dry: boolean) => Promise<Answer>;
}

const bases: [Basis, string][] = [
  ['click', 'per click'],
  ['visit', 'per visit'],
  ['conversion', 'per conversion'],
  ['shown', 'per thousand shown'],
  ['span', 'for a span of days'],
  ['nothing', 'nothing any more'],
];

/** What something costs from which day on. What earlier days cost changes only after a look at what that comes to. */
export function RateList({ title = 'Rates', rates, currency, of, mayWrite, save }: RateListProps) {
  const today = usePerson().today;
  const [basis, setBasis] = useState<Basis>('click');
  const [from, setFrom] = useState(today);
  const [to, setTo] = useState('');
  const [amount, setAmount] = useState('');
  const [asked, setAsked] = useState<{ rates: Rate[]; correction: NonNullable<Answer['correction']> } | null>(null);
  const change = useMutation({
    mutationFn: async ({ next, sure }: { next: Rate[]; sure: boolean }) => {
      const body = { rates: next, seen: rates, correctsPast: sure };
      const would = sure ? null : await save(body, true);
      if (would?.correction) return { next, correction: would.correction };
      await save(body, false);
      return null;
    },
    onSuccess: (stopped) => {
      setAsked(stopped ? { rates: stopped.next, correction: stopped.correction } : null);
      if (!stopped) setAmount('');
    },
  });
  const put = (next: Rate[]) => change.mutate({ next, sure: false });

  return (
    <section aria-label={title} className="flex flex-col gap-2">
      <h3 className="font-medium">{title}</h3>
      {rates.length === 0 && <p className="text-quiet">No rates: {of} costs nothing by use.</p>}
      <ul className="flex flex-col">
        {rates.map((rate) => (
          <li
            key={`${rate.basis} ${rate.from} ${rate.to}`}
            className="flex min-h-8 items-center gap-3 border-b border-line"
          >
            <span className="w-36 shrink-0 text-quiet">{whenOf(rate)}</span>
            <span className="flex-1 tabular-nums">
              {rate.basis === 'nothing' ? 'nothing' : `${priceOf(rate.amount, currency)} ${saysOf(rate.basis)}`}
            </span>
            {mayWrite && (
              <button
                type="button"
                className="button-plain"
                aria-label={`Remove the rate ${whenOf(rate)}`}
                disabled={change.isPending}
                onClick={() => put(rates.filter((r) => r !== rate))}
              >
                Remove
              </button>
            )}
          </li>
        ))}
      </ul>
      {mayWrite && (
        <form
          className="flex flex-wrap items-end gap-2"
          onSubmit={(e) => {
            e.preventDefault();
            put([
              ...rates.filter((r) => r.basis === 'span' || basis === 'span' || (r.from ?? '') !== from),
              { from: from || null, basis, amount: Number(amount || 0), to: basis === 'span' ? to : null },
            ]);
          }}
        >
          <FormField label="Paid">
            <Select value={basis} onChange={(next) => setBasis(next as Basis)} options={bases} className="w-40" />
          </FormField>
          {basis !== 'nothing' && (
            <FormField label={`Amount in ${currency}`}>
              <input
                type="number"
                min="0"
                step="any"
                required
                className="input w-28"
                value={amount}
                onChange={(e) => setAmount(e.target.value)}
              />
            </FormField>
          )}
          <FormField label={basis === 'span' ? 'First day' : 'From'}>
            <DateField value={from} onChange={setFrom} required={basis === 'span'} className="w-32" />
          </FormField>
          {basis === 'span' && (
            <FormField label="Last day">
              <DateField value={to} onChange={setTo} min={from} required className="w-32" />
            </FormField>
          )}
          <button type="submit" className="button" disabled={change.isPending}>
            Add rate
          </button>
          {basis === 'shown' && (
            <p className="basis-full text-quiet">
              How often it was shown comes from other systems: bring their figures in under Proof, Reconcile.
            </p>
          )}
        </form>
      )}
      {asked && (
        <div role="alert" className="rounded border border-warning p-3">
          <p>
            This changes what earlier days cost
            {asked.correction.from && <> since {dayOf(asked.correction.from)}</>}: {money(asked.correction.after)}{' '}
            instead of {money(asked.correction.before)} in all.
          </p>
          <div className="mt-2 flex gap-2">
            <button
              type="button"
              className="button"
              disabled={change.isPending}
              onClick={() => change.mutate({ next: asked.rates, sure: true })}
            >
              Correct the past
            </button>
            <button type="button" className="button-plain" onClick={() => setAsked(null)}>
              Cancel
            </button>
          </div>
        </div>
      )}
      {change.isError && (
        <p role="alert" className="text-error">
          {change.error instanceof Refused ? change.error.message : 'The rates could not be saved; try again.'}
        </p>
      )}
    </section>
  );
}

const saysOf = (basis: Basis) => bases.find(([b]) => b === basis)![1];

const whenOf = (rate: Rate) =>
  rate.basis === 'span' && rate.from && rate.to
    ? `${dayOf(rate.from)} to ${dayOf(rate.to)}`
    : rate.from
      ? `from ${dayOf(rate.from)}`
      : 'ever since';

/** A rate with as many digits as it has, at least the currency's own. */
function priceOf(amount: number, currency: string): string {
  return new Intl.NumberFormat('en-IE', { style: 'currency', currency, maximumFractionDigits: 6 }).format(amount);
}
