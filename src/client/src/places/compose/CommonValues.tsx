import type { FieldAnswer } from '../../api/client';
import type { Composition } from './composition';

interface CommonValuesProps {
  composition: Composition;
  fields: FieldAnswer[];
  onChange: (next: Composition) => void;
}

/** Values typed for all links at once. */
export function CommonValues({ composition, fields, onChange }: CommonValuesProps) {
  const common = Object.entries(composition.common);
  if (common.length === 0) return null;
  return (
    <div className="flex flex-wrap items-center gap-2 border-b border-line px-5 py-1.5 text-xs">
      <span className="text-quiet">For all links:</span>
      {common.map(([key, value]) => (
        <span key={key} className="inline-flex items-center gap-1">
          {fields.find((f) => f.key === key)?.label ?? key} <span className="font-mono">{value}</span>
          <button
            type="button"
            className="button-plain"
            aria-label={`Undo ${key}`}
            onClick={() => {
              const { [key]: _, ...rest } = composition.common;
              onChange({ ...composition, common: rest });
            }}
          >
            Undo
          </button>
        </span>
      ))}
    </div>
  );
}
