import { Plus, X } from 'lucide-react';
import { Select } from '../../parts/Select';
import { dimensionGroups, dimensions, labelOf, mostLevels, type OwnDimension } from './dimensions';

interface RowsByProps {
  rows: string[];
  own: OwnDimension[];
  onChange: (rows: string[]) => void;
}

/** Fields as they are chosen, under headings; those taken can't be chosen again. */
export function fieldOptions(own: readonly OwnDimension[], taken: readonly string[] = []) {
  return [
    ...dimensionGroups.map(({ label, names }) => ({
      label,
      options: names.map((name) => [name, dimensions[name]!.label, taken.includes(name)] as const),
    })),
    ...(own.length
      ? [
          {
            label: 'Of this workspace',
            options: own.map(({ name, label }) => [name, label, taken.includes(name)] as const),
          },
        ]
      : []),
  ];
}

/** What rows are made by, level by level. */
export function RowsBy({ rows, own, onChange }: RowsByProps) {
  return (
    <>
      <span>Rows by</span>
      {rows.map((row, level) => (
        <span key={level} className={level > 0 ? 'contents max-sm:hidden' : 'contents'}>
          {level > 0 && <span className="text-quiet">then by</span>}
          <span className="inline-flex items-center">
            <Select
              label={`Rows, level ${level + 1}`}
              value={row}
              onChange={(value) => onChange(rows.map((r, i) => (i === level ? value : r)))}
              options={[
                ...(row in dimensions || own.some((o) => o.name === row) ? [] : [[row, labelOf(row, own)] as const]),
                ...fieldOptions(
                  own,
                  rows.filter((r) => r !== row),
                ),
              ]}
            />
            {rows.length > 1 && (
              <button
                type="button"
                aria-label={`Remove level ${level + 1}`}
                className="flex size-6 items-center justify-center rounded text-quiet hover:text-ink"
                onClick={() => onChange(rows.filter((_, i) => i !== level))}
              >
                <X size={13} strokeWidth={1.5} />
              </button>
            )}
          </span>
        </span>
      ))}
      {rows.length < mostLevels && (
        <span className="inline-flex items-center text-quiet max-sm:hidden">
          <Plus size={13} strokeWidth={1.5} aria-hidden />
          <Select
            bare
            label="Add a level"
            value=""
            empty="then by …"
            className="w-22"
            onChange={(value) => onChange([...rows, value])}
            options={fieldOptions(own, rows)}
          />
        </span>
      )}
    </>
  );
}
