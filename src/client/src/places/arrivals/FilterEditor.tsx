import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { Check } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useState, type ReactNode } from 'react';
import { count } from '../../parts/format';
import { Select } from '../../parts/Select';
import { useDebounced } from '../../parts/useDebounced';
import { tests, type Condition, type Test } from './conditions';
import type { OwnDimension } from './dimensions';
import { arrivalsQuery } from './queries';
import type { Range } from './range';
import { rowName } from './rowName';
import { fieldOptions } from './RowsBy';

interface FilterEditorProps {
  range: Range;
  own: OwnDimension[];
  /** The other conditions: only what occurs under them is offered. */
  others: string[];
  /** The condition that is changed; null for a new one. */
  condition: Condition | null;
  onChange: (condition: Condition) => void;
  /** Hears what keys are called. */
  onNames: (field: string, names: Record<string, string>) => void;
  /** What opens it. */
  children: ReactNode;
}

/** Makes or changes one condition: a field, how it is compared, and a value of those that occur, each with its visits. */
export function FilterEditor({ range, own, others, condition, onChange, onNames, children }: FilterEditorProps) {
  const [open, setOpen] = useState(false);
  const [field, setField] = useState(condition?.field ?? 'source');
  const [test, setTest] = useState<Test>(condition?.test ?? 'is');
  const [chosen, setChosen] = useState(condition?.test === 'in' ? condition.values : []);
  const [text, setText] = useState(condition?.test === 'contains' ? condition.values[0]! : '');
  const search = useDebounced(text, 150);
  const values = useQuery({
    ...arrivalsQuery(range, { rows: field, where: others, measures: 'visits', size: 50, ...(search && { search }) }),
    enabled: open && test !== 'contains',
    placeholderData: keepPreviousData,
  });
  const names = values.data?.names[field];

  function give(values: string[], done = true) {
    onNames(field, names ?? {});
    onChange({ field, test, values });
    if (done) setOpen(false);
  }

  function pick(value: string) {
    if (test !== 'in') {
      give([value]);
      return;
    }
    const next = chosen.includes(value) ? chosen.filter((c) => c !== value) : [...chosen, value];
    setChosen(next);
  }

  return (
    <Popover.Root
      open={open}
      onOpenChange={(wish) => {
        setOpen(wish);
        if (!wish && test === 'in' && chosen.length > 0) give(chosen);
      }}
    >
      <Popover.Trigger asChild>{children}</Popover.Trigger>
      <Popover.Portal>
        <Popover.Content align="start" sideOffset={4} className="floating z-40 flex w-84 flex-col" aria-label="Filter">
          <div className="flex gap-2 border-b border-line p-2">
            <Select
              className="w-40"
              label="Field"
              value={field}
              onChange={(f) => {
                setField(f);
                setChosen([]);
                setText('');
              }}
              options={fieldOptions(own)}
            />
            <Select
              className="flex-1"
              label="Comparison"
              value={test}
              onChange={(t) => setTest(t)}
              options={Object.entries(tests) as [Test, string][]}
            />
          </div>
          <form
            onSubmit={(e) => {
              e.preventDefault();
              if (test === 'contains') {
                if (text.trim()) give([text.trim()]);
              } else if (test === 'in' && chosen.length) give(chosen);
              else if (values.data?.rows.length) pick(values.data.rows[0]!.keys[0] ?? '');
            }}
          >
            <input
              autoFocus
              aria-label={test === 'contains' ? 'Text' : 'Find a value'}
              placeholder={test === 'contains' ? 'Text it contains, then Enter' : 'Find a value …'}
              value={text}
              onChange={(e) => setText(e.target.value)}
              className="h-9 w-full border-b border-line bg-transparent px-3 outline-none"
            />
          </form>
          {test !== 'contains' && (
            <ul aria-label="Values" className="max-h-72 overflow-y-auto p-1">
              {values.data?.rows.length === 0 && <li className="caption p-2">No matches.</li>}
              {values.isError && <li className="p-2 text-error">{values.error.message}</li>}
              {values.data?.rows.map((row) => {
                const key = row.keys[0] ?? null;
                const on = test === 'in' ? chosen.includes(key ?? '') : condition?.values[0] === (key ?? '');
                return (
                  <li key={key ?? ' none'}>
                    <button
                      type="button"
                      aria-pressed={on}
                      className="flex w-full items-center gap-2 rounded px-2 py-1 text-left hover:bg-accent-wash"
                      onClick={() => pick(key ?? '')}
                    >
                      <Check size={13} strokeWidth={1.5} className={`shrink-0 ${on ? 'text-accent' : 'opacity-0'}`} />
                      <span className={`min-w-0 flex-1 truncate ${key === null ? 'text-quiet' : ''}`}>
                        {rowName(field, key, names)}
                      </span>
                      <span className="caption tabular-nums">{count(row.figures.visits)}</span>
                    </button>
                  </li>
                );
              })}
            </ul>
          )}
          {test === 'in' && (
            <div className="flex justify-end border-t border-line p-2">
              <button type="button" className="button-main" disabled={chosen.length === 0} onClick={() => give(chosen)}>
                Apply {chosen.length > 0 && chosen.length}
              </button>
            </div>
          )}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
