import { Scale } from 'lucide-react';
import { Popover } from 'radix-ui';
import type { MeasureName } from '../../parts/board/measures';
import { Select } from '../../parts/Select';
import {
  modelHints,
  models,
  mostDays,
  ruleOf,
  ruleText,
  usualDays,
  type Credit,
  type Model,
  type Rule,
} from './credit';
import type { Changes } from './useView';
import type { View } from './view';

const gained: MeasureName = 'conversionsGained';

const choices = Object.entries(models) as [Model, string][];

interface CreditMenuProps {
  view: View;
  set: (changes: Changes) => void;
}

/** Which visits get the credit for a conversion. */
export function CreditMenu({ view, set }: CreditMenuProps) {
  const { credit } = view;
  const rule = credit && ruleOf(credit.rule);
  const beside = credit?.beside ? ruleOf(credit.beside) : null;
  const onBoard = view.part === 'board';

  function change(next: Credit | null) {
    const columns = view.columns.filter((c) => c !== gained && c !== 'revenueGained');
    set({
      credit: next?.rule ?? null,
      creditBeside: next?.beside || null,
      creditDays: next && next.days !== usualDays ? String(next.days) : null,
      // What is gained is shown while there is something to gain by.
      ...(!!next?.beside !== view.columns.includes(gained) && {
        columns: (next?.beside ? [...columns, gained] : columns).join(','),
      }),
    });
  }

  return (
    <Popover.Root>
      <Popover.Trigger className="button h-7 px-2 text-xs max-sm:hidden" aria-pressed={!!credit}>
        <Scale size={13} strokeWidth={1.5} /> {rule ? models[rule.model] : 'Credit'}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={4}
          aria-label="Credit"
          className="floating z-40 flex max-h-[70vh] w-88 flex-col gap-3 overflow-y-auto p-3"
        >
          {onBoard && (
            <fieldset>
              <legend className="caption mb-1 font-medium">Credit for a conversion goes</legend>
              <Choice
                says="to its own visit"
                hint="No earlier visit is looked at."
                checked={!credit}
                onChoose={() => change(null)}
              />
              {choices.map(([model, says]) => (
                <Choice
                  key={model}
                  says={says}
                  hint={modelHints[model]}
                  checked={rule?.model === model}
                  onChoose={() => change({ days: usualDays, beside: '', ...credit, rule: ruleText(ruleOf(model)!) })}
                />
              ))}
            </fieldset>
          )}
          {credit && rule && onBoard && <Settings rule={rule} onChange={(text) => change({ ...credit, rule: text })} />}
          {(credit || !onBoard) && (
            <label className="flex items-center gap-2">
              Visits up to
              <Whole
                label="Days before a conversion"
                value={credit?.days ?? usualDays}
                most={mostDays}
                onChange={(days) => change({ rule: 'last', beside: '', ...credit, days })}
              />
              days before it count
            </label>
          )}
          {credit && onBoard && (
            <>
              <label className="flex items-center gap-2">
                Compare each row with
                <Select
                  label="Compare with"
                  value={beside?.model ?? ''}
                  empty="nothing"
                  onChange={(model) => change({ ...credit, beside: model && ruleText(ruleOf(model)!) })}
                  options={[['', 'nothing'] as const, ...choices.filter(([m]) => m !== rule?.model)]}
                />
              </label>
              {beside && <Settings rule={beside} onChange={(text) => change({ ...credit, beside: text })} />}
              <p className="text-xs text-quiet">
                Country, device and the like are those of the converting visit. The conversion rate stays that of
                visits. Visitors without an id are recognised on one day only.
              </p>
            </>
          )}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function Choice({
  says,
  hint,
  checked,
  onChoose,
}: {
  says: string;
  hint: string;
  checked: boolean;
  onChoose: () => void;
}) {
  return (
    <label className="flex items-start gap-2 py-0.5">
      <input type="radio" name="credit" className="mt-1" checked={checked} onChange={onChoose} />
      <span>
        {says} <span className="block text-xs text-quiet">{hint}</span>
      </span>
    </label>
  );
}

/** The settings of a model that has any. */
function Settings({ rule, onChange }: { rule: Rule; onChange: (text: string) => void }) {
  const to = (changes: Partial<Rule>) => onChange(ruleText({ ...rule, ...changes }));
  if (rule.model === 'ends')
    return (
      <label className="flex flex-wrap items-center gap-2">
        First
        <Whole
          label="Per cent of the first visit"
          value={rule.firstShare}
          most={100 - rule.lastShare}
          onChange={(firstShare) => to({ firstShare })}
        />
        %, last
        <Whole
          label="Per cent of the last visit"
          value={rule.lastShare}
          most={100 - rule.firstShare}
          onChange={(lastShare) => to({ lastShare })}
        />
        %, between {100 - rule.firstShare - rule.lastShare} %
      </label>
    );
  return (
    rule.model === 'fading' && (
      <label className="flex items-center gap-2">
        Half as much after
        <Whole
          label="Half-life in days"
          value={rule.halfLife}
          most={mostDays}
          onChange={(halfLife) => to({ halfLife })}
        />
        days
      </label>
    )
  );
}

/** A whole number from 1; what is none changes nothing. */
function Whole({
  label,
  value,
  most,
  onChange,
}: {
  label: string;
  value: number;
  most: number;
  onChange: (value: number) => void;
}) {
  return (
    <input
      type="number"
      aria-label={label}
      className="input w-16 text-right tabular-nums"
      min={1}
      max={most}
      key={value}
      defaultValue={value}
      onBlur={(e) => {
        const next = Number(e.target.value);
        if (Number.isInteger(next) && next >= 1 && next <= most) {
          if (next !== value) onChange(next);
        } else e.target.value = String(value);
      }}
      onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
    />
  );
}
