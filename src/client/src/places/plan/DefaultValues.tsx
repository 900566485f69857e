import type { FieldAnswer } from '../../api/client';
import { clickFillIns } from '../../parts/clickFillIns';

interface DefaultValuesProps {
  fields: FieldAnswer[];
  /** By the key of their field. */
  values: Record<string, string>;
  /** Keys of the fields that are asked for each time. */
  asks: readonly string[];
  onValue: (key: string, value: string) => void;
  onAsks: (keys: string[]) => void;
}

/** What each link of a placement says unless something else is typed, and what is asked for each time. */
export function DefaultValues({ fields, values, asks, onValue, onAsks }: DefaultValuesProps) {
  const settable = fields.filter((f) => f.kind === 'text' || f.kind === 'date');
  const mustSay = (field: FieldAnswer) => field.means === 'source' || field.means === 'medium';
  return (
    <fieldset>
      <legend className="mb-1 text-xs font-medium text-quiet">Default values</legend>
      <div className="flex flex-col gap-1.5">
        {settable.map((field) => (
          <div key={field.key} className="grid grid-cols-[6.5rem_1fr_auto] items-center gap-2">
            <span className="truncate" title={field.key}>
              {field.label}
            </span>
            <input
              className="input min-w-0 font-mono text-xs"
              aria-label={`Default ${field.label}`}
              list={field.words.length || !field.closedList ? `default-${field.key}` : undefined}
              placeholder={
                mustSay(field)
                  ? `such as ${field.example ?? ''}`
                  : field.means === 'campaign'
                    ? 'from the campaign'
                    : ''
              }
              value={values[field.key] ?? ''}
              onChange={(e) => onValue(field.key, e.target.value)}
            />
            <label className="flex items-center gap-1 text-xs" title={`${field.label} is asked for each time`}>
              <input
                type="checkbox"
                aria-label={`Ask each time for ${field.label}`}
                checked={asks.includes(field.key)}
                onChange={(e) => onAsks(e.target.checked ? [...asks, field.key] : asks.filter((a) => a !== field.key))}
              />
              ask
            </label>
            {(field.words.length > 0 || !field.closedList) && (
              <datalist id={`default-${field.key}`}>
                {field.words.map((word) => (
                  <option key={word.written} value={word.written}>
                    {word.label}
                  </option>
                ))}
                {!field.closedList &&
                  clickFillIns.map(([fillIn, says]) => (
                    <option key={fillIn} value={fillIn}>
                      {says}
                    </option>
                  ))}
              </datalist>
            )}
          </div>
        ))}
      </div>
      <p className="caption mt-1">
        Can use @{'{page}'}, @{'{campaign}'}, @{'{placement}'}, @{'{month}'} or an attribute, such as @{'{region}'}.
      </p>
    </fieldset>
  );
}
