import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { type Schema } from '../../api/client';
import { ago, count, exact } from '../../parts/format';
import { FormField } from '../../parts/FormField';
import { usePerson } from '../../parts/person';
import { passingHostAdd, passingHostCount, passingHostRemove, passingHostsQuery } from './queries';

const visitsOf = (visits: number) => `${count(visits)} ${visits === 1 ? 'visit' : 'visits'}`;

/** Hosts people pass through on their way back, such as a payment page. What listing one would change is counted first. */
export function PassingHosts() {
  const owner = usePerson().role === 'owner';
  const [host, setHost] = useState('');
  const [effect, setEffect] = useState<Schema['PassingHostEffect'] | null>(null);
  const hosts = useQuery(passingHostsQuery());
  const look = useMutation({ ...passingHostCount(), onSuccess: setEffect });
  const add = useMutation({
    ...passingHostAdd(),
    onSuccess: () => {
      setEffect(null);
      setHost('');
    },
  });
  const remove = useMutation(passingHostRemove());
  const problem = look.error ?? add.error ?? remove.error;

  function ask(wanted: string) {
    setHost(wanted);
    look.mutate(wanted);
  }

  return (
    <section aria-label="Hosts people pass through" className="flex flex-col gap-3">
      <h2 className="font-medium">Hosts people pass through</h2>
      <p className="text-quiet">
        When people come back from a payment or sign-in page, their visit goes on and keeps its source. List the hosts
        of such pages here; subdomains are included.
      </p>
      {owner && hosts.data && hosts.data.suggested.length > 0 && (
        <ul aria-label="Suggested hosts" className="flex flex-col gap-1">
          {hosts.data.suggested.map((suggested) => (
            <li key={suggested.host} className="flex items-center gap-3">
              <span>
                <span className="font-mono">{suggested.host}</span> looks like one: {visitsOf(suggested.visits)} came
                from it in the middle of a purchase.
              </span>
              <button type="button" className="button-plain" onClick={() => ask(suggested.host)}>
                Preview effect of {suggested.host}
              </button>
            </li>
          ))}
        </ul>
      )}
      {owner && (
        <form
          className="flex flex-wrap items-end gap-3"
          onSubmit={(e) => {
            e.preventDefault();
            look.mutate(host);
          }}
        >
          <FormField label="Host">
            <input
              className="input w-80 font-mono text-xs"
              value={host}
              placeholder="pay.example"
              onChange={(e) => {
                setHost(e.target.value);
                setEffect(null);
              }}
            />
          </FormField>
          <button type="submit" className="button" disabled={!host.trim() || look.isPending}>
            Preview effect
          </button>
        </form>
      )}
      {problem && (
        <p role="alert" className="text-error">
          {problem.message}
        </p>
      )}
      {effect && (
        <div role="region" aria-label="Effect on visits" className="rounded border border-line-strong p-4">
          <p>
            {effect.visits === 0
              ? `No visit came from ${effect.host} so far.`
              : `${visitsOf(effect.visits)} came from ${effect.host}; they are worked out again and join the visits they went on from.`}
          </p>
          <div className="mt-3 flex gap-2">
            <button
              type="button"
              className="button-main"
              disabled={add.isPending}
              onClick={() => add.mutate(effect.host)}
            >
              List {effect.host}
            </button>
            <button type="button" className="button" onClick={() => setEffect(null)}>
              Cancel
            </button>
          </div>
        </div>
      )}
      <ul className="flex flex-col" aria-label="Listed hosts">
        {hosts.data?.hosts.map((entry) => (
          <li key={entry.id} className="flex items-center gap-4 border-b border-line py-2">
            <span className="min-w-0 flex-1 font-mono">{entry.host}</span>
            <span className="text-quiet">
              by {entry.addedBy}, <span title={exact(entry.addedAt)}>{ago(entry.addedAt)}</span>
            </span>
            {owner && (
              <button
                type="button"
                className="button-plain"
                aria-label={`Remove ${entry.host}`}
                onClick={() => remove.mutate(entry.id)}
              >
                Remove
              </button>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
