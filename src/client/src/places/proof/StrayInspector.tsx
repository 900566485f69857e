import { keepPreviousData, useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { allCampaignsQuery, conventionQuery } from '../../api/queries';
import { count, counted } from '../../parts/format';
import { Inspector, InspectorPart } from '../../parts/Inspector';
import { usePerson } from '../../parts/person';
import { Picker } from '../../parts/Picker';
import { useHotkey } from '../../parts/useHotkey';
import { strayEffectQuery, straysAssign, straysDraft } from './queries';
import { arrived, assignmentsOf, kinds, type StrayGroup } from './strays';

const first = (text: string) => text[0]!.toUpperCase() + text.slice(1);

/** One group of strays: what they probably mean, where they were seen, and what the reports say once they are assigned. */
export function StrayInspector({ group, onClose }: { group: StrayGroup; onClose: () => void }) {
  const person = usePerson();
  const may = person.role !== 'viewer' && !group.isSettled;
  const [means, setMeans] = useState(group.likely ?? '');
  const [chosen, setChosen] = useState<ReadonlySet<string>>(() => new Set(group.strays.map(arrived)));
  const assignments = means === '' || !may ? [] : assignmentsOf(group, chosen, means);
  const effect = useQuery({ ...strayEffectQuery(assignments), placeholderData: keepPreviousData });
  const assign = useMutation({ ...straysAssign(), onSuccess: onClose });
  const draft = useMutation(straysDraft());
  const ready = assignments.length > 0 && !assign.isPending;
  const go = () => ready && assign.mutate(assignments);
  useHotkey('a', go);
  const own = group.kind === 'swapped' || group.kind === 'secondQuestionMark';
  const isValue = group.kind === 'unknownValue' && group.field != null;

  function toggle(stray: string) {
    const next = new Set(chosen);
    if (!next.delete(stray)) next.add(stray);
    setChosen(next);
  }

  return (
    <Inspector title={group.strays.slice(0, 2).map(arrived).join(', ')} onClose={onClose}>
      <p>
        {group.fieldLabel && group.kind !== 'misspeltKey'
          ? `${group.fieldLabel}: ${kinds[group.kind]}`
          : first(kinds[group.kind])}
        , {counted(group.visits, 'visit')}
        {group.links > 0 && `, by ${counted(group.links, 'link')} of the Ledger`}.
      </p>
      {may && (
        <InspectorPart title="Means">
          {own ? (
            <p className="font-mono text-xs">{group.likely}</p>
          ) : (
            <Meaning group={group} means={means} onChange={setMeans} />
          )}
        </InspectorPart>
      )}
      <InspectorPart title="Arrived as">
        <ul aria-label="Arrived as" className="flex flex-col gap-1">
          {group.strays.map((stray) => (
            <li key={arrived(stray)}>
              <label className="flex items-baseline gap-2">
                {may && (
                  <input
                    type="checkbox"
                    className="translate-y-0.5"
                    checked={chosen.has(arrived(stray))}
                    onChange={() => toggle(arrived(stray))}
                  />
                )}
                <span className="min-w-0 flex-1 font-mono text-xs break-all">{arrived(stray)}</span>
                <span className="tabular-nums">{count(stray.visits)}</span>
              </label>
            </li>
          ))}
        </ul>
        {group.moreStrays > 0 && <p className="caption mt-1">{counted(group.moreStrays, 'more')} with fewer visits.</p>}
      </InspectorPart>
      {may && (
        <InspectorPart title="Visits before and after">
          {effect.isError && (
            <p role="alert" className="text-error">
              {effect.error.message}
            </p>
          )}
          {assignments.length === 0 ? (
            <p className="text-quiet">
              {means === '' ? 'Choose a meaning to see what changes.' : 'Choose at least one of those that arrived.'}
            </p>
          ) : effect.data ? (
            <Effect rows={effect.data.rows} more={effect.data.more} />
          ) : (
            effect.isPending && <p className="text-quiet">Counting …</p>
          )}
        </InspectorPart>
      )}
      {(group.referrers.length > 0 || group.pages.length > 0) && (
        <InspectorPart title="Where they were seen">
          <ul aria-label="Where they were seen" className="flex flex-col gap-1">
            {group.pages.map((page) => (
              <Seen key={`page ${page.where}`} says="on" where={page.where} visits={page.visits} />
            ))}
            {group.referrers.map((from) => (
              <Seen key={`from ${from.where}`} says="from" where={from.where} visits={from.visits} />
            ))}
          </ul>
        </InspectorPart>
      )}
      {[assign, draft].map(
        (change, i) =>
          change.isError && (
            <p key={i} role="alert" className="text-error">
              {change.error.message}
            </p>
          ),
      )}
      {draft.isSuccess && (
        <p role="status">
          It stands in the draft.{' '}
          <Link className="text-accent underline" to="/conventions">
            Look at the draft
          </Link>
        </p>
      )}
      {may && (
        <div className="mt-auto flex flex-wrap gap-2">
          <button type="button" className="button-main" disabled={!ready} title="A" onClick={go}>
            Assign
          </button>
          {person.role === 'owner' && isValue && (
            <button
              type="button"
              className="button"
              disabled={chosen.size === 0 || draft.isPending}
              onClick={() =>
                draft.mutate({ field: group.field!, values: [...chosen], word: means === '' ? null : means })
              }
            >
              {means === '' ? 'New word in the draft' : 'Alias in the draft'}
            </button>
          )}
        </div>
      )}
    </Inspector>
  );
}

/** Chooses the word, the campaign or the field that a stray means. */
function Meaning({ group, means, onChange }: { group: StrayGroup; means: string; onChange: (means: string) => void }) {
  const convention = useQuery(conventionQuery());
  const campaigns = useQuery(allCampaignsQuery());
  const fields = convention.data?.document.fields ?? [];
  const field = fields.find((f) => f.key === group.field);
  const isCampaign = field && (field.means === 'campaign' || (field.means === 'byKey' && field.key === 'utm_campaign'));
  const options =
    group.kind === 'misspeltKey'
      ? fields.map((f) => ({ value: f.key!, label: f.key!, detail: f.label }))
      : isCampaign
        ? (campaigns.data ?? []).map((c) => ({ value: c.value, label: c.value, detail: c.name }))
        : (field?.words ?? []).map((w) => ({ value: w.written!, label: w.written!, detail: w.label }));
  if (field && group.kind === 'writtenOtherwise') return <p className="font-mono text-xs">{group.likely}</p>;
  return (
    <Picker
      label="Means"
      empty={group.kind === 'misspeltKey' ? 'Choose a field' : isCampaign ? 'Choose a campaign' : 'Choose a word'}
      options={options}
      chosen={means === '' ? [] : [means]}
      onChange={([value]) => onChange(value ?? '')}
    />
  );
}

function Effect({ rows, more }: { rows: { by: string; name: string; before: number; after: number }[]; more: number }) {
  if (rows.length === 0) return <p className="text-quiet">No row changes.</p>;
  return (
    <>
      <table aria-label="Visits before and after" className="w-full">
        <tbody>
          {rows.map((row) => (
            <tr key={`${row.by} ${row.name}`}>
              <td className="max-w-0 w-full truncate py-0.5 pr-2" title={row.name}>
                <span className="caption">{row.by} </span>
                {row.name}
              </td>
              <td className="py-0.5 pr-1 text-right whitespace-nowrap tabular-nums">{count(row.before)}</td>
              <td className="py-0.5 whitespace-nowrap tabular-nums" aria-label={`then ${count(row.after)}`}>
                → {count(row.after)}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {more > 0 && <p className="caption mt-1">{counted(more, 'more row')} will change.</p>}
    </>
  );
}

function Seen({ says, where, visits }: { says: string; where: string; visits: number }) {
  return (
    <li className="flex gap-2">
      <span className="caption w-8 shrink-0">{says}</span>
      <span className="min-w-0 flex-1 truncate font-mono text-xs" title={where}>
        {where}
      </span>
      <span className="tabular-nums">{count(visits)}</span>
    </li>
  );
}
