import { useMutation, useQuery } from '@tanstack/react-query';
import { useState, type ReactNode } from 'react';
import { type Schema } from '../../api/client';
import { ago, count, exact } from '../../parts/format';
import { Head } from '../../parts/Head';
import { usePerson } from '../../parts/person';
import { FormField } from '../../parts/FormField';
import { refusedHostsQuery, refusedHostCount, hostRefuse, hostAllow } from './queries';

/** Hosts that nothing may lead to, whoever asks. What one would stop is counted first. */
export function RefusedHosts({ tabs }: { tabs: ReactNode }) {
  const person = usePerson();
  const owner = person.role === 'owner';
  const [host, setHost] = useState('');
  const [effect, setEffect] = useState<Schema['RefusedHostEffect'] | null>(null);
  const hosts = useQuery(refusedHostsQuery());
  const look = useMutation({ ...refusedHostCount(), onSuccess: setEffect });
  const refuse = useMutation({
    ...hostRefuse(),
    onSuccess: () => {
      setEffect(null);
      setHost('');
    },
  });
  const allow = useMutation(hostAllow());
  const problem = look.error ?? refuse.error ?? allow.error;
  return (
    <>
      <Head title="Blocked hosts" state={hosts.data && `${count(hosts.data.length)} on the list`}>
        {tabs}
      </Head>
      <div className="min-h-0 flex-1 overflow-auto bg-sheet p-5">
        <div className="flex max-w-4xl flex-col gap-6">
          <p className="text-quiet">
            No link of this workspace may open these hosts or their subdomains, even if approved. Short links to them
            stop working at once, and work again when the host is unblocked.
          </p>
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
                  placeholder="refused.example"
                  onChange={(e) => {
                    setHost(e.target.value);
                    setEffect(null);
                  }}
                />
              </FormField>
              <button type="submit" className="button" disabled={!host.trim() || look.isPending}>
                Preview effect
              </button>
              {problem && (
                <p role="alert" className="w-full text-error">
                  {problem.message}
                </p>
              )}
            </form>
          )}
          {effect && (
            <section className="rounded border border-line-strong p-4" aria-label="Effect">
              <p>
                {effect.shortLinks === 0
                  ? `No short link leads to ${effect.host}.`
                  : `${count(effect.shortLinks)} ${effect.shortLinks === 1 ? 'short link leads' : 'short links lead'} to ${effect.host} and would answer “no such link”:`}
              </p>
              <ul className="mt-1 font-mono text-xs">
                {effect.sample.map((url) => (
                  <li key={url}>{url}</li>
                ))}
              </ul>
              <div className="mt-3 flex gap-2">
                <button
                  type="button"
                  className="button-main"
                  disabled={refuse.isPending}
                  onClick={() => refuse.mutate(effect.host)}
                >
                  Block {effect.host}
                </button>
                <button type="button" className="button" onClick={() => setEffect(null)}>
                  Cancel
                </button>
              </div>
            </section>
          )}
          <ul className="flex flex-col" aria-label="Blocked hosts">
            {hosts.data?.map((entry) => (
              <li key={entry.id} className="flex items-center gap-4 border-b border-line py-2">
                <span className="min-w-0 flex-1 font-mono">{entry.host}</span>
                <span className="text-quiet">
                  by {entry.refusedBy}, <span title={exact(entry.refusedAt)}>{ago(entry.refusedAt)}</span>
                </span>
                {owner && (
                  <button
                    type="button"
                    className="button-plain"
                    aria-label={`Unblock ${entry.host}`}
                    onClick={() => allow.mutate(entry.id)}
                  >
                    Unblock
                  </button>
                )}
              </li>
            ))}
          </ul>
        </div>
      </div>
    </>
  );
}
