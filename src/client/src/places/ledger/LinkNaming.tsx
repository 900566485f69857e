import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { type LedgerRow } from '../../api/client';
import { useTopics } from '../../api/known';
import { usePerson } from '../../parts/person';
import { FormField } from '../../parts/FormField';
import { linkNamingChange } from './queries';

/** What a link is called and its topics; neither is in its address, so both may be changed. */
export function LinkNaming({ link }: { link: LedgerRow }) {
  const person = usePerson();
  const known = useTopics();
  const [editing, setEditing] = useState(false);
  const [title, setTitle] = useState(link.title ?? '');
  const [topics, setTopics] = useState(link.topics.join(', '));
  const change = useMutation({ ...linkNamingChange(link.id), onSuccess: () => setEditing(false) });
  if (!editing)
    return (
      <p className="flex flex-wrap items-center gap-2">
        <span className="caption">Topics</span>
        {link.topics.map((topic) => (
          <span key={topic} className="rounded border border-line-strong px-1.5 text-xs">
            {topic}
          </span>
        ))}
        {link.topics.length === 0 && <span className="text-quiet">none</span>}
        {person.role !== 'viewer' && (
          <button type="button" className="button-plain" onClick={() => setEditing(true)}>
            Edit title and topics
          </button>
        )}
      </p>
    );
  return (
    <form
      className="flex flex-wrap items-end gap-3"
      onSubmit={(e) => {
        e.preventDefault();
        change.mutate({ title, topics: topics.split(',') });
      }}
    >
      <FormField label="Title">
        <input className="input w-96" value={title} maxLength={300} onChange={(e) => setTitle(e.target.value)} />
      </FormField>
      <FormField label="Topics, separated by commas">
        <input
          className="input w-72"
          list="topics-there-are"
          value={topics}
          onChange={(e) => setTopics(e.target.value)}
        />
      </FormField>
      <datalist id="topics-there-are">
        {known.data?.map((t) => (
          <option key={t.name} value={t.name} />
        ))}
      </datalist>
      <button type="submit" className="button-main" disabled={change.isPending || !title.trim()}>
        Change
      </button>
      <button type="button" className="button" onClick={() => setEditing(false)}>
        Cancel
      </button>
      {change.isError && (
        <p role="alert" className="w-full text-error">
          {change.error.message}
        </p>
      )}
    </form>
  );
}
