import { useMutation, useQuery } from '@tanstack/react-query';
import { Trash2 } from 'lucide-react';
import { useState } from 'react';
import { DateField } from '../../parts/DateField';
import { dayOf } from '../../parts/days';
import { FormDialog } from '../../parts/FormDialog';
import { FormField } from '../../parts/FormField';
import { ago } from '../../parts/format';
import { usePerson } from '../../parts/person';
import { dayNotesQuery, noteRemove, noteSave } from './queries';

/** Notes of a day: what was sent, what broke. */
export function NoteDialog({ day: first, onClose }: { day: string; onClose: () => void }) {
  const person = usePerson();
  const mayWrite = person.role === 'owner' || person.role === 'editor';
  const [day, setDay] = useState(first);
  const [text, setText] = useState('');
  const notes = useQuery(dayNotesQuery({ from: day, to: day }));
  const save = useMutation(noteSave());
  const remove = useMutation(noteRemove());
  const failed = save.error ?? remove.error;
  return (
    <FormDialog title={`Notes on ${dayOf(day)}`} onClose={onClose}>
      {notes.data?.length ? (
        <ul className="mb-4 flex flex-col gap-2">
          {notes.data.map((note) => (
            <li key={note.id} className="flex items-start gap-2">
              <span className="min-w-0 flex-1 break-words">
                {note.text}
                <span className="caption block">
                  {note.writtenBy}, {ago(note.writtenAt)}
                </span>
              </span>
              {mayWrite && (
                <button
                  type="button"
                  aria-label={`Remove the note ${note.text}`}
                  className="flex size-6 items-center justify-center rounded text-quiet hover:text-ink"
                  onClick={() => remove.mutate(note.id)}
                >
                  <Trash2 size={14} strokeWidth={1.5} />
                </button>
              )}
            </li>
          ))}
        </ul>
      ) : (
        <p className="mb-4 text-quiet">No notes on this day yet.</p>
      )}
      {mayWrite && (
        <form
          className="flex flex-col gap-3"
          onSubmit={(e) => {
            e.preventDefault();
            save.mutate({ day, text }, { onSuccess: () => setText('') });
          }}
        >
          <FormField label="Day">
            <DateField required label="Day of the note" value={day} max={person.today} onChange={setDay} />
          </FormField>
          <FormField label="What happened" hint="It stands on every chart of that day.">
            <textarea
              autoFocus
              aria-label="What happened"
              maxLength={500}
              rows={3}
              className="input h-auto py-1.5"
              value={text}
              onChange={(e) => setText(e.target.value)}
            />
          </FormField>
          <button type="submit" className="button-main self-start" disabled={text.trim() === '' || save.isPending}>
            Save note
          </button>
        </form>
      )}
      {failed && <p className="mt-3 text-error">{failed.message}</p>}
    </FormDialog>
  );
}
