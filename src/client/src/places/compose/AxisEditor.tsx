import { useState } from 'react';
import type { PlacementAnswer } from '../../api/client';
import { ChipInput } from './ChipInput';
import type { Composition } from './composition';

interface AxisEditorProps {
  composition: Composition;
  placements: PlacementAnswer[];
  onChange: (next: Composition) => void;
}

/** What one placement says in place of the common variants, and its keywords. */
export function AxisEditor({ composition, placements, onChange }: AxisEditorProps) {
  const [asked, setAsked] = useState<string[]>([]);
  const chosen = placements.filter((p) => composition.placements.includes(p.id));
  const shown = chosen.filter(
    (p) =>
      asked.includes(p.id) ||
      (composition.ownVariants[p.id]?.length ?? 0) > 0 ||
      (composition.keywords[p.id]?.length ?? 0) > 0,
  );
  const others = chosen.filter((p) => !shown.includes(p));
  if (chosen.length === 0) return null;
  return (
    <div className="flex flex-col gap-1.5 border-b border-line px-5 py-1.5 text-xs">
      {shown.map((p) => (
        <div key={p.id} className="flex flex-wrap items-center gap-2">
          <span className="w-48 truncate font-medium">{p.name}</span>
          <span className="text-quiet">says</span>
          <ChipInput
            label={`Variants of ${p.name}`}
            placeholder={composition.variants.length ? 'the common variants' : 'what it says by itself'}
            values={composition.ownVariants[p.id] ?? []}
            onChange={(values) =>
              onChange({ ...composition, ownVariants: { ...composition.ownVariants, [p.id]: values } })
            }
          />
          <span className="text-quiet">for the keywords</span>
          <ChipInput
            label={`Keywords of ${p.name}`}
            placeholder="none"
            values={composition.keywords[p.id] ?? []}
            onChange={(values) => onChange({ ...composition, keywords: { ...composition.keywords, [p.id]: values } })}
          />
        </div>
      ))}
      {others.length > 0 && (
        <label className="flex items-center gap-2 text-quiet">
          Variants or keywords for one placement alone:
          <select
            className="input h-7 text-xs"
            value=""
            onChange={(e) => e.target.value && setAsked([...asked, e.target.value])}
          >
            <option value="">choose it …</option>
            {others.map((p) => (
              <option key={p.id} value={p.id}>
                {p.name}
              </option>
            ))}
          </select>
        </label>
      )}
    </div>
  );
}
