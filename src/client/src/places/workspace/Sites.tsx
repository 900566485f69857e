import { useMutation, useQuery } from '@tanstack/react-query';
import { useState, type ReactNode } from 'react';
import { type Schema } from '../../api/client';
import { count } from '../../parts/format';
import { Head } from '../../parts/Head';
import { usePerson } from '../../parts/person';
import { FormField } from '../../parts/FormField';
import { AccessLogs } from './AccessLogs';
import { PassingHosts } from './PassingHosts';
import { RetentionSpan } from './RetentionSpan';
import { sitesQuery, siteChange } from './queries';

/** The measured sites, and the most a conversion of theirs may be worth. */
export function Sites({ tabs }: { tabs: ReactNode }) {
  const sites = useQuery(sitesQuery());
  return (
    <>
      <Head title="Sites" state={sites.data && `${count(sites.data.length)} measured`}>
        {tabs}
      </Head>
      <div className="min-h-0 flex-1 overflow-auto bg-sheet p-5">
        <div className="flex max-w-4xl flex-col gap-6">
          <p className="text-quiet">
            Reports are taken from pages on these hosts only. Anyone can read a site’s measuring key on its pages and
            send false reports, so a conversion above the limit is refused.
          </p>
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

function SiteCard({ site }: { site: Schema['MeasuredSiteAnswer'] }) {
  const owner = usePerson().role === 'owner';
  const [limit, setLimit] = useState(String(site.largestValue));
  const save = useMutation(siteChange(site.id));
  return (
    <section aria-label={site.name} className="flex flex-col gap-3 rounded border border-line p-4">
      <h2 className="font-medium">{site.name}</h2>
      <dl className="grid grid-cols-[max-content_1fr] gap-x-6 gap-y-1">
        <dt className="text-quiet">Hosts</dt>
        <dd className="font-mono text-xs leading-5">{site.hosts.join(', ')}</dd>
        <dt className="text-quiet">Measuring key</dt>
        <dd className="font-mono text-xs leading-5">{site.measuringKey}</dd>
      </dl>
      <form
        className="flex flex-wrap items-end gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          save.mutate({ largestValue: Number(limit.replace(',', '.')) });
        }}
      >
        <FormField label="Largest value of a conversion">
          <input
            className="input w-48 text-right tabular-nums"
            inputMode="decimal"
            value={limit}
            readOnly={!owner}
            onChange={(e) => setLimit(e.target.value)}
          />
        </FormField>
        {owner && (
          <button
            type="submit"
            className="button-plain"
            disabled={
              save.isPending || limit === String(site.largestValue) || Number.isNaN(Number(limit.replace(',', '.')))
            }
          >
            Save
          </button>
        )}
        {save.isError && (
          <p role="alert" className="w-full text-error">
            {save.error.message}
          </p>
        )}
      </form>
    </section>
  );
}
