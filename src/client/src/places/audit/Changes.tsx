import { useInfiniteQuery } from '@tanstack/react-query';
import { Download } from 'lucide-react';
import { useState, type ReactNode } from 'react';
import { type Schema } from '../../api/client';
import { ago, exact } from '../../parts/format';
import { DateField } from '../../parts/DateField';
import { FormField } from '../../parts/FormField';
import { Head } from '../../parts/Head';
import { usePerson } from '../../parts/person';
import { Select } from '../../parts/Select';
import { differencesOf, kindName } from './changes';
import { changesQuery, type ChangesAsked } from './queries';

type Change = Schema['ChangeAnswer'];

/** Who changed what, the newest first. */
export function Changes({ tabs }: { tabs: ReactNode }) {
  const owner = usePerson().role === 'owner';
  const [asked, setAsked] = useState<ChangesAsked>({});
  const changes = useInfiniteQuery({ ...changesQuery(asked), enabled: owner });
  const first = changes.data?.pages[0];
  const rows = changes.data?.pages.flatMap((page) => page.changes) ?? [];
  const set = (more: ChangesAsked) => setAsked({ ...asked, ...more });
  const address = new URLSearchParams(Object.entries(asked).filter(([, value]) => value)).toString();
  return (
    <>
      <Head title="Changes">
        {tabs}
        {owner && (
          <a className="button" href={`/api/v1/changes.csv?${address}`} download>
            <Download size={14} strokeWidth={1.5} /> Export as CSV
          </a>
        )}
      </Head>
      <div className="min-h-0 flex-1 overflow-auto bg-sheet p-5">
        {!owner ? (
          <p className="text-quiet">Only owners see who changed what.</p>
        ) : (
          <div className="flex max-w-5xl flex-col gap-5">
            <div className="flex flex-wrap gap-3">
              <FormField label="By">
                <Select
                  className="w-52"
                  value={asked.who ?? ''}
                  onChange={(who) => set({ who })}
                  options={[['', 'everybody'], ...(first?.people ?? []).map((who) => [who, who] as const)]}
                />
              </FormField>
              <FormField label="What">
                <Select
                  className="w-52"
                  value={asked.what ?? ''}
                  onChange={(what) => set({ what })}
                  options={[['', 'everything'], ...(first?.kinds ?? []).map((what) => [what, kindName(what)] as const)]}
                />
              </FormField>
              <FormField label="From">
                <DateField value={asked.from ?? ''} onChange={(from) => set({ from })} />
              </FormField>
              <FormField label="To">
                <DateField value={asked.to ?? ''} onChange={(to) => set({ to })} />
              </FormField>
            </div>
            {changes.isError && (
              <p role="alert" className="text-error">
                {changes.error.message}
              </p>
            )}
            {first && rows.length === 0 && <p className="text-quiet">Nothing was changed like this.</p>}
            <table aria-label="Changes" className="w-full border-separate border-spacing-0">
              <thead className="text-left text-xs text-quiet">
                <tr className="[&>th]:border-b [&>th]:border-line [&>th]:py-2 [&>th]:pr-4 [&>th]:font-medium">
                  <th scope="col">When</th>
                  <th scope="col">By</th>
                  <th scope="col">What</th>
                  <th scope="col">Change</th>
                </tr>
              </thead>
              <tbody>
                {rows.map((change) => (
                  <Row key={change.id} change={change} />
                ))}
              </tbody>
            </table>
            {changes.hasNextPage && (
              <button
                type="button"
                className="button self-start"
                disabled={changes.isFetchingNextPage}
                onClick={() => void changes.fetchNextPage()}
              >
                Show older changes
              </button>
            )}
          </div>
        )}
      </div>
    </>
  );
}

function Row({ change }: { change: Change }) {
  const differences = differencesOf(change.before, change.after);
  return (
    <tr className="align-top [&>td]:border-b [&>td]:border-line [&>td]:py-1.5 [&>td]:pr-4">
      <td className="whitespace-nowrap" title={exact(change.at)}>
        {ago(change.at)}
      </td>
      <td className="whitespace-nowrap">{change.who}</td>
      <td className="whitespace-nowrap">
        {kindName(change.what)}
        <span className="caption">
          {' '}
          · {change.before === null ? 'new' : change.after === null ? 'removed' : 'changed'}
          {change.together && ', with others'}
        </span>
      </td>
      <td>
        <ul className="flex flex-col gap-0.5">
          {differences.map(({ key, before, after }) => (
            <li key={key} className="text-xs">
              <span className="text-quiet">{key}: </span>
              {before !== null && <del className="break-all text-quiet">{before}</del>}
              {before !== null && after !== null && ' → '}
              {after !== null && <span className="break-all">{after}</span>}
            </li>
          ))}
        </ul>
      </td>
    </tr>
  );
}
