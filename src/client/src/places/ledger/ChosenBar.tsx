import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { api, dataOf } from '../../api/client';
import { useCampaigns } from '../../api/known';
import { count } from '../../parts/format';
import { usePerson } from '../../parts/person';

interface ChosenBarProps {
  chosen: ReadonlySet<string>;
  /** Links the search finds in all. */
  found: number;
  onChooseFound: () => void;
  onChooseNone: () => void;
  onCodes: () => void;
  /** The chosen are among those that were put away. */
  retired: boolean;
}

type Change = { retire?: boolean; campaign?: string };

/** What can be done with the chosen links: the count first, the way back after. */
export function ChosenBar({ chosen, found, onChooseFound, onChooseNone, onCodes, retired }: ChosenBarProps) {
  const person = usePerson();
  const queries = useQueryClient();
  const campaigns = useCampaigns();
  const [planned, setPlanned] = useState<Change | null>(null);
  const [undo, setUndo] = useState<{ id: string; says: string } | null>(null);
  const again = () => queries.invalidateQueries({ queryKey: ['links'] });
  const change = useMutation({
    mutationFn: async (what: Change) =>
      dataOf(await api.POST('/api/v1/links/change-many', { body: { links: [...chosen], ...what } })),
    onSuccess: (answer, what) => {
      setPlanned(null);
      setUndo(answer.undo ? { id: answer.undo, says: `${links(answer.changed)} ${done(what)}.` } : null);
      onChooseNone();
      return again();
    },
  });
  const takeBack = useMutation({
    mutationFn: async (id: string) =>
      dataOf(await api.POST('/api/v1/links/change-many/{id}/undo', { params: { path: { id } } })),
    onSuccess: () => {
      setUndo(null);
      return again();
    },
  });
  const nameOf = (id?: string) => campaigns.data?.find((c) => c.id === id)?.name ?? '';
  const done = (what: Change) =>
    what.campaign
      ? `moved to ${nameOf(what.campaign)}; their tags stay`
      : what.retire
        ? 'put away; their short links go on'
        : 'brought back';
  if (chosen.size === 0 && !undo) return null;
  return (
    <div
      role="toolbar"
      aria-label="Chosen links"
      className="flex min-h-12 shrink-0 flex-wrap items-center gap-3 border-t border-line bg-accent-wash px-5 py-2"
    >
      {undo && chosen.size === 0 && (
        <>
          <span role="status">{undo.says}</span>
          <button
            type="button"
            className="button"
            disabled={takeBack.isPending}
            onClick={() => takeBack.mutate(undo.id)}
          >
            Undo
          </button>
          <button type="button" className="button-plain" onClick={() => setUndo(null)}>
            All right
          </button>
        </>
      )}
      {chosen.size > 0 && planned && (
        <>
          <span>
            {links(chosen.size)} will be {done(planned)}.
          </span>
          <button
            type="button"
            className="button-main"
            disabled={change.isPending}
            onClick={() => change.mutate(planned)}
          >
            {planned.campaign ? 'Move them' : planned.retire ? 'Put them away' : 'Bring them back'}
          </button>
          <button type="button" className="button" onClick={() => setPlanned(null)}>
            Leave it
          </button>
        </>
      )}
      {chosen.size > 0 && !planned && (
        <>
          <span>{links(chosen.size)} chosen</span>
          {found > chosen.size && (
            <button type="button" className="button-plain" onClick={onChooseFound}>
              Choose all {count(Math.min(found, 10_000))}
            </button>
          )}
          <button type="button" className="button" onClick={onCodes}>
            Codes and print sheet
          </button>
          {person.role !== 'Viewer' && (
            <>
              <select
                className="input w-56"
                aria-label="Move to campaign"
                value=""
                onChange={(e) => e.target.value && setPlanned({ campaign: e.target.value })}
              >
                <option value="">Move to another campaign …</option>
                {campaigns.data?.map((c) => (
                  <option key={c.id} value={c.id}>
                    {c.name}
                  </option>
                ))}
              </select>
              <button type="button" className="button" onClick={() => setPlanned({ retire: !retired })}>
                {retired ? 'Bring back' : 'Put away'}
              </button>
            </>
          )}
          <button type="button" className="button-plain" onClick={onChooseNone}>
            Choose none
          </button>
        </>
      )}
      {(change.isError || takeBack.isError) && (
        <span role="alert" className="text-stop">
          {(change.error ?? takeBack.error)!.message}
        </span>
      )}
    </div>
  );
}

const links = (n: number) => `${count(n)} ${n === 1 ? 'link' : 'links'}`;
