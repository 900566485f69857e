import { useMutation, useQuery } from '@tanstack/react-query';
import { useState, type ReactNode } from 'react';
import { count } from '../../parts/format';
import { FormField } from '../../parts/FormField';
import { Head } from '../../parts/Head';
import { usePerson } from '../../parts/person';
import { AccessLogs } from './AccessLogs';
import { PassingHosts } from './PassingHosts';
import { RetentionSpan } from './RetentionSpan';
import { SiteCard } from './SiteCard';
import { siteAdd, sitesQuery } from './queries';

/** Whoever puts the tag in looks here to see it work. */
const lookAgain = 3_000;

/** The workspace's own sites: their hosts, the tag their pages need, and when they were measured last. */
export function Sites({ tabs }: { tabs: ReactNode }) {
  const owner = usePerson().role === 'owner';
  const sites = useQuery({ ...sitesQuery(), refetchInterval: lookAgain });
  const measured = sites.data?.filter((s) => !s.stoppedAt).length;
  return (
    <>
      <Head title="Sites" state={measured !== undefined && `${count(measured)} measured`}>
        {tabs}
      </Head>
      <div className="min-h-0 flex-1 overflow-auto bg-sheet p-5">
        <div className="flex max-w-4xl flex-col gap-6">
          {owner && <NewSite />}
          {sites.isError && (
            <p role="alert" className="text-error">
              {sites.error.message}
            </p>
          )}
          {sites.data?.length === 0 && (
            <p className="text-quiet">No sites yet. Add the host your links lead to; then its pages can be measured.</p>
          )}
          {sites.data?.map((site) => (
            <SiteCard key={site.id} site={site} />
          ))}
          <AccessLogs />
          <PassingHosts />
          <RetentionSpan />
        </div>
      </div>
    </>
  );
}

function NewSite() {
  const [host, setHost] = useState('');
  const add = useMutation({ ...siteAdd(), onSuccess: () => setHost('') });
  return (
    <form
      className="flex flex-wrap items-end gap-3"
      onSubmit={(e) => {
        e.preventDefault();
        add.mutate({ hosts: [host] });
      }}
    >
      <FormField label="Host of a new site">
        <input
          className="input w-80 font-mono text-xs"
          value={host}
          placeholder="www.garden.example"
          onChange={(e) => setHost(e.target.value)}
        />
      </FormField>
      <button type="submit" className="button-main" disabled={!host.trim() || add.isPending}>
        Add site
      </button>
      {add.isError && (
        <p role="alert" className="w-full text-error">
          {add.error.message}
        </p>
      )}
    </form>
  );
}
