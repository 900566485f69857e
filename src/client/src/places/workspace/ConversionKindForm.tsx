import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { type Schema } from '../../api/client';
import { count } from '../../parts/format';
import { FormField } from '../../parts/FormField';
import { Inspector } from '../../parts/Inspector';
import { Select } from '../../parts/Select';
import { conversionKindSave, conversionKindTry } from './queries';

type Test = Schema['ConversionTest'];

const tests = [
  ['page', 'a page is reached'],
  ['pageBegins', 'a page is reached that begins with'],
  ['pagePattern', 'a page is reached that is like'],
  ['event', 'a page sends an event'],
] as const;

const examples: Record<Test, string> = {
  page: '/thanks',
  pageBegins: '/orders/',
  pagePattern: '/orders/*/thanks',
  event: 'film-played',
};

interface ConversionKindFormProps {
  /** Null for a new one. */
  kind: Schema['ConversionKindAnswer'] | null;
  /** What fixed values are in. */
  currency: string;
  onClose: () => void;
}

/** Defines a conversion: tried on the past before it is saved. */
export function ConversionKindForm({ kind, currency, onClose }: ConversionKindFormProps) {
  const [name, setName] = useState(kind?.name ?? '');
  const [test, setTest] = useState<Test>(kind?.test ?? 'page');
  const [text, setText] = useState(kind?.text ?? '');
  const [value, setValue] = useState(kind?.value?.amount ?? '');
  const [takes, setTakes] = useState(kind?.takesValue ?? false);
  const [each, setEach] = useState(kind?.countsEach ?? false);
  const look = useMutation(conversionKindTry());
  const save = useMutation({ ...conversionKindSave(kind?.id), onSuccess: onClose });
  const isEvent = test === 'event';
  const worth = value.trim() === '' || (isEvent && takes) ? null : Number(value.replace(',', '.'));
  const asked = { name, test, text, value: worth, takesValue: isEvent && takes, countsEach: each };
  const ready = name.trim() !== '' && text.trim() !== '' && !Number.isNaN(worth);
  const problem = save.error ?? look.error;

  // What was counted holds for what stood there then.
  const change =
    <T,>(set: (value: T) => void) =>
    (next: T) => {
      set(next);
      look.reset();
    };
  return (
    <Inspector title={kind ? `Change ${kind.name}` : 'New conversion'} onClose={onClose}>
      <form
        className="flex flex-col gap-4"
        onSubmit={(e) => {
          e.preventDefault();
          save.mutate(asked);
        }}
      >
        <FormField label="Name">
          <input
            className="input"
            autoFocus
            value={name}
            maxLength={100}
            placeholder="newsletter"
            onChange={(e) => setName(e.target.value)}
          />
        </FormField>
        <FormField label="Counts when">
          <Select value={test} onChange={change(setTest)} options={tests} />
        </FormField>
        <FormField
          label={isEvent ? 'Event' : 'Page'}
          hint={
            isEvent
              ? 'The name the page sends, letter by letter.'
              : 'A path on any of your hosts, or an address with its host. A * stands for anything in “is like”.'
          }
        >
          <input
            className="input font-mono text-xs"
            value={text}
            placeholder={examples[test]}
            onChange={(e) => change(setText)(e.target.value)}
          />
        </FormField>
        <FormField label={`Value of each, in ${currency}`}>
          <input
            className="input text-right tabular-nums"
            inputMode="decimal"
            value={isEvent && takes ? '' : value}
            placeholder="none"
            disabled={isEvent && takes}
            onChange={(e) => setValue(e.target.value)}
          />
        </FormField>
        {isEvent && (
          <label className="flex items-center gap-2">
            <input type="checkbox" checked={takes} onChange={(e) => setTakes(e.target.checked)} />
            Take the value from the event
          </label>
        )}
        <label className="flex items-center gap-2">
          <input type="checkbox" checked={each} onChange={(e) => setEach(e.target.checked)} />
          Count every time, not once in a visit
        </label>
        {problem && (
          <p role="alert" className="text-error">
            {problem.message}
          </p>
        )}
        {look.data && <Trial trial={look.data} />}
        <div className="flex gap-2">
          <button type="submit" className="button-main" disabled={!ready || save.isPending}>
            Save
          </button>
          <button
            type="button"
            className="button"
            disabled={!ready || look.isPending}
            onClick={() => look.mutate(asked)}
          >
            Try on the last 30 days
          </button>
        </div>
        <p className="caption">
          After saving, past visits are looked through too, as far back as they are kept one by one.
        </p>
      </form>
    </Inspector>
  );
}

function Trial({ trial }: { trial: Schema['DefinitionTrial'] }) {
  return (
    <div role="status" className="flex flex-col gap-1 rounded border border-line-strong p-3">
      <p>{says(trial)}</p>
      {trial.pages.length > 0 && (
        <ul className="flex flex-col gap-0.5">
          {trial.pages.map((page) => (
            <li key={page.page} className="flex justify-between gap-3">
              <span className="truncate font-mono text-xs" title={page.page}>
                {page.page}
              </span>
              <span className="text-quiet tabular-nums">{count(page.times)} ×</span>
            </li>
          ))}
        </ul>
      )}
      {trial.pageCount > trial.pages.length && (
        <p className="caption">and {count(trial.pageCount - trial.pages.length)} more pages</p>
      )}
    </div>
  );
}

function says(trial: Schema['DefinitionTrial']): string {
  if (trial.times === 0) return 'It happened in no visit of the last 30 days. Check that it is written as on the page.';
  const times = trial.times === 1 ? 'once' : `${count(trial.times)} times`;
  return trial.visits === null
    ? `It happened ${times} in the last 30 days.`
    : `It happened ${times} in ${count(trial.visits)} ${trial.visits === 1 ? 'visit' : 'visits'} of the last 30 days.`;
}
