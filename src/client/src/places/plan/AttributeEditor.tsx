import { useMutation, useQuery } from '@tanstack/react-query';
import { Plus, X } from 'lucide-react';
import { useState } from 'react';
import { Inspector } from '../../parts/Inspector';
import { attributesQuery } from '../../api/queries';
import { attributesChange } from './queries';

interface Line {
  name: string;
  values: string;
}

/** Attributes campaigns of this workspace have, with the values to choose from. */
export function AttributeEditor({ onClose }: { onClose: () => void }) {
  const [changed, setChanged] = useState<Line[] | null>(null);
  const known = useQuery(attributesQuery());
  const lines = changed ?? (known.data ?? []).map((a) => ({ name: a.name, values: a.values.join(', ') }));
  const save = useMutation({ ...attributesChange(), onSuccess: onClose });
  const set = (i: number, line: Partial<Line>) => setChanged(lines.map((l, j) => (i === j ? { ...l, ...line } : l)));

  return (
    <Inspector title="Attributes of campaigns" onClose={onClose}>
      <p className="text-quiet">
        What distinguishes your campaigns: department, region, product line. Names and default values can use them.
      </p>
      <ul className="flex flex-col gap-3">
        {lines.map((line, i) => (
          <li key={i} className="flex flex-col gap-1">
            <span className="flex gap-1">
              <input
                className="input min-w-0 flex-1"
                aria-label={`Attribute ${i + 1}`}
                placeholder="such as region"
                value={line.name}
                onChange={(e) => set(i, { name: e.target.value })}
              />
              <button
                type="button"
                className="rounded p-1 text-quiet hover:text-ink"
                aria-label={`Remove ${line.name}`}
                onClick={() => setChanged(lines.filter((_, j) => j !== i))}
              >
                <X size={14} strokeWidth={1.5} />
              </button>
            </span>
            <input
              className="input"
              aria-label={`Values of ${line.name || `attribute ${i + 1}`}`}
              placeholder="values to choose from, separated by commas; empty for free text"
              value={line.values}
              onChange={(e) => set(i, { values: e.target.value })}
            />
          </li>
        ))}
      </ul>
      <button
        type="button"
        className="button self-start"
        onClick={() => setChanged([...lines, { name: '', values: '' }])}
      >
        <Plus size={14} strokeWidth={1.5} /> Add attribute
      </button>
      {save.isError && (
        <p role="alert" className="text-error">
          {save.error.message}
        </p>
      )}
      <button
        type="button"
        className="button-main self-start"
        disabled={!changed || save.isPending}
        onClick={() =>
          save.mutate(
            lines
              .filter((l) => l.name.trim() !== '')
              .map((l) => ({
                name: l.name,
                values: l.values
                  .split(',')
                  .map((v) => v.trim())
                  .filter(Boolean),
              })),
          )
        }
      >
        Save attributes
      </button>
    </Inspector>
  );
}
