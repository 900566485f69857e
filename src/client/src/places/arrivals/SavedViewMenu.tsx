import { useMutation, useQuery } from '@tanstack/react-query';
import { ArrowDown, ArrowUp, Bookmark, Pin, PinOff, Trash2, Users } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useState } from 'react';
import type { Schema } from '../../api/client';
import { usePerson } from '../../parts/person';
import { savedViewsQuery, viewOrder, viewRemove, viewSave } from './queries';

interface SavedViewMenuProps {
  /** What of the address a view keeps. */
  address: string;
  /** The view that is open; null for none. */
  open: string | null;
  onOpen: (view: Schema['SavedViewAnswer']) => void;
}

const small = 'flex size-6 shrink-0 items-center justify-center rounded text-quiet hover:text-ink disabled:opacity-30';

/** Views kept under a name: pinned ones stand beside the button, all of them are changed in its list. */
export function SavedViewMenu({ address, open, onOpen }: SavedViewMenuProps) {
  const person = usePerson();
  const mayShare = person.role === 'owner' || person.role === 'editor';
  const views = useQuery(savedViewsQuery());
  const save = useMutation(viewSave());
  const remove = useMutation(viewRemove());
  const order = useMutation(viewOrder());
  const [name, setName] = useState('');
  const [shared, setShared] = useState(false);
  const all = views.data ?? [];
  const current = all.find((v) => v.id === open);

  const change = (view: Schema['SavedViewAnswer'], changes: Partial<Schema['SavedViewRequest']>) =>
    save.mutate({ ...viewOf(view), id: view.id, ...changes });
  function move(at: number, by: number) {
    const ids = all.map((v) => v.id);
    const [id] = ids.splice(at, 1);
    ids.splice(at + by, 0, id!);
    order.mutate(ids);
  }

  const failed = save.error ?? remove.error ?? order.error;
  return (
    <>
      {all
        .filter((v) => v.pinned)
        .map((view) => (
          <button
            key={view.id}
            type="button"
            aria-current={view.id === open ? 'page' : undefined}
            className="h-7 max-w-40 shrink-0 truncate rounded border border-line-strong bg-sheet px-2 text-xs hover:border-accent aria-[current=page]:border-accent aria-[current=page]:bg-accent-wash aria-[current=page]:font-medium"
            onClick={() => onOpen(view)}
          >
            {view.name}
          </button>
        ))}
      <Popover.Root>
        <Popover.Trigger className="button h-7 shrink-0 px-2 text-xs">
          <Bookmark size={13} strokeWidth={1.5} /> Views
        </Popover.Trigger>
        <Popover.Portal>
          <Popover.Content
            align="start"
            sideOffset={4}
            aria-label="Saved views"
            className="floating z-40 flex w-96 flex-col gap-2 p-3"
          >
            {all.length === 0 ? (
              <p className="text-quiet">A view keeps range, rows, filters and figures under a name.</p>
            ) : (
              <ul className="flex max-h-80 flex-col overflow-y-auto">
                {all.map((view, i) => {
                  const mine = view.own || mayShare;
                  return (
                    <li key={view.id} className="flex items-center gap-1">
                      <NameOf
                        view={view}
                        mayChange={mine}
                        isOpen={view.id === open}
                        onOpen={() => onOpen(view)}
                        onName={(next) => change(view, { name: next })}
                      />
                      {mayShare && (
                        <button
                          type="button"
                          aria-pressed={view.shared}
                          aria-label={`Share ${view.name} with everybody`}
                          title={view.shared ? 'Everybody sees it' : 'Only you see it'}
                          className={`${small} aria-pressed:text-accent`}
                          onClick={() => change(view, { shared: !view.shared })}
                        >
                          <Users size={13} strokeWidth={1.5} />
                        </button>
                      )}
                      {mine && (
                        <>
                          <button
                            type="button"
                            aria-pressed={view.pinned}
                            aria-label={`Pin ${view.name}`}
                            className={`${small} aria-pressed:text-accent`}
                            onClick={() => change(view, { pinned: !view.pinned })}
                          >
                            {view.pinned ? <PinOff size={13} strokeWidth={1.5} /> : <Pin size={13} strokeWidth={1.5} />}
                          </button>
                          <button
                            type="button"
                            aria-label={`Move ${view.name} up`}
                            disabled={i === 0}
                            className={small}
                            onClick={() => move(i, -1)}
                          >
                            <ArrowUp size={13} strokeWidth={1.5} />
                          </button>
                          <button
                            type="button"
                            aria-label={`Move ${view.name} down`}
                            disabled={i === all.length - 1}
                            className={small}
                            onClick={() => move(i, 1)}
                          >
                            <ArrowDown size={13} strokeWidth={1.5} />
                          </button>
                          <button
                            type="button"
                            aria-label={`Remove ${view.name}`}
                            className={small}
                            onClick={() => remove.mutate(view.id)}
                          >
                            <Trash2 size={13} strokeWidth={1.5} />
                          </button>
                        </>
                      )}
                    </li>
                  );
                })}
              </ul>
            )}
            {current && (current.own || mayShare) && current.address !== address && (
              <button type="button" className="button self-start" onClick={() => change(current, { address })}>
                Save changes to “{current.name}”
              </button>
            )}
            <form
              className="flex flex-wrap items-center gap-2 border-t border-line pt-2"
              onSubmit={(e) => {
                e.preventDefault();
                save.mutate(
                  { name, address, shared, pinned: true },
                  {
                    onSuccess: (view) => {
                      setName('');
                      onOpen(view);
                    },
                  },
                );
              }}
            >
              <input
                aria-label="Name of the view"
                placeholder="Save this view as …"
                maxLength={100}
                className="input min-w-0 flex-1"
                value={name}
                onChange={(e) => setName(e.target.value)}
              />
              <button type="submit" className="button-main" disabled={name.trim() === '' || save.isPending}>
                Save view
              </button>
              {mayShare && (
                <label className="flex w-full items-center gap-2">
                  <input type="checkbox" checked={shared} onChange={(e) => setShared(e.target.checked)} />
                  Share with everybody in the workspace
                </label>
              )}
            </form>
            {failed && <p className="text-error">{failed.message}</p>}
          </Popover.Content>
        </Popover.Portal>
      </Popover.Root>
    </>
  );
}

const viewOf = ({ name, address, shared, pinned }: Schema['SavedViewAnswer']): Schema['SavedViewRequest'] => ({
  name,
  address,
  shared,
  pinned,
});

interface NameOfProps {
  view: Schema['SavedViewAnswer'];
  mayChange: boolean;
  isOpen: boolean;
  onOpen: () => void;
  onName: (name: string) => void;
}

/** A view's name: opens it, and is changed in place after a double click or F2. */
function NameOf({ view, mayChange, isOpen, onOpen, onName }: NameOfProps) {
  const [typed, setTyped] = useState<string | null>(null);
  if (typed !== null)
    return (
      <input
        autoFocus
        aria-label={`New name of ${view.name}`}
        maxLength={100}
        className="input h-7 min-w-0 flex-1"
        value={typed}
        onChange={(e) => setTyped(e.target.value)}
        onBlur={() => setTyped(null)}
        onKeyDown={(e) => {
          if (e.key === 'Escape') {
            e.stopPropagation();
            setTyped(null);
          }
          if (e.key !== 'Enter') return;
          e.preventDefault();
          if (typed.trim() && typed !== view.name) onName(typed);
          setTyped(null);
        }}
      />
    );
  return (
    <button
      type="button"
      title={mayChange ? `${view.name}; F2 renames it` : view.name}
      className={`min-w-0 flex-1 truncate rounded px-1.5 py-1 text-left hover:bg-accent-wash ${isOpen ? 'font-medium' : ''}`}
      onClick={onOpen}
      onDoubleClick={() => mayChange && setTyped(view.name)}
      onKeyDown={(e) => e.key === 'F2' && mayChange && setTyped(view.name)}
    >
      {view.name}
    </button>
  );
}
