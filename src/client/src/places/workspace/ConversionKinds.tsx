import { useMutation, useQuery } from '@tanstack/react-query';
import { Plus } from 'lucide-react';
import { useState, type ReactNode } from 'react';
import { type Schema } from '../../api/client';
import { dayOf } from '../../parts/days';
import { count, counted, money } from '../../parts/format';
import { Head } from '../../parts/Head';
import { usePerson } from '../../parts/person';
import { ConversionKindForm } from './ConversionKindForm';
import { conversionKindRemove, conversionKindsQuery } from './queries';

type Kind = Schema['ConversionKindAnswer'];

const tests: Record<Schema['ConversionTest'], string> = {
  page: 'page is',
  pageBegins: 'page begins with',
  pagePattern: 'page is like',
  event: 'event is',
};

/** What is being worked out changes by itself. */
const lookAgain = 3_000;

/** What counts as a conversion: pages reached and events named, and what pages report themselves. */
export function ConversionKinds({ tabs }: { tabs: ReactNode }) {
  const owner = usePerson().role === 'owner';
  const kinds = useQuery({
    ...conversionKindsQuery(),
    refetchInterval: (query) => (query.state.data?.waiting ? lookAgain : false),
  });
  const [editing, setEditing] = useState<Kind | 'new' | null>(null);
  const { data } = kinds;
  return (
    <>
      <Head title="Conversions" state={data && `${count(data.kinds.length)} defined`}>
        {tabs}
        {owner && (
          <button type="button" className="button-main" onClick={() => setEditing('new')}>
            <Plus size={14} strokeWidth={1.5} /> New conversion
          </button>
        )}
      </Head>
      <div className="flex min-h-0 flex-1">
        <div className="min-h-0 min-w-0 flex-1 overflow-auto bg-sheet p-5">
          <div className="flex max-w-4xl flex-col gap-6">
            {kinds.isError && (
              <p role="alert" className="text-error">
                {kinds.error.message}
              </p>
            )}
            {data && data.waiting > 0 && (
              <p role="status" className="text-quiet">
                Past visits are being looked through; {count(data.waiting)} {data.waiting === 1 ? 'step' : 'steps'} to
                go.
              </p>
            )}
            {data?.kinds.length === 0 && (
              <p className="max-w-lg text-quiet">
                No conversions are defined yet. Name a page that people reach when they have done what you hope for,
                such as a thank-you page; no code changes on the page.
              </p>
            )}
            {data && data.kinds.length > 0 && (
              <table aria-label="Defined conversions" className="w-full border-separate border-spacing-0">
                <thead className="text-left text-xs text-quiet">
                  <tr className="[&>th]:border-b [&>th]:border-line [&>th]:py-2 [&>th]:pr-4 [&>th]:font-medium">
                    <th scope="col">Conversion</th>
                    <th scope="col">Counts when</th>
                    <th scope="col" className="text-right">
                      Value
                    </th>
                    <th scope="col" className="text-right">
                      Last 30 days
                    </th>
                    <th scope="col" />
                  </tr>
                </thead>
                <tbody>
                  {data.kinds.map((kind) => (
                    <tr key={kind.id} className="[&>td]:border-b [&>td]:border-line [&>td]:py-1.5 [&>td]:pr-4">
                      <td>{kind.name}</td>
                      <td>
                        {tests[kind.test]} <span className="font-mono text-xs">{kind.text}</span>
                        <span className="caption"> · {kind.countsEach ? 'every time' : 'once in a visit'}</span>
                      </td>
                      <td className="text-right tabular-nums">{valueOf(kind)}</td>
                      <td className="text-right tabular-nums">{count(kind.conversions)}</td>
                      <td className="text-right whitespace-nowrap">
                        {owner && <Actions kind={kind} onChange={() => setEditing(kind)} />}
                      </td>
                    </tr>
                  ))}
                </tbody>
              </table>
            )}
            {data && data.reported.length > 0 && (
              <section aria-label="Reported by pages and servers" className="flex flex-col gap-2">
                <h2 className="font-medium">Reported by pages and servers</h2>
                <ul className="flex flex-col">
                  {data.reported.map((kind) => (
                    <li key={kind.name} className="flex justify-between border-b border-line py-1.5">
                      <span>{kind.name}</span>
                      <span className="text-quiet tabular-nums">{count(kind.conversions)} in the last 30 days</span>
                    </li>
                  ))}
                </ul>
              </section>
            )}
            {data && data.waitingRefunds > 0 && (
              <section aria-label="Refunds without their order" className="flex flex-col gap-2">
                <h2 className="font-medium">Refunds without their order</h2>
                <p className="max-w-lg text-quiet">
                  {counted(data.waitingRefunds, 'refund')} {data.waitingRefunds === 1 ? 'names' : 'name'} an order that
                  neither a page nor a server has reported. They are in no figure until it is; check that the shop sends
                  the same order id both times.
                </p>
                <ul className="flex flex-col">
                  {data.refunds.map((refund, i) => (
                    <li key={i} className="flex justify-between border-b border-line py-1.5">
                      <span className="font-mono text-xs">{refund.orderId}</span>
                      <span className="text-quiet tabular-nums">
                        {money(refund.value)}, {dayOf(refund.day)}
                      </span>
                    </li>
                  ))}
                </ul>
              </section>
            )}
          </div>
        </div>
        {editing && data && (
          <ConversionKindForm
            key={editing === 'new' ? 'new' : editing.id}
            kind={editing === 'new' ? null : editing}
            currency={data.currency}
            onClose={() => setEditing(null)}
          />
        )}
      </div>
    </>
  );
}

const valueOf = (kind: Kind): string => (kind.takesValue ? 'from the event' : kind.value ? money(kind.value) : '–');

function Actions({ kind, onChange }: { kind: Kind; onChange: () => void }) {
  const [sure, setSure] = useState(false);
  const remove = useMutation(conversionKindRemove(kind.id));
  return (
    <>
      {remove.isError && <span className="text-error">{remove.error.message} </span>}
      {sure ? (
        <>
          <button type="button" className="button" disabled={remove.isPending} onClick={() => remove.mutate()}>
            Remove it and its conversions
          </button>
          <button type="button" className="button-plain" onClick={() => setSure(false)}>
            Cancel
          </button>
        </>
      ) : (
        <>
          <button type="button" className="button-plain" aria-label={`Change ${kind.name}`} onClick={onChange}>
            Change
          </button>
          <button
            type="button"
            className="button-plain"
            aria-label={`Remove ${kind.name}`}
            onClick={() => setSure(true)}
          >
            Remove
          </button>
        </>
      )}
    </>
  );
}
