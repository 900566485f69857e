import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { type Schema } from '../../api/client';
import { dayOf } from '../../parts/days';
import { count } from '../../parts/format';
import { FormField } from '../../parts/FormField';
import { usePerson } from '../../parts/person';
import { retentionChange, retentionCount, retentionQuery } from './queries';

const some = (n: number, one: string, more: string) => `${count(n)} ${n === 1 ? one : more}`;

/** How long visits and clicks are kept one by one. What another span would delete is counted first. */
export function RetentionSpan() {
  const owner = usePerson().role === 'owner';
  const kept = useQuery(retentionQuery());
  const [typed, setTyped] = useState<string | null>(null);
  const [effect, setEffect] = useState<Schema['RetentionEffect'] | null>(null);
  const look = useMutation({ ...retentionCount(), onSuccess: setEffect });
  const change = useMutation({
    ...retentionChange(),
    onSuccess: () => {
      setEffect(null);
      setTyped(null);
    },
  });
  const problem = look.error ?? change.error;
  if (!kept.data) return null;
  const months = typed ?? String(kept.data.months);
  return (
    <section aria-label="Single visits and clicks" className="flex flex-col gap-3">
      <h2 className="font-medium">Single visits and clicks</h2>
      <p className="text-quiet">
        Single visits and clicks are deleted after this time. Reports keep the days before.
        {kept.data.rawFrom && ` They are kept from ${dayOf(kept.data.rawFrom)} on.`}
      </p>
      <form
        className="flex flex-wrap items-end gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          look.mutate(Number(months));
        }}
      >
        <FormField label="Whole months kept">
          <input
            className="input w-24 text-right tabular-nums"
            inputMode="numeric"
            value={months}
            readOnly={!owner}
            onChange={(e) => {
              setTyped(e.target.value);
              setEffect(null);
            }}
          />
        </FormField>
        {owner && (
          <button
            type="submit"
            className="button"
            disabled={look.isPending || !/^\d+$/.test(months) || Number(months) === kept.data.months}
          >
            Preview effect
          </button>
        )}
      </form>
      {problem && (
        <p role="alert" className="text-error">
          {problem.message}
        </p>
      )}
      {effect && (
        <div role="region" aria-label="Effect on visits and clicks" className="rounded border border-line-strong p-4">
          <p>
            {effect.visits + effect.clicks === 0
              ? 'Nothing is deleted now.'
              : `${some(effect.visits, 'visit', 'visits')} and ${some(effect.clicks, 'click', 'clicks')} before ${dayOf(effect.from)} are deleted for good. Reports keep them.`}
          </p>
          <div className="mt-3 flex gap-2">
            <button
              type="button"
              className="button-main"
              disabled={change.isPending}
              onClick={() => change.mutate(Number(months))}
            >
              Keep {months} {months === '1' ? 'month' : 'months'}
            </button>
            <button type="button" className="button" onClick={() => setEffect(null)}>
              Cancel
            </button>
          </div>
        </div>
      )}
    </section>
  );
}
