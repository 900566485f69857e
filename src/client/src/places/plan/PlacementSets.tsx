import { useMutation } from '@tanstack/react-query';
import { X } from 'lucide-react';
import { useState } from 'react';
import type { Schema } from '../../api/client';
import { count } from '../../parts/format';
import { placementSetSave } from './queries';

type PlacementSet = Schema['PlacementSetAnswer'];

interface PlacementSetsProps {
  sets: PlacementSet[];
  /** Id of the set that is shown; empty for none. */
  chosen: string;
  mayWrite: boolean;
  onChoose: (id: string) => void;
  onDelete: (set: PlacementSet) => void;
}

/** The sets that placements are picked by. */
export function PlacementSets({ sets, chosen, mayWrite, onChoose, onDelete }: PlacementSetsProps) {
  return (
    <>
      {sets.map((s) => (
        <span
          key={s.id}
          className={`inline-flex h-7 items-center rounded border ${chosen === s.id ? 'border-accent bg-accent-wash' : 'border-line-strong bg-sheet'}`}
        >
          <button
            type="button"
            aria-pressed={chosen === s.id}
            className="px-2 text-xs"
            onClick={() => onChoose(chosen === s.id ? '' : s.id)}
          >
            {s.name} <span className="text-quiet">{s.placements.length}</span>
          </button>
          {mayWrite && chosen === s.id && (
            <button
              type="button"
              className="pr-1.5 text-quiet hover:text-ink"
              aria-label={`Delete the set ${s.name}; its placements stay`}
              onClick={() => onDelete(s)}
            >
              <X size={12} strokeWidth={1.5} />
            </button>
          )}
        </span>
      ))}
    </>
  );
}

interface SetBarProps {
  sets: PlacementSet[];
  /** Ids of the chosen placements. */
  ticked: string[];
  onNone: () => void;
  onSay: (message: string) => void;
}

/** Puts the chosen placements into a set. */
export function SetBar({ sets, ticked, onNone, onSay }: SetBarProps) {
  const [name, setName] = useState('');
  const saveSet = useMutation({
    ...placementSetSave(),
    onSuccess: (saved) => {
      onNone();
      setName('');
      onSay(`“${saved.name}” has ${saved.placements.length} placements.`);
    },
    onError: (error) => onSay(error.message),
  });
  const known = sets.find((s) => s.name === name.trim());
  return (
    <footer className="flex h-14 shrink-0 items-center gap-3 border-t border-line px-5">
      <p className="min-w-0 flex-1 truncate">
        {count(ticked.length)} chosen
        <button type="button" className="button-plain ml-2" onClick={() => onNone()}>
          None
        </button>
      </p>
      <input
        className="input w-56"
        aria-label="Name of the set"
        placeholder="new or existing set"
        list="set-names"
        value={name}
        onChange={(e) => setName(e.target.value)}
      />
      <datalist id="set-names">
        {sets.map((s) => (
          <option key={s.id} value={s.name} />
        ))}
      </datalist>
      <button
        type="button"
        className="button"
        disabled={name.trim() === ''}
        onClick={() =>
          saveSet.mutate({
            id: known?.id,
            name: name,
            placements: [...new Set([...(known?.placements ?? []), ...ticked])],
          })
        }
      >
        Add to set
      </button>
    </footer>
  );
}
