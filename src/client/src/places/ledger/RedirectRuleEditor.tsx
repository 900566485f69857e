import { Plus, X } from 'lucide-react';
import type { Schema } from '../../api/client';
import { Select } from '../../parts/Select';
import { FormField } from '../../parts/FormField';
import { DateTimeField } from '../../parts/DateField';

type Turn = Schema['RedirectRuleText'];

/** Other pages for some times or one kind of device; the first that holds wins. */
export function RedirectRuleEditor({ turns, onChange }: { turns: Turn[]; onChange: (turns: Turn[]) => void }) {
  const change = (i: number, part: Partial<Turn>) => onChange(turns.map((t, j) => (i === j ? { ...t, ...part } : t)));
  return (
    <fieldset className="flex flex-col gap-2">
      <legend className="caption">Redirect rules, first match wins</legend>
      {turns.map((turn, i) => (
        <div key={i} className="flex flex-col gap-1.5 border-l-2 border-line-strong pl-2">
          <div className="flex gap-1">
            <input
              className="input min-w-0 flex-1 font-mono text-xs"
              aria-label={`Rule ${i + 1}`}
              placeholder="https://"
              value={turn.leadsTo ?? ''}
              onChange={(e) => change(i, { leadsTo: e.target.value })}
            />
            <button
              type="button"
              className="rounded p-1 text-quiet hover:text-ink"
              aria-label={`Remove rule ${i + 1}`}
              onClick={() => onChange(turns.filter((_, j) => j !== i))}
            >
              <X size={14} strokeWidth={1.5} />
            </button>
          </div>
          <div className="grid grid-cols-2 gap-1.5">
            <Moment says="From" value={turn.from} onChange={(from) => change(i, { from })} />
            <Moment says="Until" value={turn.until} onChange={(until) => change(i, { until })} />
          </div>
          <Select
            label={`Device for rule ${i + 1}`}
            value={turn.device ?? ''}
            onChange={(value) => change(i, { device: value || null })}
            options={[
              ['', 'on any device'],
              ['phone', 'on a phone'],
              ['tablet', 'on a tablet'],
              ['computer', 'on a computer'],
            ]}
          />
        </div>
      ))}
      <button
        type="button"
        className="button-plain -ml-1.5 self-start"
        onClick={() => onChange([...turns, { leadsTo: '', from: null, until: null, device: null }])}
      >
        <Plus size={12} strokeWidth={1.5} /> Add a redirect rule (dates or device)
      </button>
    </fieldset>
  );
}

function Moment({
  says,
  value,
  onChange,
}: {
  says: string;
  value: string | null;
  onChange: (value: string | null) => void;
}) {
  return (
    <FormField label={says}>
      <DateTimeField label={says} value={value ?? ''} onChange={(moment) => onChange(moment || null)} />
    </FormField>
  );
}
