import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { type Schema } from '../../api/client';
import { useCampaigns, useTopics } from '../../api/known';
import { count } from '../../parts/format';
import { usePerson } from '../../parts/person';
import { changeButton, changeSays, links, type Change } from './bulkChange';
import { Select } from '../../parts/Select';
import { bulkChange, bulkCount, bulkUndo } from './queries';

interface ChosenBarProps {
  chosen: ReadonlySet<string>;
  /** Links the search finds in all. */
  found: number;
  onChooseFound: () => void;
  onChooseNone: () => void;
  onCodes: () => void;
  /** The chosen are among those that were archived. */
  retired: boolean;
}

/** What can be done with the chosen links: the count first, the way back after. */
export function BulkActions({ chosen, found, onChooseFound, onChooseNone, onCodes, retired }: ChosenBarProps) {
  const person = usePerson();
  const campaigns = useCampaigns();
  const topics = useTopics();
  const [typing, setTyping] = useState<'page' | 'add' | 'drop' | null>(null);
  const [text, setText] = useState('');
  const [planned, setPlanned] = useState<{ change: Change; effect: Schema['ManyLinksAnswer'] } | null>(null);
  const [undo, setUndo] = useState<{ id: string; says: string } | null>(null);
  const says = (change: Change) =>
    changeSays(change, campaigns.data?.find((c) => c.id === change.campaign)?.name ?? '');
  const look = useMutation({
    ...bulkCount([...chosen]),
    onSuccess: (effect, change) => {
      setPlanned({ change, effect });
      setTyping(null);
    },
  });
  const change = useMutation({
    ...bulkChange([...chosen]),
    onSuccess: (answer, what) => {
      setPlanned(null);
      setUndo(answer.undo ? { id: answer.undo, says: `${links(answer.changed)} ${says(what)}.` } : null);
      onChooseNone();
    },
  });
  const takeBack = useMutation({
    ...bulkUndo(),
    onSuccess: (answer) => setUndo({ id: '', says: `${links(answer.changed)} are unchanged.` }),
  });
  if (chosen.size === 0 && !undo) return null;
  const problem = look.error ?? change.error ?? takeBack.error;
  return (
    <div
      role="toolbar"
      aria-label="Selected links"
      className="flex min-h-12 shrink-0 flex-wrap items-center gap-3 border-t border-line bg-accent-wash px-5 py-2"
    >
      {undo && chosen.size === 0 && (
        <>
          <span role="status">{undo.says}</span>
          {undo.id && (
            <button
              type="button"
              className="button"
              disabled={takeBack.isPending}
              onClick={() => takeBack.mutate(undo.id)}
            >
              Undo
            </button>
          )}
          <button type="button" className="button-plain" onClick={() => setUndo(null)}>
            Close
          </button>
        </>
      )}
      {chosen.size > 0 && planned && (
        <div className="flex min-w-0 flex-1 flex-col gap-2">
          <p>
            {links(planned.effect.changed)} will be {says(planned.change)}.
            {planned.effect.left.map((l) => (
              <span key={l.why} className="text-quiet">
                {' '}
                {l.why}: {count(l.links)}.
              </span>
            ))}
          </p>
          {planned.effect.sample.length > 0 && (
            <ul className="text-xs" aria-label="Examples">
              {planned.effect.sample.map((s) => (
                <li key={s.title} className="truncate">
                  {s.title}: <span className="font-mono text-quiet">{s.before}</span> →{' '}
                  <span className="font-mono">{s.after}</span>
                </li>
              ))}
            </ul>
          )}
          <div className="flex gap-3">
            <button
              type="button"
              className="button-main"
              disabled={change.isPending || planned.effect.changed === 0}
              onClick={() => change.mutate(planned.change)}
            >
              {changeButton(planned.change)}
            </button>
            <button type="button" className="button" onClick={() => setPlanned(null)}>
              Cancel
            </button>
          </div>
        </div>
      )}
      {chosen.size > 0 && !planned && typing && (
        <form
          className="flex flex-1 items-center gap-3"
          onSubmit={(e) => {
            e.preventDefault();
            // Topics are kept in lower case; said so already here.
            const topic = text.trim().toLowerCase();
            look.mutate(
              typing === 'page'
                ? { leadsTo: text }
                : typing === 'add'
                  ? { addTopics: [topic] }
                  : { dropTopics: [topic] },
            );
          }}
        >
          <label className="flex min-w-0 flex-1 items-center gap-2">
            <span className="shrink-0">
              {typing === 'page' ? 'New destination' : typing === 'add' ? 'Add topic' : 'Remove topic'}
            </span>
            <input
              autoFocus
              className={`input ${typing === 'page' ? 'min-w-0 flex-1 font-mono text-xs' : 'w-56'}`}
              list={typing === 'page' ? undefined : 'known-topics'}
              placeholder={typing === 'page' ? 'https://' : ''}
              value={text}
              onChange={(e) => setText(e.target.value)}
            />
          </label>
          <datalist id="known-topics">
            {topics.data?.map((t) => (
              <option key={t.name} value={t.name} />
            ))}
          </datalist>
          <button type="submit" className="button" disabled={!text.trim() || look.isPending}>
            Preview changes
          </button>
          <button type="button" className="button-plain" onClick={() => setTyping(null)}>
            Cancel
          </button>
        </form>
      )}
      {chosen.size > 0 && !planned && !typing && (
        <>
          <span>{links(chosen.size)} chosen</span>
          {found > chosen.size && (
            <button type="button" className="button-plain" onClick={onChooseFound}>
              Choose all {count(Math.min(found, 10_000))}
            </button>
          )}
          <button type="button" className="button" onClick={onCodes}>
            Codes and print sheet
          </button>
          {person.role !== 'viewer' && (
            <>
              <Select
                className="w-56"
                label="Move to campaign"
                value=""
                onChange={(value) => value && look.mutate({ campaign: value })}
                options={[
                  ['', 'Move to another campaign …'],
                  ...(campaigns.data?.map((c) => [c.id, c.name] as const) ?? []),
                ]}
              />
              <Select
                className="w-44"
                label="Change selected links"
                value=""
                onChange={(what) => {
                  setText('');
                  if (what === 'shorten') look.mutate({ shorten: true });
                  else if (what) setTyping(what as 'page' | 'add' | 'drop');
                }}
                options={[
                  ['', 'Change …'],
                  ['page', 'Change destination'],
                  ['shorten', 'Create short links'],
                  ['add', 'Add topic'],
                  ['drop', 'Remove topic'],
                ]}
              />
              <button type="button" className="button" onClick={() => look.mutate({ retire: !retired })}>
                {retired ? 'Restore' : 'Archive'}
              </button>
            </>
          )}
          <button type="button" className="button-plain" onClick={onChooseNone}>
            Clear selection
          </button>
        </>
      )}
      {problem && (
        <span role="alert" className="text-error">
          {problem.message}
        </span>
      )}
    </div>
  );
}
