import type { ReactNode } from 'react';
import type { FieldAnswer } from '../../api/client';
import { partsOf, shownTargets, sourceOf, targetsOf, withSource, type CellSource, type Recipe } from './recipe';
import { Select } from '../../parts/Select';
import { FormField } from '../../parts/FormField';

interface RecipeRowProps {
  recipe: Recipe;
  columns: string[];
  fields: FieldAnswer[];
  /** Words that are known for a target, by its key. */
  known: Record<string, string[]>;
  readOnly: boolean;
  onChange: (recipe: Recipe) => void;
  /** Makes a campaign for all rows; left out for those who may not. */
  onNewCampaign?: () => void;
  children?: ReactNode;
}

const newCampaign = 'new campaign';

/** The recipe above the sheet's own heads: each field says what feeds it. */
export function RecipeRow({
  recipe,
  columns,
  fields,
  known,
  readOnly,
  onChange,
  onNewCampaign,
  children,
}: RecipeRowProps) {
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
            <FormField label={target.label}>
              <Select
                className={source ? '' : 'text-quiet'}
                value={kind === 'column' ? `column:${text}` : kind}
                disabled={readOnly}
                onChange={(chosen) => {
                  if (chosen.startsWith('column:')) set({ column: chosen.slice(7), value: null, text: null });
                  else if (chosen === 'value') set({ column: null, value: '', text: null });
                  else if (chosen === newCampaign) onNewCampaign?.();
                  else if (chosen === 'text') set({ column: null, value: null, text: '' });
                  else set(null);
                }}
                options={[
                  ['none', target.otherwise],
                  ...(kind === 'column' && !columns.includes(text)
                    ? [[`column:${text}`, `${text} (not here)`] as const]
                    : []),
                  { label: 'a column', options: columns.map((column) => [`column:${column}`, column] as const) },
                  {
                    label: 'or',
                    options: [
                      ['value', 'one value for all rows …'],
                      ['text', 'a text with columns …'],
                      ...(target.key === 'campaign' && onNewCampaign
                        ? [[newCampaign, 'a new campaign …'] as const]
                        : []),
                    ],
                  },
                ]}
              />
            </FormField>
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
          <FormField label="Another field">
            <Select
              className="text-quiet"
              value=""
              onChange={(value) =>
                value && onChange(withSource(recipe, value, { column: null, value: '', text: null }))
              }
              options={[
                ['', 'from placement and campaign'],
                ...others.map((target) => [target.key, target.label] as const),
              ]}
            />
          </FormField>
        </div>
      )}
      <div className="flex w-44 flex-col gap-1">
        <FormField label="Write links into">
          <Select
            value={recipe.output?.column ?? ''}
            disabled={readOnly}
            onChange={(value) =>
              onChange({
                ...recipe,
                output: value ? { column: value, value: null, text: null } : null,
              })
            }
            options={[['', 'a new column'], ...columns.map((column) => [column, `${column}, replacing it`] as const)]}
          />
        </FormField>
      </div>
      <FormField label="Text beside each link" className="w-56">
        <input
          key={recipe.linkText ?? ''}
          className="input"
          readOnly={readOnly}
          placeholder={`@{${columns[0] ?? 'Title'}} – @{link}`}
          defaultValue={recipe.linkText ?? ''}
          onBlur={(e) =>
            e.target.value !== (recipe.linkText ?? '') && onChange({ ...recipe, linkText: e.target.value || null })
          }
          onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
        />
      </FormField>
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
        {recipe.existing === 'again' && (
          <label className="flex h-7 items-center gap-1.5">
            <input
              type="checkbox"
              disabled={readOnly}
              checked
              onChange={() => onChange({ ...recipe, existing: 'use' })}
            />
            create links again that exist already
          </label>
        )}
      </div>
      {children}
    </section>
  );
}
