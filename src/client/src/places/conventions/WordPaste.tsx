import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { type Schema } from '../../api/client';
import { useDebounced } from '../../parts/useDebounced';
import type { Field, Word } from './document';
import { pastedWordsQuery } from './queries';

type Looked = Schema['PastedWord'];

const verdicts: Record<Looked['verdict'], (like: string | null) => string> = {
  fresh: () => 'new',
  already: (like) => `already in the list${like ? ` (${like})` : ''}`,
  alias: (like) => `alias of ${like}`,
  sameLetters: (like) => `same letters as ${like}`,
  near: (like) => `very similar to ${like}`,
  unusable: () => 'no usable characters',
};

/** Pasted words, each told apart from those that are there, before any is taken in. */
export function WordPaste({ field, onAdd }: { field: Field; onAdd: (words: Word[]) => void }) {
  const [pasted, setPasted] = useState('');
  const [turned, setTurned] = useState<Set<number>>(new Set());
  const asked = useDebounced(JSON.stringify({ field, pasted }), 200);
  const looked = useQuery({
    ...pastedWordsQuery(asked),
    enabled: pasted.trim() !== '',
    placeholderData: keepPreviousData,
  });
  const words = pasted.trim() ? (looked.data ?? []) : [];
  // New words are taken unless one says no; those like others only when one says yes.
  const taken = (i: number) => (words[i]!.verdict === 'fresh') !== turned.has(i);
  const choosable = (word: Looked) => word.verdict !== 'already' && word.verdict !== 'unusable';
  const chosen = words.filter((word, i) => choosable(word) && taken(i));

  return (
    <div className="mt-3 flex flex-col gap-2">
      <div className="flex items-start gap-2">
        <textarea
          className="input h-16 flex-1 py-1 font-mono text-xs"
          aria-label="Words to add"
          placeholder="One word per line, or cells from a spreadsheet: word, label, aliases"
          value={pasted}
          onChange={(e) => {
            setPasted(e.target.value);
            setTurned(new Set());
          }}
        />
        <button
          type="button"
          className="button"
          disabled={chosen.length === 0 || looked.isPlaceholderData}
          onClick={() => {
            onAdd(chosen.map((w) => w.word as Word));
            setPasted('');
          }}
        >
          Add {chosen.length}
        </button>
      </div>
      {looked.isError && <p className="text-error">{looked.error.message}</p>}
      {words.length > 0 && (
        <ul className="max-h-60 overflow-y-auto border-y border-line" aria-label="Pasted words">
          {words.map((word, i) => (
            <li key={i} className="flex h-7 items-center gap-2">
              <input
                type="checkbox"
                aria-label={`Add ${word.word.written || word.word.label}`}
                disabled={!choosable(word)}
                checked={choosable(word) && taken(i)}
                onChange={() => {
                  const next = new Set(turned);
                  if (!next.delete(i)) next.add(i);
                  setTurned(next);
                }}
              />
              <span className="w-48 truncate font-mono text-xs">{word.word.written || word.word.label}</span>
              <span className={word.verdict === 'fresh' ? 'text-quiet' : 'text-warning'}>
                {verdicts[word.verdict](word.like)}
              </span>
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}
