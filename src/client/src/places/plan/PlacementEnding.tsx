import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { type PlacementAnswer } from '../../api/client';
import { count } from '../../parts/format';
import { Select } from '../../parts/Select';
import { FormField } from '../../parts/FormField';
import { placementRetire, placementMerge } from './queries';

interface EndingProps {
  placement: PlacementAnswer;
  others: PlacementAnswer[];
  onDone: (says: string, next: string | null) => void;
}

/** Retiring a placement, or giving its links to another one. */
export function Ending({ placement, others, onDone }: EndingProps) {
  const [into, setInto] = useState('');
  const retire = useMutation({
    ...placementRetire(placement.id),
    onSuccess: () =>
      onDone(
        placement.retired
          ? `“${placement.name}” is restored.`
          : `“${placement.name}” is retired; its links keep working.`,
        null,
      ),
  });
  const merge = useMutation({
    ...placementMerge(placement.id),
    onSuccess: (m) => onDone(`${count(m.links)} links and ${count(m.planned)} planned ones were moved.`, into),
  });
  return (
    <div className="flex flex-col gap-2 border-t border-line pt-4">
      <button type="button" className="button self-start" onClick={() => retire.mutate(!placement.retired)}>
        {placement.retired ? 'Restore' : 'Retire'}
      </button>
      <FormField label="Merge into another placement">
        <span className="flex gap-2">
          <Select
            className="min-w-0 flex-1"
            value={into}
            onChange={setInto}
            options={[['', 'choose …'], ...others.map((p) => [p.id, p.name] as const)]}
          />
          <button
            type="button"
            className="button"
            disabled={!into || merge.isPending}
            onClick={() => merge.mutate(into)}
          >
            Move {count(placement.links)} {placement.links === 1 ? 'link' : 'links'}
          </button>
        </span>
      </FormField>
      {into && <p className="caption">Existing links keep their tags; “{placement.name}” is deleted.</p>}
      {merge.isError && <p className="text-error">{merge.error.message}</p>}
    </div>
  );
}
