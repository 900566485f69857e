import { Command } from 'cmdk';
import { Check, ChevronDown } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useState } from 'react';

export interface PickerOption {
  value: string;
  label: string;
  detail?: string;
}

interface PickerProps {
  label: string;
  /** What the button says while nothing is chosen. */
  empty: string;
  options: PickerOption[];
  chosen: string[];
  onChange: (chosen: string[]) => void;
  several?: boolean;
}

/** Chooses one or several from a list that narrows as one types. */
export function Picker({ label, empty, options, chosen, onChange, several = false }: PickerProps) {
  const [open, setOpen] = useState(false);
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
          <Command label={label}>
            <Command.Input
              placeholder={`Find ${label.toLowerCase()} …`}
              className="h-9 w-full border-b border-line bg-transparent px-3 outline-none"
            />
            <Command.List className="max-h-80 overflow-y-auto p-1">
              <Command.Empty className="caption p-3">Nothing of that name.</Command.Empty>
              {options.map((option) => (
                <Command.Item
                  key={option.value}
                  value={`${option.label} ${option.detail ?? ''}`}
                  onSelect={() => toggle(option.value)}
                  className="flex items-center gap-2 rounded px-2 py-1.5 aria-selected:bg-accent-wash"
                >
                  <Check
                    size={14}
                    strokeWidth={1.5}
                    className={chosen.includes(option.value) ? 'shrink-0 text-accent' : 'shrink-0 opacity-0'}
                  />
                  <span className="min-w-0 flex-1 truncate">{option.label}</span>
                  {option.detail && <span className="caption shrink-0">{option.detail}</span>}
                </Command.Item>
              ))}
            </Command.List>
          </Command>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
