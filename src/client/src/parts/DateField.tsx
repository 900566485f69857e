import { Calendar, ChevronLeft, ChevronRight } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useEffect, useRef, useState } from 'react';
import { DayPicker } from 'react-day-picker';
import { format } from 'date-fns';
import { dayOf, readDay, readTime } from './days';

interface DateFieldProps {
  /** ISO 8601 day, or empty for none. */
  value: string;
  /** Is given an ISO 8601 day, or empty where the field was emptied. */
  onChange: (day: string) => void;
  /** Name for screen readers, where no label stands around it. */
  label?: string;
  /** First and last day that can be chosen, as ISO 8601. */
  min?: string;
  max?: string;
  /** Whether a day has to stay in it. */
  required?: boolean;
  className?: string;
  /** Without a box until it is pointed at, as in a sheet's cell. */
  bare?: boolean;
}

const noon = (day: string) => new Date(`${day}T12:00`);

/** A day, typed or chosen from a month, read as 3 Dec 2026 everywhere. */
export function DateField({
  value,
  onChange,
  label,
  min,
  max,
  required,
  className = '',
  bare = false,
}: DateFieldProps) {
  // What is being typed; null while what is stored is shown.
  const [typed, setTyped] = useState<string | null>(null);
  const [wrong, setWrong] = useState('');
  const [open, setOpen] = useState(false);
  const box = useRef<HTMLInputElement>(null);
  // A form with a day that nobody can read isn't sent with the day before.
  useEffect(() => box.current?.setCustomValidity(wrong), [wrong]);

  function take(day: string) {
    setTyped(null);
    setWrong('');
    if (day !== value) onChange(day);
  }

  function settle() {
    if (typed === null) return;
    const day = typed.trim() === '' ? '' : readDay(typed);
    if (day === null) setWrong(`“${typed.trim()}” is not a date. Write it as 3 Dec 2026.`);
    else if (day === '' && required) take(value);
    else if (day !== '' && min && day < min) setWrong(`The first day here is ${dayOf(min)}.`);
    else if (day !== '' && max && day > max) setWrong(`The last day here is ${dayOf(max)}.`);
    else take(day);
  }

  return (
    <span className={`inline-flex min-w-0 flex-col ${className}`}>
      <span className="relative flex items-center">
        <input
          ref={box}
          className={`${bare ? 'input-bare' : 'input'} w-full min-w-28 pr-7`}
          aria-label={label}
          aria-invalid={wrong !== '' || undefined}
          placeholder="3 Dec 2026"
          value={typed ?? (value && dayOf(value))}
          onChange={(e) => {
            setTyped(e.target.value);
            setWrong('');
          }}
          onBlur={settle}
          onKeyDown={(e) => {
            if (e.key === 'Enter') settle();
            else if (e.key === 'Escape' && typed !== null) {
              e.stopPropagation();
              setTyped(null);
              setWrong('');
            } else if (e.key === 'ArrowDown') {
              e.preventDefault();
              setOpen(true);
            }
          }}
        />
        <Popover.Root open={open} onOpenChange={setOpen}>
          <Popover.Trigger
            type="button"
            aria-label={label ? `Calendar for ${label}` : 'Calendar'}
            className="absolute right-1 flex size-6 items-center justify-center rounded text-quiet hover:text-ink"
          >
            <Calendar size={14} strokeWidth={1.5} />
          </Popover.Trigger>
          <Popover.Portal>
            <Popover.Content
              align="end"
              sideOffset={6}
              className="floating z-50 p-3"
              onOpenAutoFocus={(e) => e.preventDefault()}
            >
              <DayPicker
                autoFocus
                mode="single"
                weekStartsOn={1}
                selected={value ? noon(value) : undefined}
                defaultMonth={noon(value || max || format(new Date(), 'yyyy-MM-dd'))}
                disabled={[...(min ? [{ before: noon(min) }] : []), ...(max ? [{ after: noon(max) }] : [])]}
                onSelect={(day) => {
                  if (day) take(format(day, 'yyyy-MM-dd'));
                  else if (!required) take('');
                  setOpen(false);
                  box.current?.focus();
                }}
                components={{
                  Chevron: ({ orientation }) =>
                    orientation === 'left' ? (
                      <ChevronLeft size={16} strokeWidth={1.5} />
                    ) : (
                      <ChevronRight size={16} strokeWidth={1.5} />
                    ),
                }}
                classNames={{
                  months: 'relative',
                  month_caption: 'flex h-7 items-center justify-center font-medium',
                  nav: 'absolute inset-x-0 top-0 flex h-7 items-center justify-between',
                  button_previous: 'rounded p-1 text-quiet hover:text-ink aria-disabled:opacity-30',
                  button_next: 'rounded p-1 text-quiet hover:text-ink aria-disabled:opacity-30',
                  month_grid: 'mt-1 border-collapse',
                  weekday: 'h-7 w-8 text-2xs font-normal text-quiet',
                  day: 'p-0 text-center text-xs tabular-nums',
                  day_button: 'size-8 rounded hover:bg-accent-wash',
                  today: 'font-semibold text-accent',
                  selected: '[&>button]:bg-accent [&>button]:text-accent-ink',
                  outside: 'text-quiet opacity-60',
                  disabled: 'opacity-35 [&>button]:cursor-not-allowed',
                }}
              />
            </Popover.Content>
          </Popover.Portal>
        </Popover.Root>
      </span>
      {wrong && (
        <span role="alert" className="mt-0.5 max-w-48 text-xs text-error">
          {wrong}
        </span>
      )}
    </span>
  );
}

/** A day with a time of day; the value is ISO 8601 without a zone, such as 2026-12-03T18:00, or empty for none. */
export function DateTimeField({ value, onChange, label }: Pick<DateFieldProps, 'value' | 'onChange' | 'label'>) {
  const [day, time] = value ? [value.slice(0, 10), value.slice(11, 16)] : ['', ''];
  const [typed, setTyped] = useState<string | null>(null);

  function settle() {
    const read = typed === null ? null : readTime(typed);
    setTyped(null);
    if (read && read !== time) onChange(`${day}T${read}`);
  }

  return (
    <span className="flex min-w-0 items-start gap-1">
      <DateField
        value={day}
        label={label}
        className="min-w-0 flex-1"
        onChange={(next) => onChange(next && `${next}T${time || '00:00'}`)}
      />
      <input
        className="input w-16 px-1.5 text-center tabular-nums"
        aria-label={label ? `Time of ${label}` : 'Time'}
        placeholder="00:00"
        disabled={!day}
        value={typed ?? time}
        onChange={(e) => setTyped(e.target.value)}
        onBlur={settle}
        onKeyDown={(e) => e.key === 'Enter' && settle()}
      />
    </span>
  );
}
