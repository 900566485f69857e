import { useId } from 'react';
import type { Schema } from '../../api/client';
import { useFields } from '../../api/known';
import { dayOf } from '../../parts/days';
import { FormField } from '../../parts/FormField';
import { count, shared } from '../../parts/format';
import { ColumnChoices, DayChoice, DecimalChoice } from '../../parts/importing/ColumnChoices';
import { RefusedRows, rowsOf } from '../../parts/importing/RefusedRows';
import { kindNames } from './figures';

type Answer = Schema['FigureImportAnswer'];
type Recipe = Schema['FigureRecipe'];

const parts = [
  ['day', 'Day'],
  ['link', 'Link'],
  ['campaign', 'Campaign'],
  ['placement', 'Placement'],
  ['clicks', 'Clicks'],
  ['visits', 'Visits'],
  ['conversions', 'Conversions'],
  ['shown', 'Shown'],
  ['sent', 'Sent'],
  ['delivered', 'Delivered'],
  ['opened', 'Opened'],
] as const;

interface FigurePreviewProps {
  answer: Answer;
  name: string;
  /** What the other system is called, as typed so far. */
  system: string;
  /** Systems that figures were imported from. */
  systems: string[];
  pending: boolean;
  onSystem: (system: string) => void;
  onRecipe: (recipe: Recipe) => void;
  onTake: () => void;
  onLeave: () => void;
}

/** What a file of another system says, before any of it counts. */
export function FigurePreview(props: FigurePreviewProps) {
  const { answer, name, system, systems, pending, onSystem, onRecipe, onTake, onLeave } = props;
  const fields = useFields();
  const known = useId();
  const { recipe } = answer;
  const values = Object.entries(recipe.values ?? {});
  const totals = (Object.keys(kindNames) as (keyof Answer['totals'])[]).filter((k) => answer.totals[k] != null);
  const unclear = answer.rows.some((r) => r.problem === 'amountAmbiguous') || recipe.decimal;
  const unclearDays = answer.rows.some((r) => r.problem === 'dayAmbiguous') || recipe.dayFirst != null;
  return (
    <section
      aria-label={`What ${name} says`}
      className="m-5 flex max-w-3xl flex-col gap-3 rounded border border-line-strong p-4"
    >
      <h2 className="font-medium">{name}</h2>
      <div className="grid grid-cols-4 gap-3 max-sm:grid-cols-2">
        <FormField label="Which system counts this">
          <input
            className="field"
            value={system}
            list={known}
            maxLength={80}
            required
            onChange={(e) => onSystem(e.target.value)}
          />
        </FormField>
        <datalist id={known}>
          {systems.map((s) => (
            <option key={s} value={s} />
          ))}
        </datalist>
        <ColumnChoices
          parts={parts}
          columns={answer.columns}
          columnOf={(part) => recipe[part]}
          onChoose={(part, column) => onRecipe({ ...recipe, [part]: column })}
        />
        {unclear && <DecimalChoice decimal={recipe.decimal} onChange={(decimal) => onRecipe({ ...recipe, decimal })} />}
        {unclearDays && (
          <DayChoice dayFirst={recipe.dayFirst} onChange={(dayFirst) => onRecipe({ ...recipe, dayFirst })} />
        )}
      </div>
      {values.length > 0 && (
        <p className="text-quiet">
          Also read:{' '}
          {values
            .map(([key, column]) => `${fields.data?.find((f) => f.key === key)?.label ?? key} from “${column}”`)
            .join(', ')}
          .
        </p>
      )}
      <p>
        {count(answer.kept)} of {rowsOf(answer.read)} can be imported
        {totals.length > 0 && <>: {totals.map((k) => `${shared(answer.totals[k]!)} ${kindNames[k]}`).join(', ')}</>}
        {answer.firstDay && answer.lastDay && `, ${dayOf(answer.firstDay)} to ${dayOf(answer.lastDay)}`}.
      </p>
      {answer.unmatchedCount > 0 && (
        <div>
          <p>
            {answer.unmatchedCount === 1 ? 'One name is' : `${count(answer.unmatchedCount)} names are`} not known yet.
            Import the table all the same; then say what each means.
          </p>
          <ul aria-label="Names not known yet" className="mt-1 flex flex-col gap-1 text-quiet">
            {answer.unmatched.slice(0, 10).map((u) => (
              <li key={u.part + u.text}>
                <span className="font-mono text-ink">{u.text}</span>
                {u.likely ? `: probably ${u.likely}` : ''}
              </li>
            ))}
            {answer.unmatchedCount > 10 && <li>and {count(answer.unmatchedCount - 10)} more</li>}
          </ul>
        </div>
      )}
      <RefusedRows rows={answer.rows} all={answer.read - answer.kept} />
      <div className="flex gap-2">
        <button
          type="button"
          className="button-main"
          disabled={pending || answer.kept === 0 || system.trim() === ''}
          title={system.trim() === '' ? 'Say first which system counts this' : undefined}
          onClick={onTake}
        >
          {pending ? 'Importing …' : `Import ${rowsOf(answer.kept)}`}
        </button>
        <button type="button" className="button-plain" onClick={onLeave}>
          Cancel
        </button>
      </div>
    </section>
  );
}
