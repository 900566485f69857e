import { ChevronDown, ChevronUp, X } from 'lucide-react';
import { useState } from 'react';
import type { Schema } from '../../api/client';
import { SeverityMark } from '../../parts/SeverityMark';
import { listOf, moved, replaced, type Channel, type Condition } from './document';
import { Select } from '../../parts/Select';

interface ChannelEditorProps {
  channels: Channel[];
  neverReached: Schema['NeverReached'][];
  overlaps: Schema['ChannelOverlap'][];
  mayWrite: boolean;
  onChange: (channels: Channel[]) => void;
}

const subjects: [Condition['subject'], string][] = [
  ['source', 'source'],
  ['medium', 'medium'],
  ['campaign', 'campaign'],
  ['referrer', 'referrer’s host'],
  ['referrerKind', 'kind of referrer'],
  ['tagged', 'tagged'],
  ['printed', 'printed code scanned'],
];
const tests: [Condition['test'], string][] = [
  ['is', 'is one of'],
  ['contains', 'contains'],
  ['empty', 'is empty'],
];
const newCondition: Condition = { subject: 'medium', test: 'is', values: [] };

/** The ordered table that sorts arrivals and judges links: the first row that claims wins. */
export function ChannelEditor({ channels, neverReached, overlaps, mayWrite, onChange }: ChannelEditorProps) {
  const [open, setOpen] = useState<number | null>(null);
  return (
    <div className="p-5">
      <p className="mb-3 max-w-2xl text-quiet">
        A visit belongs to the first channel whose conditions are all met, or else to Unsorted. Changes apply to past
        visits too; stored data stays as it is.
      </p>
      <ol>
        {channels.map((channel, i) => {
          const never = neverReached.find((n) => n.channel === channel.name);
          const set = (part: Partial<Channel>) => onChange(replaced(channels, i, { ...channel, ...part }));
          return (
            <li key={i} className="border-t border-line">
              <button
                type="button"
                aria-expanded={open === i}
                className="flex min-h-[34px] w-full items-center gap-3 py-1 text-left hover:bg-accent-wash"
                onClick={() => setOpen(open === i ? null : i)}
              >
                <span className="w-6 shrink-0 text-right text-quiet tabular-nums">{i + 1}</span>
                <span className="w-40 shrink-0 truncate font-medium">{channel.name}</span>
                <span className="w-16 shrink-0 text-quiet">{channel.group}</span>
                <span className="min-w-0 flex-1">{inWords(channel)}</span>
              </button>
              {never && (
                <p className="flex items-center gap-1.5 pb-1 pl-9 text-xs">
                  <SeverityMark severity="warning" /> Never reached: “{never.takenBy}” matches all of it first.
                </p>
              )}
              {overlaps
                .filter((o) => o.channel === channel.name)
                .map((o) => (
                  <p key={o.earlier} className="flex items-center gap-1.5 pb-1 pl-9 text-xs">
                    <SeverityMark severity="info" /> “{o.earlier}” comes first for {o.words.join(', ')}.
                  </p>
                ))}
              {open === i && mayWrite && (
                <div className="flex flex-col gap-2 pb-3 pl-9">
                  <span className="flex items-center gap-2">
                    <input
                      className="input w-56"
                      aria-label={`Name of channel ${i + 1}`}
                      value={channel.name}
                      onChange={(e) => set({ name: e.target.value })}
                    />
                    <input
                      className="input w-24"
                      aria-label={`Group of ${channel.name}`}
                      value={channel.group}
                      onChange={(e) => set({ group: e.target.value })}
                    />
                    <IconButton
                      label={`Move ${channel.name} up`}
                      onClick={() => {
                        onChange(moved(channels, i, -1));
                        setOpen(Math.max(0, i - 1));
                      }}
                    >
                      <ChevronUp size={14} strokeWidth={1.5} />
                    </IconButton>
                    <IconButton
                      label={`Move ${channel.name} down`}
                      onClick={() => {
                        onChange(moved(channels, i, 1));
                        setOpen(Math.min(channels.length - 1, i + 1));
                      }}
                    >
                      <ChevronDown size={14} strokeWidth={1.5} />
                    </IconButton>
                    <button
                      type="button"
                      className="button-plain text-error"
                      onClick={() => {
                        onChange(channels.filter((_, n) => n !== i));
                        setOpen(null);
                      }}
                    >
                      Remove
                    </button>
                  </span>
                  {channel.conditions.map((condition, n) => (
                    <ConditionLine
                      key={`${n} ${condition.values.join()}`}
                      name={`condition ${n + 1} of ${channel.name}`}
                      condition={condition}
                      onChange={(next) => set({ conditions: replaced(channel.conditions, n, next) })}
                      onRemove={() => set({ conditions: channel.conditions.filter((_, m) => m !== n) })}
                    />
                  ))}
                  <button
                    type="button"
                    className="button-plain -ml-1.5 self-start"
                    onClick={() =>
                      set({ conditions: [...channel.conditions, { ...newCondition, values: ['new_word'] }] })
                    }
                  >
                    {channel.conditions.length ? 'and …' : 'Add condition'}
                  </button>
                </div>
              )}
            </li>
          );
        })}
      </ol>
      {mayWrite && (
        <button
          type="button"
          className="button mt-3"
          onClick={() => {
            onChange([
              { name: 'New channel', group: 'own', conditions: [{ ...newCondition, values: ['new_word'] }] },
              ...channels,
            ]);
            setOpen(0);
          }}
        >
          Add channel
        </button>
      )}
    </div>
  );
}

/** A channel's conditions in words. */
function inWords(channel: Channel): string {
  if (channel.conditions.length === 0) return 'everything else';
  return channel.conditions
    .map((c) => {
      const subject = subjects.find(([value]) => value === c.subject)![1];
      const test = tests.find(([value]) => value === c.test)![1];
      // Kinds of sites are one word in the file and two on the screen.
      const values = c.values.map((v) =>
        c.subject === 'referrerKind' ? v.replace(/([a-z])([A-Z])/g, '$1 $2').toLowerCase() : v,
      );
      return c.test === 'empty'
        ? `${subject} ${test}`
        : `${subject} ${test === 'is one of' && values.length === 1 ? 'is' : test} ${values.join(', ')}`;
    })
    .join(' and ');
}

interface ConditionLineProps {
  name: string;
  condition: Condition;
  onChange: (condition: Condition) => void;
  onRemove: () => void;
}

function ConditionLine({ name, condition, onChange, onRemove }: ConditionLineProps) {
  const [text, setText] = useState(condition.values.join(', '));
  return (
    <span className="flex items-center gap-1">
      <Select
        className="w-36"
        label={`Subject of ${name}`}
        value={condition.subject}
        onChange={(value) => onChange({ ...condition, subject: value })}
        options={subjects}
      />
      <Select
        className="w-24"
        label={`Test of ${name}`}
        value={condition.test}
        onChange={(value) =>
          onChange({
            ...condition,
            test: value,
            values: value === 'empty' ? [] : condition.values,
          })
        }
        options={tests}
      />
      {condition.test !== 'empty' && (
        <input
          className="input min-w-0 flex-1 font-mono text-xs"
          aria-label={`Values of ${name}`}
          value={text}
          onChange={(e) => setText(e.target.value)}
          onBlur={() => text !== condition.values.join(', ') && onChange({ ...condition, values: listOf(text) })}
        />
      )}
      <IconButton label={`Remove ${name}`} onClick={onRemove}>
        <X size={12} strokeWidth={1.5} />
      </IconButton>
    </span>
  );
}

export function IconButton({
  label,
  onClick,
  children,
}: {
  label: string;
  onClick: () => void;
  children: React.ReactNode;
}) {
  return (
    <button
      type="button"
      aria-label={label}
      title={label}
      className="inline-flex size-6 shrink-0 items-center justify-center rounded text-quiet hover:text-ink"
      onClick={onClick}
    >
      {children}
    </button>
  );
}
