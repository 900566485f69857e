import { Command, defaultFilter } from 'cmdk';
import { Check, ChevronDown, Plus } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useState } from 'react';

export interface PickerOption {
  value: string;
  label: string;
  detail?: string;
  /** Other words to find it by. */
  words?: string;
}

/** Options that are picked as one. */
export interface PickerGroup {
  label: string;
  values: string[];
}

interface PickerProps {
  label: string;
  /** What the button says while nothing is chosen. */
  empty: string;
  options: PickerOption[];
  groups?: PickerGroup[];
  chosen: string[];
  onChange: (chosen: string[]) => void;
  several?: boolean;
  /** Makes something new of the name typed. */
  onNew?: (name: string) => void;
}

const newOne = 'new one';
const itemClass = 'flex items-center gap-2 rounded px-2 py-1.5 aria-selected:bg-accent-wash';

/** Chooses one or several from a list that narrows as one types. */
export function Picker({ label, empty, options, groups = [], chosen, onChange, several = false, onNew }: PickerProps) {
  const [open, setOpen] = useState(false);
  const [text, setText] = useState('');
  const names = options.filter((o) => chosen.includes(o.value)).map((o) => o.label);
  const says =
    names.length === 0 ? empty : names.length <= 2 ? names.join(', ') : `${names.length} ${label.toLowerCase()}`;

  function toggle(value: string) {
    if (several) {
      onChange(chosen.includes(value) ? chosen.filter((c) => c !== value) : [...chosen, value]);
    } else {
      onChange(chosen.includes(value) ? [] : [value]);
      setOpen(false);
    }
  }

  function toggleAll(values: string[]) {
    const others = chosen.filter((c) => !values.includes(c));
    onChange(values.every((v) => chosen.includes(v)) ? others : [...others, ...values]);
  }

  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger
        aria-label={`${label}: ${says}`}
        className={`inline-flex h-8 max-w-96 items-center gap-1 rounded border px-2 ${
          names.length ? 'border-line-strong bg-sheet font-medium' : 'border-dashed border-line-strong text-quiet'
        } hover:border-accent`}
      >
        <span className="truncate">{says}</span>
        <ChevronDown size={14} strokeWidth={1.5} className="shrink-0 text-quiet" />
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content align="start" sideOffset={4} className="floating z-40 w-80">
          <Command
            label={label}
            // What is there goes before what could be made.
            filter={(value, typed, words) => (value === newOne ? 0.0001 : defaultFilter(value, typed, words))}
          >
            <Command.Input
              placeholder={`Find ${label.toLowerCase()} …`}
              value={text}
              onValueChange={setText}
              className="h-9 w-full border-b border-line bg-transparent px-3 outline-none"
            />
            <Command.List className="max-h-80 overflow-y-auto p-1">
              <Command.Empty className="caption p-3">No matches.</Command.Empty>
              {groups
                .filter((group) => group.values.length > 0)
                .map((group) => (
                  <Command.Item
                    key={`all ${group.label}`}
                    value={`all ${group.label}`}
                    onSelect={() => toggleAll(group.values)}
                    className={itemClass}
                  >
                    <Tick on={group.values.every((v) => chosen.includes(v))} />
                    <span className="min-w-0 flex-1 truncate font-medium">All of “{group.label}”</span>
                    <span className="caption shrink-0">{group.values.length}</span>
                  </Command.Item>
                ))}
              {options.map((option) => (
                <Command.Item
                  key={option.value}
                  value={`${option.label} ${option.detail ?? ''} ${option.words ?? ''}`}
                  onSelect={() => toggle(option.value)}
                  className={itemClass}
                >
                  <Tick on={chosen.includes(option.value)} />
                  <span className="min-w-0 flex-1 truncate">{option.label}</span>
                  {option.detail && <span className="caption shrink-0">{option.detail}</span>}
                </Command.Item>
              ))}
              {onNew && (
                <Command.Item
                  value={newOne}
                  onSelect={() => {
                    setOpen(false);
                    onNew(text.trim());
                  }}
                  className={itemClass}
                >
                  <Plus size={14} strokeWidth={1.5} className="shrink-0 text-accent" />
                  {text.trim() === '' ? 'New …' : `New: ${text.trim()} …`}
                </Command.Item>
              )}
            </Command.List>
          </Command>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

const Tick = ({ on }: { on: boolean }) => (
  <Check size={14} strokeWidth={1.5} className={on ? 'shrink-0 text-accent' : 'shrink-0 opacity-0'} />
);
