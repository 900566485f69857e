import { getNonce } from 'get-nonce';
import { Check, ChevronDown } from 'lucide-react';
import { Select as Radix } from 'radix-ui';
import { useState } from 'react';

/** What is stored, what it says, and whether it can't be chosen now. */
export type SelectOption<T extends string> = readonly [value: T, says: string, disabled?: boolean];

/** Options under a heading. */
export interface SelectGroup<T extends string> {
  label: string;
  options: readonly SelectOption<T>[];
}

interface SelectProps<T extends string> {
  /** One of the options; anything else shows as it is. */
  value: T;
  onChange: (value: T) => void;
  options: readonly (SelectOption<T> | SelectGroup<T>)[];
  /** Name for screen readers, where no label stands around it. */
  label?: string;
  /** What it says while the value is empty and no option is. */
  empty?: string;
  disabled?: boolean;
  className?: string;
  /** Without a box until it is pointed at, as in a sheet's cell. */
  bare?: boolean;
}

// The primitive keeps the empty value for itself.
const nothing = ' ';

const isGroup = <T extends string>(entry: SelectOption<T> | SelectGroup<T>): entry is SelectGroup<T> =>
  'options' in entry;

/** Options under one another, those in groups too. */
const flat = <T extends string>(options: SelectProps<T>['options']): SelectOption<T>[] =>
  options.flatMap((entry) => (isGroup(entry) ? entry.options : [entry]));

/** Chooses one of a few, by mouse, arrows or the first letters. For long lists that are searched there is `Picker`. */
export function Select<T extends string>({
  value,
  onChange,
  options,
  label,
  empty,
  disabled,
  className = '',
  bare = false,
}: SelectProps<T>) {
  // A sheet shows hundreds of these; their options are drawn where somebody is, not before.
  const [open, setOpen] = useState(false);
  const [focused, setFocused] = useState(false);
  const at = flat(options).find(([key]) => key === value);
  const says = at ? at[1] : value === '' ? (empty ?? '') : value;
  return (
    <Radix.Root
      value={value === '' ? (at ? nothing : '') : value}
      onValueChange={(chosen) => onChange((chosen === nothing ? '' : chosen) as T)}
      open={open}
      onOpenChange={setOpen}
      disabled={disabled}
    >
      <Radix.Trigger
        aria-label={label}
        title={says.length > 24 ? says : undefined}
        className={`${bare ? 'input-bare' : 'input'} inline-flex min-w-0 items-center justify-between gap-1 text-left disabled:opacity-50 ${className}`}
        onFocus={() => setFocused(true)}
        onBlur={() => setFocused(false)}
      >
        <span className={`min-w-0 flex-1 truncate ${value === '' && !at ? 'text-quiet' : ''}`}>
          <Radix.Value placeholder={says || ' '}>{says || ' '}</Radix.Value>
        </span>
        <ChevronDown size={14} strokeWidth={1.5} className="shrink-0 text-quiet" aria-hidden />
      </Radix.Trigger>
      <Radix.Portal>
        <Radix.Content
          position="popper"
          align="start"
          sideOffset={4}
          collisionPadding={8}
          className="floating z-50 max-h-[min(22rem,var(--radix-select-content-available-height))] max-w-96 min-w-(--radix-select-trigger-width)"
        >
          <Radix.Viewport className="p-1" nonce={getNonce()}>
            {(open || focused) &&
              options.map((entry) =>
                isGroup(entry) ? (
                  <Radix.Group key={entry.label}>
                    <Radix.Label className="caption px-2 pt-1.5 pb-0.5">{entry.label}</Radix.Label>
                    {entry.options.map((option) => (
                      <Item key={option[0]} option={option} />
                    ))}
                  </Radix.Group>
                ) : (
                  <Item key={entry[0]} option={entry} />
                ),
              )}
          </Radix.Viewport>
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}

function Item({ option: [value, says, disabled] }: { option: SelectOption<string> }) {
  return (
    <Radix.Item
      value={value === '' ? nothing : value}
      disabled={disabled}
      className="flex items-center gap-2 rounded px-2 py-1 text-sm outline-none data-disabled:opacity-50 data-highlighted:bg-accent-wash"
    >
      <span className="w-3.5 shrink-0">
        <Radix.ItemIndicator>
          <Check size={14} strokeWidth={1.5} className="text-accent" aria-hidden />
        </Radix.ItemIndicator>
      </span>
      <Radix.ItemText>{says}</Radix.ItemText>
    </Radix.Item>
  );
}
