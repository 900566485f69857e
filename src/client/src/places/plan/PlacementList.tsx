import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Plus } from 'lucide-react';
import { useState, type ReactNode } from 'react';
import { Link, useSearchParams } from 'react-router';
import { useFields } from '../../api/known';
import { outdate } from '../../api/queryClient';
import { count } from '../../parts/format';
import { Head } from '../../parts/Head';
import { Inspector } from '../../parts/Inspector';
import { RateList } from '../../parts/rates/RateList';
import { usePerson } from '../../parts/person';
import { daysOf } from './days';
import { arrivalsAddress } from '../../parts/arrivalsAddress';
import { placementBegun } from '../../parts/planAddress';
import { PlacementForm } from './PlacementForm';
import { PlacementImport } from './PlacementImport';
import { useTaggedChannels } from './useTaggedChannels';
import { allPlacementsQuery, placementSetsQuery } from '../../api/queries';
import { Ending } from './PlacementEnding';
import { placementSetDelete, savePlacementRates } from './queries';
import { PlacementSets, SetBar } from './PlacementSets';

/** Placements with their default values, and the sets they are picked by. */
export function PlacementList({ parts }: { parts: ReactNode }) {
  const person = usePerson();
  const queries = useQueryClient();
  const [search, setSearch] = useSearchParams();
  const [text, setText] = useState('');
  const [retired, setRetired] = useState(false);
  const [set, setSet] = useState('');
  const [ticked, setTicked] = useState<string[]>([]);
  const [message, setMessage] = useState('');
  const mayWrite = person.role !== 'viewer';
  const open = search.get('placement');

  const placements = useQuery(allPlacementsQuery());
  const fields = useFields();
  const channels = useTaggedChannels();
  const order = (fields.data ?? []).map((f) => f.key);
  const sets = useQuery(placementSetsQuery());
  const deleteSet = useMutation({ ...placementSetDelete(), onError: (error) => setMessage(error.message) });

  const all = placements.data ?? [];
  const chosenSet = sets.data?.find((s) => s.id === set);
  const words = text.toLowerCase().split(/\s+/).filter(Boolean);
  const shown = all.filter((p) => {
    if (p.retired !== retired || (chosenSet && !chosenSet.placements.includes(p.id))) return false;
    const hay = [p.name, p.channel, p.publisher, p.useForm, ...p.tags, ...Object.values(p.defaults)]
      .join(' ')
      .toLowerCase();
    return words.every((w) => hay.includes(w));
  });
  const placement = all.find((p) => p.id === open);
  const tick = (id: string) => setTicked(ticked.includes(id) ? ticked.filter((t) => t !== id) : [...ticked, id]);
  function show(id: string | null) {
    const next = new URLSearchParams(search);
    if (id) next.set('placement', id);
    else next.delete('placement');
    setSearch(next, { replace: true });
  }
  const nameOf = (id: string) => all.find((p) => p.id === id)?.name ?? '';

  return (
    <>
      <Head
        title="Plan"
        state={
          placements.data &&
          `${count(all.filter((p) => !p.retired).length)} placements · ${count(sets.data?.length ?? 0)} sets`
        }
      >
        {parts}
        {mayWrite && (
          <button type="button" className="button" onClick={() => show('many')}>
            Add many
          </button>
        )}
        {mayWrite && (
          <button type="button" className="button-main" onClick={() => show('new')}>
            <Plus size={14} strokeWidth={1.5} /> New placement
          </button>
        )}
      </Head>
      <div className="flex min-h-0 flex-1">
        <div className="flex min-w-0 flex-1 flex-col">
          <div className="flex min-h-11 shrink-0 flex-wrap items-center gap-2 border-b border-line px-5 py-1.5">
            <input
              className="input w-56"
              aria-label="Search placements"
              placeholder="Name, channel, publisher, tag"
              value={text}
              onChange={(e) => setText(e.target.value)}
            />
            <PlacementSets
              sets={sets.data ?? []}
              chosen={set}
              mayWrite={mayWrite}
              onChoose={setSet}
              onDelete={(s) => {
                setSet('');
                deleteSet.mutate(s.id, {
                  onSuccess: () => setMessage(`Set “${s.name}” deleted; its placements stay.`),
                });
              }}
            />
            <span className="flex-1" />
            <p role="status" className="truncate text-quiet">
              {message}
            </p>
            <label className="flex items-center gap-1.5">
              <input type="checkbox" checked={retired} onChange={(e) => setRetired(e.target.checked)} /> show retired
            </label>
          </div>
          <div className="min-h-0 flex-1 overflow-auto bg-sheet">
            <table className="w-full table-fixed">
              <colgroup>
                <col className="w-11" />
                <col className="w-[28%]" />
                <col className="w-[19%]" />
                <col />
                <col className="w-[16%]" />
                <col className="w-16" />
              </colgroup>
              <thead className="sticky top-0 z-10 bg-sheet">
                <tr className="h-[34px] border-b border-line text-left text-xs text-quiet">
                  <th className="w-9 pl-5" aria-label="Chosen" />
                  {['Placement', 'Channel', 'Default values', 'Days and format'].map((head) => (
                    <th key={head} className="px-3 font-medium">
                      {head}
                    </th>
                  ))}
                  <th className="px-3 pr-5 text-right font-medium">Links</th>
                </tr>
              </thead>
              <tbody>
                {shown.map((p) => (
                  <tr
                    key={p.id}
                    tabIndex={0}
                    aria-selected={p.id === open}
                    className="h-[42px] cursor-pointer border-b border-line hover:bg-accent-wash focus-visible:outline-offset-[-2px] aria-selected:bg-accent-wash"
                    onClick={() => show(p.id)}
                    onKeyDown={(e) => {
                      if (e.target !== e.currentTarget) return;
                      const to =
                        e.key === 'ArrowDown'
                          ? e.currentTarget.nextElementSibling
                          : e.key === 'ArrowUp'
                            ? e.currentTarget.previousElementSibling
                            : null;
                      if (e.key === 'Enter') show(p.id);
                      else if (e.key === ' ') tick(p.id);
                      else if (to) (to as HTMLElement).focus();
                      else return;
                      e.preventDefault();
                    }}
                  >
                    <td className="pl-5" onClick={(e) => e.stopPropagation()}>
                      <input
                        type="checkbox"
                        aria-label={`Choose ${p.name}`}
                        checked={ticked.includes(p.id)}
                        onChange={() => tick(p.id)}
                      />
                    </td>
                    <td className="px-3">
                      <span className="block truncate">{p.name}</span>
                      {p.publisher && <span className="caption block truncate">{p.publisher}</span>}
                    </td>
                    <td className="truncate px-3">{p.channel}</td>
                    <td className="truncate px-3 font-mono text-xs">
                      {order
                        .filter((key) => p.defaults[key])
                        .map((key) => p.defaults[key])
                        .join(' · ')}
                      {p.asks.length > 0 && <span className="font-sans text-quiet"> · asks</span>}
                    </td>
                    <td className="truncate px-3 text-quiet">
                      {[p.useDays.length ? daysOf(p.useDays) : null, p.useForm].filter(Boolean).join(', ')}
                    </td>
                    <td className="px-3 pr-5 text-right tabular-nums">{count(p.links)}</td>
                  </tr>
                ))}
              </tbody>
            </table>
            {placements.data && shown.length === 0 && (
              <p className="p-8 text-quiet">
                {all.length === 0
                  ? 'No placements yet. Add the first one: a newsletter button, a group, a poster.'
                  : 'No placements match.'}
              </p>
            )}
          </div>
          {mayWrite && ticked.length > 0 && (
            <SetBar sets={sets.data ?? []} ticked={ticked} onNone={() => setTicked([])} onSay={setMessage} />
          )}
        </div>
        {open === 'new' && (
          <Inspector title="New placement" onClose={() => show(null)}>
            <PlacementForm
              key={search.toString()}
              {...placementBegun(search)}
              onSaved={(saved) => setSearch({ view: 'placements', placement: saved.id }, { replace: true })}
            />
          </Inspector>
        )}
        {open === 'many' && (
          <PlacementImport
            channels={channels.data ?? []}
            onClose={() => show(null)}
            onDone={(says) => {
              setMessage(says);
              show(null);
            }}
          />
        )}
        {placement && (
          <Inspector key={placement.id} title={placement.name} onClose={() => show(null)}>
            <Link
              className="button-plain -ml-1.5 self-start"
              to={arrivalsAddress({ where: [['placement', placement.name]], rows: ['campaign', 'content', 'link'] })}
            >
              Show in Arrivals
            </Link>
            {mayWrite ? (
              <>
                <PlacementForm
                  key={placement.revision}
                  placement={placement}
                  onSaved={(saved) => setMessage(`“${saved.name}” is saved; new links use it.`)}
                />
                <RateList
                  key={`rates ${placement.id}`}
                  rates={placement.rates}
                  currency={person.currency}
                  of="this placement"
                  mayWrite
                  save={async (change, dry) => {
                    const answer = await savePlacementRates(placement.id, change, dry);
                    if (!dry) await outdate(queries, allPlacementsQuery().queryKey);
                    return answer;
                  }}
                />
                <Ending
                  placement={placement}
                  others={all.filter((p) => !p.retired && p.id !== placement.id)}
                  onDone={(says, next) => {
                    setMessage(says);
                    show(next);
                  }}
                />
              </>
            ) : (
              <p>
                {Object.entries(placement.defaults)
                  .map(([key, value]) => `${key}=${value}`)
                  .join(' · ')}
              </p>
            )}
            {sets.data?.some((s) => s.placements.includes(placement.id)) && (
              <p className="caption">
                In the sets{' '}
                {sets.data
                  .filter((s) => s.placements.includes(placement.id))
                  .map((s) => s.name)
                  .join(', ')}
                .
              </p>
            )}
          </Inspector>
        )}
      </div>
      {ticked.length > 0 && <span className="sr-only">{ticked.map(nameOf).join(', ')}</span>}
    </>
  );
}
