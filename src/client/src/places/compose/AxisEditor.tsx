import type { PlacementAnswer } from '../../api/client';
import { ChipInput } from './ChipInput';
import type { Composition } from './composition';
import { Select } from '../../parts/Select';

interface AxisProps {
  composition: Composition;
  placements: PlacementAnswer[];
  onChange: (next: Composition) => void;
}

/** Chooses a placement that is to have variants or keywords of its own. */
export function AxisChoice({ composition, placements, onChange }: AxisProps) {
  const others = placements.filter((p) => composition.placements.includes(p.id) && !(p.id in composition.ownVariants));
  if (others.length === 0) return null;
  return (
    <Select
      bare
      className="max-w-44 text-xs text-quiet hover:text-ink"
      label="Variants or keywords for one placement alone"
      value=""
      onChange={(value) =>
        value && onChange({ ...composition, ownVariants: { ...composition.ownVariants, [value]: [] } })
      }
      options={[['', 'except for …'], ...others.map((p) => [p.id, p.name] as const)]}
    />
  );
}

/** What single placements say in place of the common variants, and their keywords. */
export function AxisEditor({ composition, placements, onChange }: AxisProps) {
  const shown = placements.filter((p) => composition.placements.includes(p.id) && p.id in composition.ownVariants);
  if (shown.length === 0) return null;
  return (
    <div className="flex flex-col gap-1.5 border-b border-line px-5 py-1.5 text-xs">
      {shown.map((p) => (
        <div key={p.id} className="flex flex-wrap items-center gap-2">
          <span className="w-48 truncate font-medium">{p.name}</span>
          <span className="text-quiet">says</span>
          <ChipInput
            label={`Variants of ${p.name}`}
            placeholder={composition.variants.length ? 'the common variants' : 'its default value'}
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
          <button
            type="button"
            className="button-plain"
            onClick={() => {
              const { [p.id]: _, ...ownVariants } = composition.ownVariants;
              const { [p.id]: __, ...keywords } = composition.keywords;
              onChange({ ...composition, ownVariants, keywords });
            }}
          >
            Undo
          </button>
        </div>
      ))}
    </div>
  );
}
