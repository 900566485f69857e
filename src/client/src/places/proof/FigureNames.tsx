import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import type { Schema } from '../../api/client';
import { useCampaigns, usePlacements } from '../../api/known';
import { ago, count, exact } from '../../parts/format';
import { rowsOf } from '../../parts/importing/RefusedRows';
import { Select } from '../../parts/Select';
import { figureName, figureNameForget } from './queries';

type Answer = Schema['ReconcileAnswer'];
type Unmatched = Answer['unmatched'][number];
type Named = Answer['named'][number];

const partNames: Record<Unmatched['part'], string> = { link: 'link', campaign: 'campaign', placement: 'placement' };

interface FigureNamesProps {
  data: Answer;
  mayWrite: boolean;
}

/** Names in other systems' files that nothing is called, and what somebody said such names mean. */
export function FigureNames({ data, mayWrite }: FigureNamesProps) {
  return (
    <>
      {data.unmatchedCount > 0 && (
        <section aria-label="Names not matched" className="border-b border-line px-5 py-4">
          <h2 className="font-medium">
            {data.unmatchedCount === 1 ? 'One name is' : `${count(data.unmatchedCount)} names are`} not matched
          </h2>
          <p className="text-quiet">
            Figures under such a name wait until you choose what it stands for. Later files follow your choice.
          </p>
          <ul className="mt-2 flex max-w-3xl flex-col">
            {data.unmatched.map((u) => (
              <UnmatchedRow key={u.system + u.part + u.text} name={u} mayWrite={mayWrite} />
            ))}
          </ul>
        </section>
      )}
      {data.named.length > 0 && (
        <details className="border-b border-line px-5 py-3">
          <summary className="cursor-pointer">
            {data.named.length === 1 ? 'One name was' : `${count(data.named.length)} names were`} matched by hand
          </summary>
          <ul aria-label="Names matched by hand" className="mt-2 flex max-w-3xl flex-col">
            {data.named.map((n) => (
              <NamedRow key={n.system + n.part + n.text} name={n} mayWrite={mayWrite} />
            ))}
          </ul>
        </details>
      )}
    </>
  );
}

const leaveOut = 'leave-out';

function UnmatchedRow({ name, mayWrite }: { name: Unmatched; mayWrite: boolean }) {
  const campaigns = useCampaigns();
  const placements = usePlacements();
  const say = useMutation(figureName());
  const [link, setLink] = useState('');
  const { system, part, text } = name;
  const choices = part === 'campaign' ? campaigns.data : part === 'placement' ? placements.data : undefined;
  return (
    <li className="flex flex-wrap items-center gap-x-4 gap-y-1 border-t border-line py-2">
      <span className="min-w-0 flex-1">
        <span className="block font-mono break-all">{text}</span>
        <span className="caption block">
          {partNames[part]} in {rowsOf(name.rows)} of {system}
        </span>
      </span>
      {mayWrite && name.likelyId && (
        <button
          type="button"
          className="button"
          disabled={say.isPending}
          onClick={() => say.mutate({ system, part, text, id: name.likelyId!, link: null })}
        >
          It is {name.likely}
        </button>
      )}
      {mayWrite && choices && (
        <Select
          label={`What ${text} means`}
          className="w-56"
          value=""
          empty={name.likelyId ? 'something else …' : 'choose …'}
          options={[[leaveOut, 'leave it out'] as const, ...choices.map((c) => [c.id, c.name] as const)]}
          onChange={(id) => say.mutate({ system, part, text, id: id === leaveOut ? null : id, link: null })}
        />
      )}
      {mayWrite && part === 'link' && (
        <form
          className="flex gap-2"
          onSubmit={(e) => {
            e.preventDefault();
            say.mutate({ system, part, text, id: null, link });
          }}
        >
          <input
            className="field w-56"
            aria-label={`Link that ${text} means`}
            placeholder="short URL, URL or title"
            value={link}
            onChange={(e) => setLink(e.target.value)}
          />
          <button type="submit" className="button" disabled={link.trim() === '' || say.isPending}>
            Match
          </button>
          <button
            type="button"
            className="button-plain"
            aria-label={`Leave ${text} out`}
            disabled={say.isPending}
            onClick={() => say.mutate({ system, part, text, id: null, link: null })}
          >
            Leave out
          </button>
        </form>
      )}
      {say.error && (
        <p role="alert" className="w-full text-error">
          {say.error.message}
        </p>
      )}
    </li>
  );
}

function NamedRow({ name, mayWrite }: { name: Named; mayWrite: boolean }) {
  const campaigns = useCampaigns();
  const placements = usePlacements();
  const forget = useMutation(figureNameForget());
  const { system, part, text, id } = name;
  const called =
    id === null
      ? 'left out'
      : (campaigns.data?.find((c) => c.id === id)?.name ??
        placements.data?.find((p) => p.id === id)?.name ??
        `a ${partNames[part]}`);
  return (
    <li className="flex items-center gap-4 border-t border-line py-2">
      <span className="min-w-0 flex-1">
        <span className="font-mono break-all">{text}</span> → {called}
        <span className="caption block">
          {system}, by {name.madeBy}, <span title={exact(name.madeAt)}>{ago(name.madeAt)}</span>
        </span>
      </span>
      {mayWrite && (
        <button
          type="button"
          className="button-plain"
          aria-label={`Undo ${text}`}
          disabled={forget.isPending}
          onClick={() => forget.mutate({ system, part, text, id: null, link: null })}
        >
          Undo
        </button>
      )}
    </li>
  );
}
