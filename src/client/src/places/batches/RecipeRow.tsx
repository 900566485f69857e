import type { ReactNode } from 'react';
import type { FieldAnswer } from '../../api/client';
import { partsOf, shownTargets, sourceOf, targetsOf, withSource, type CellSource, type Recipe } from './recipe';

interface RecipeRowProps {
  recipe: Recipe;
  columns: string[];
  fields: FieldAnswer[];
  /** Words that are known for a target, by its key. */
  known: Record<string, string[]>;
  readOnly: boolean;
  onChange: (recipe: Recipe) => void;
  children?: ReactNode;
}

/** The recipe above the sheet's own heads: each field says what feeds it. */
export function RecipeRow({ recipe, columns, fields, known, readOnly, onChange, children }: RecipeRowProps) {
  // Fields that nothing feeds follow from placement and campaign; they are offered, not shown.
  const shown = shownTargets(recipe, fields);
  const others = targetsOf(fields).filter((t) => !shown.some((s) => s.key === t.key));
  return (
    <section aria-label="Recipe" className="flex shrink-0 flex-wrap gap-x-3 gap-y-2 border-b border-line px-5 py-3">
      {shown.map((target) => {
        const source = sourceOf(recipe, target.key);
        const { kind, text } = partsOf(source);
        const set = (next: CellSource | null) => onChange(withSource(recipe, target.key, next));
        return (
          <div key={target.key} className="flex w-44 flex-col gap-1">
            <label className="flex flex-col gap-1">
              <span className="caption">{target.label}</span>
              <select
                className={`input ${source ? '' : 'text-quiet'}`}
                disabled={readOnly}
                value={kind === 'column' ? `column:${text}` : kind}
                onChange={(e) => {
                  const chosen = e.target.value;
                  if (chosen.startsWith('column:')) set({ column: chosen.slice(7), value: null, text: null });
                  else if (chosen === 'value') set({ column: null, value: '', text: null });
                  else if (chosen === 'text') set({ column: null, value: null, text: '' });
                  else set(null);
                }}
              >
                <option value="none">{target.otherwise}</option>
                {kind === 'column' && !columns.includes(text) && (
                  <option value={`column:${text}`}>{text} (not here)</option>
                )}
                <optgroup label="a column">
                  {columns.map((column) => (
                    <option key={column} value={`column:${column}`}>
                      {column}
                    </option>
                  ))}
                </optgroup>
                <optgroup label="or">
                  <option value="value">one value for all rows …</option>
                  <option value="text">a text with columns …</option>
                </optgroup>
              </select>
            </label>
            {(kind === 'value' || kind === 'text') && (
              <input
                key={`${target.key} ${kind} ${text}`}
                className="input text-xs"
                aria-label={`${target.label}: ${kind === 'value' ? 'one value for all rows' : 'text with columns'}`}
                list={kind === 'value' && known[target.key]?.length ? `known-${target.key}` : undefined}
                readOnly={readOnly}
                placeholder={kind === 'text' ? `@{${columns[0] ?? 'Heading'}} …` : ''}
                defaultValue={text}
                onBlur={(e) =>
                  e.target.value !== text &&
                  set(
                    kind === 'value'
                      ? { column: null, value: e.target.value, text: null }
                      : { column: null, value: null, text: e.target.value },
                  )
                }
                onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
              />
            )}
            {kind === 'value' && known[target.key]?.length ? (
              <datalist id={`known-${target.key}`}>
                {known[target.key]!.map((name) => (
                  <option key={name} value={name} />
                ))}
              </datalist>
            ) : null}
          </div>
        );
      })}
      {others.length > 0 && !readOnly && (
        <div className="flex w-44 flex-col gap-1">
          <label className="flex flex-col gap-1">
            <span className="caption">Another field</span>
            <select
              className="input text-quiet"
              value=""
              onChange={(e) =>
                e.target.value && onChange(withSource(recipe, e.target.value, { column: null, value: '', text: null }))
              }
            >
              <option value="">from placement and campaign</option>
              {others.map((target) => (
                <option key={target.key} value={target.key}>
                  {target.label}
                </option>
              ))}
            </select>
          </label>
        </div>
      )}
      <div className="flex w-44 flex-col gap-1">
        <label className="flex flex-col gap-1">
          <span className="caption">Write links into</span>
          <select
            className="input"
            disabled={readOnly}
            value={recipe.output?.column ?? ''}
            onChange={(e) =>
              onChange({
                ...recipe,
                output: e.target.value ? { column: e.target.value, value: null, text: null } : null,
              })
            }
          >
            <option value="">a new column</option>
            {columns.map((column) => (
              <option key={column} value={column}>
                {column}, replacing it
              </option>
            ))}
          </select>
        </label>
      </div>
      <div className="flex flex-col justify-end text-xs">
        <label className="flex h-7 items-center gap-1.5">
          <input
            type="checkbox"
            disabled={readOnly}
            checked={recipe.shorten ?? false}
            onChange={(e) => onChange({ ...recipe, shorten: e.target.checked })}
          />
          with short links and codes
        </label>
        <label className="flex h-7 items-center gap-1.5">
          <input
            type="checkbox"
            disabled={readOnly}
            checked={recipe.results === 'afresh'}
            onChange={(e) => onChange({ ...recipe, results: e.target.checked ? 'afresh' : 'keep' })}
          />
          create a new link where it would change
        </label>
      </div>
      {children}
    </section>
  );
}
