import { useState } from 'react';
import { type FieldAnswer } from '../../api/client';

interface ToolWritesProps {
  fields: FieldAnswer[];
  values: Record<string, string>;
  onChange: (values: Record<string, string>) => void;
}

/** What the tool behind the placement puts on links by itself. */
export function ToolWrites({ fields, values, onChange }: ToolWritesProps) {
  const [open, setOpen] = useState(Object.keys(values).length > 0);
  if (!open)
    return (
      <button type="button" className="button-plain -ml-1.5 self-start" onClick={() => setOpen(true)}>
        Its tool adds tags itself …
      </button>
    );
  return (
    <fieldset>
      <legend className="mb-1 text-xs font-medium text-quiet">Tags the tool adds itself</legend>
      <div className="flex flex-col gap-1.5">
        {fields.map((field) => (
          <div key={field.key} className="grid grid-cols-[6.5rem_1fr] items-center gap-2">
            <label className="flex min-w-0 items-center gap-1.5">
              <input
                type="checkbox"
                checked={field.key in values}
                onChange={(e) => {
                  const { [field.key]: _, ...others } = values;
                  onChange(e.target.checked ? { ...others, [field.key]: '' } : others);
                }}
              />
              <span className="truncate">{field.label}</span>
            </label>
            {field.key in values && (
              <input
                className="input min-w-0 font-mono text-xs"
                aria-label={`Value the tool adds as ${field.label}`}
                placeholder="not known"
                value={values[field.key]}
                onChange={(e) => onChange({ ...values, [field.key]: e.target.value })}
              />
            )}
          </div>
        ))}
      </div>
    </fieldset>
  );
}
