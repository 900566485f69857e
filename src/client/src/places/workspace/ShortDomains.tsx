import { useMutation, useQuery } from '@tanstack/react-query';
import { useState, type ReactNode } from 'react';
import { type Schema } from '../../api/client';
import { ago, count, exact } from '../../parts/format';
import { Head } from '../../parts/Head';
import { SeverityMark } from '../../parts/SeverityMark';
import { usePerson } from '../../parts/person';
import { FormField } from '../../parts/FormField';
import { shortDomainsQuery } from '../../api/queries';
import { shortDomainAdd, shortDomainCheck, shortDomainMakeDefault, shortDomainRemove } from './queries';

type Domain = Schema['ShortDomainAnswer'];

/** The workspace's short domains: which there are, whether they lead here, and which one links are made on. */
export function ShortDomains({ tabs }: { tabs: ReactNode }) {
  const person = usePerson();
  const owner = person.role === 'owner';
  const [address, setAddress] = useState('');
  const domains = useQuery(shortDomainsQuery());
  const check = useMutation(shortDomainCheck());
  const add = useMutation({
    ...shortDomainAdd(),
    onSuccess: (domain) => {
      setAddress('');
      check.mutate(domain.id);
    },
  });
  const putFirst = useMutation(shortDomainMakeDefault());
  const remove = useMutation(shortDomainRemove());
  const problem = add.error ?? check.error ?? putFirst.error ?? remove.error;
  const usable = domains.data?.filter((d) => d.usable).length;
  return (
    <>
      <Head title="Short domains" state={usable !== undefined && `${usable} can be used`}>
        {tabs}
      </Head>
      <div className="min-h-0 flex-1 overflow-auto bg-sheet p-5">
        <div className="flex max-w-4xl flex-col gap-6">
          {owner && (
            <form
              className="flex flex-wrap items-end gap-3"
              onSubmit={(e) => {
                e.preventDefault();
                add.mutate(address);
              }}
            >
              <FormField label="New short domain">
                <input
                  className="input w-80 font-mono text-xs"
                  value={address}
                  placeholder="https://mmr.example"
                  onChange={(e) => setAddress(e.target.value)}
                />
              </FormField>
              <button type="submit" className="button-main" disabled={!address.trim() || add.isPending}>
                Add and check
              </button>
              <p className="w-full text-quiet">
                First point its DNS name at this server. The check requests a secret word from the host; you can use the
                domain once the check passes.
              </p>
              {problem && (
                <p role="alert" className="w-full text-error">
                  {problem.message}
                </p>
              )}
            </form>
          )}
          <ul className="flex flex-col" aria-label="Short domains">
            {domains.data?.map((domain) => (
              <li key={domain.id} className="flex items-center gap-4 border-b border-line py-3">
                <SeverityMark severity={domain.problem ? 'warning' : domain.checkedAt ? 'good' : 'info'} />
                <div className="min-w-0 flex-1">
                  <p className="font-mono">{domain.host}</p>
                  <p className="text-quiet">{stateOf(domain)}</p>
                </div>
                <span className="tabular-nums">
                  {count(domain.slugs)} {domain.slugs === 1 ? 'short link' : 'short links'}
                </span>
                {domain.first && <span className="rounded border border-line-strong px-2 py-0.5">default</span>}
                {owner && (
                  <>
                    <button
                      type="button"
                      className="button"
                      disabled={check.isPending}
                      aria-label={`Check ${domain.host}`}
                      onClick={() => check.mutate(domain.id)}
                    >
                      Check
                    </button>
                    {!domain.first && domain.usable && (
                      <button type="button" className="button" onClick={() => putFirst.mutate(domain.id)}>
                        Make default
                      </button>
                    )}
                    {!domain.first && domain.slugs === 0 && (
                      <button
                        type="button"
                        className="button-plain"
                        aria-label={`Remove ${domain.host}`}
                        onClick={() => remove.mutate(domain.id)}
                      >
                        Remove
                      </button>
                    )}
                  </>
                )}
              </li>
            ))}
          </ul>
        </div>
      </div>
    </>
  );
}

/** What is known about whether a domain leads here. */
function stateOf(domain: Domain): ReactNode {
  if (domain.problem) return domain.problem;
  if (domain.checkedAt)
    return (
      <>
        works: leads here, checked <span title={exact(domain.checkedAt)}>{ago(domain.checkedAt)}</span>
      </>
    );
  return domain.usable ? 'set up with the workspace; not checked since' : 'doesn’t lead here yet';
}
