import { ListFilter, X } from 'lucide-react';
import { useState } from 'react';
import { conditionSays, conditionsOf, whereOf, type Condition } from './conditions';
import type { OwnDimension } from './dimensions';
import { FilterEditor } from './FilterEditor';
import type { Range } from './range';

interface FilterBarProps {
  range: Range;
  where: string[];
  own: OwnDimension[];
  /** What keys are called, as far as they are known. */
  names: Record<string, Record<string, string>>;
  onChange: (where: string[]) => void;
}

/** What visits are narrowed by, as chips that can be changed and removed. */
export function FilterBar({ range, where, own, names, onChange }: FilterBarProps) {
  const conditions = conditionsOf(where);
  const [learned, setLearned] = useState<Record<string, Record<string, string>>>({});
  const learn = (field: string, known: Record<string, string>) =>
    setLearned((all) => ({ ...all, [field]: { ...all[field], ...known } }));

  const put = (at: number, condition: Condition) =>
    onChange(whereOf(at < conditions.length ? conditions.with(at, condition) : [...conditions, condition]));
  const without = (at: number) => conditions.filter((_, i) => i !== at);

  const says = (condition: Condition): string =>
    conditionSays(condition, own, learned[condition.field] ?? names[condition.field]);

  return (
    <>
      {conditions.map((condition, i) => (
        <span
          key={i}
          className="inline-flex h-7 max-w-80 items-center rounded border border-accent bg-accent-wash text-xs whitespace-nowrap"
        >
          <FilterEditor
            range={range}
            own={own}
            others={whereOf(without(i))}
            condition={condition}
            onChange={(c) => put(i, c)}
            onNames={learn}
          >
            <button type="button" className="min-w-0 truncate pl-2 hover:underline" title={says(condition)}>
              {says(condition)}
            </button>
          </FilterEditor>
          <button
            type="button"
            aria-label={`Remove the filter ${says(condition)}`}
            className="flex size-6 shrink-0 items-center justify-center rounded text-quiet hover:text-ink"
            onClick={() => onChange(whereOf(without(i)))}
          >
            <X size={12} strokeWidth={1.5} />
          </button>
        </span>
      ))}
      <FilterEditor
        key={`new ${where.length}`}
        range={range}
        own={own}
        others={where}
        condition={null}
        onChange={(c) => put(conditions.length, c)}
        onNames={learn}
      >
        <button type="button" className="button h-7 px-2 text-xs">
          <ListFilter size={13} strokeWidth={1.5} /> Filter
        </button>
      </FilterEditor>
      {conditions.length > 1 && (
        <button type="button" className="button-plain text-xs" onClick={() => onChange([])}>
          Clear
        </button>
      )}
    </>
  );
}
