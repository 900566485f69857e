import { X } from 'lucide-react';
import { useState } from 'react';
import { count } from '../../parts/format';
import { listOf, replaced, wordsOf, type Word } from './document';

interface WordTableProps {
  words: Word[];
  mayWrite: boolean;
  onChange: (words: Word[]) => void;
}

const mostShown = 200;

/** The words of a field: written form, label, aliases, and whether a word is retired. */
export function WordTable({ words, mayWrite, onChange }: WordTableProps) {
  const [search, setSearch] = useState('');
  const [pasted, setPasted] = useState('');
  const wanted = search.trim().toLowerCase();
  const shown = words
    .map((word, i) => ({ word, i }))
    .filter(
      ({ word }) =>
        !wanted || [word.written, word.label, ...word.aliases].some((t) => t.toLowerCase().includes(wanted)),
    );
  const coming = wordsOf(pasted, words);
  const set = (i: number, part: Partial<Word>) => onChange(replaced(words, i, { ...words[i]!, ...part }));

  return (
    <section>
      <div className="mb-2 flex items-center gap-3">
        <h3 className="font-medium">
          {count(words.length)} {words.length === 1 ? 'word' : 'words'}
        </h3>
        <input
          className="input w-56"
          placeholder="Find a word"
          aria-label="Find a word"
          value={search}
          onChange={(e) => setSearch(e.target.value)}
        />
        {shown.length > mostShown && (
          <span className="caption">the first {mostShown} are shown; search for the others</span>
        )}
      </div>
      <table className="w-full">
        <thead className="text-left text-xs text-quiet">
          <tr className="[&>th]:pb-1 [&>th]:font-medium">
            <th scope="col">Written</th>
            <th scope="col">Label</th>
            <th scope="col">Also known as</th>
            <th scope="col">Retired</th>
            <th scope="col">
              <span className="sr-only">Take out</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {shown.slice(0, mostShown).map(({ word, i }) => (
            <tr key={i} className="[&>td]:py-0.5 [&>td]:pr-2">
              <td>
                <input
                  className="input w-full font-mono text-xs"
                  aria-label={`Written form of word ${i + 1}`}
                  value={word.written}
                  disabled={!mayWrite}
                  onChange={(e) => set(i, { written: e.target.value })}
                />
              </td>
              <td>
                <input
                  className="input w-full"
                  aria-label={`Label of ${word.written}`}
                  value={word.label}
                  disabled={!mayWrite}
                  onChange={(e) => set(i, { label: e.target.value })}
                />
              </td>
              <td>
                <AliasInput
                  key={word.aliases.join()}
                  label={`Aliases of ${word.written}`}
                  aliases={word.aliases}
                  disabled={!mayWrite}
                  onChange={(aliases) => set(i, { aliases })}
                />
              </td>
              <td>
                <input
                  type="checkbox"
                  aria-label={`${word.written} is retired`}
                  checked={word.retired}
                  disabled={!mayWrite}
                  onChange={(e) => set(i, { retired: e.target.checked })}
                />
                {word.retired && (
                  <input
                    className="input ml-2 w-28 font-mono text-xs"
                    placeholder="successor"
                    aria-label={`Successor of ${word.written}`}
                    value={word.successor ?? ''}
                    disabled={!mayWrite}
                    onChange={(e) => set(i, { successor: e.target.value || null })}
                  />
                )}
              </td>
              <td>
                {mayWrite && (
                  <button
                    type="button"
                    aria-label={`Take out ${word.written}`}
                    className="inline-flex size-6 items-center justify-center rounded text-quiet hover:text-ink"
                    onClick={() => onChange(words.filter((_, n) => n !== i))}
                  >
                    <X size={14} strokeWidth={1.5} />
                  </button>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {mayWrite && (
        <div className="mt-3 flex items-start gap-2">
          <textarea
            className="input h-16 flex-1 py-1 font-mono text-xs"
            aria-label="Words to add"
            placeholder="One word a line, or cells from a sheet: word, label, other names"
            value={pasted}
            onChange={(e) => setPasted(e.target.value)}
          />
          <div className="flex flex-col items-start gap-1">
            <button
              type="button"
              className="button"
              disabled={coming.fresh.length === 0}
              onClick={() => {
                onChange([...words, ...coming.fresh]);
                setPasted('');
              }}
            >
              Add {coming.fresh.length}
            </button>
            {coming.already > 0 && <span className="caption">{coming.already} are there already</span>}
          </div>
        </div>
      )}
    </section>
  );
}

/** Aliases are taken over when one leaves the input, so that commas can be typed. */
function AliasInput({
  label,
  aliases,
  disabled,
  onChange,
}: {
  label: string;
  aliases: string[];
  disabled: boolean;
  onChange: (aliases: string[]) => void;
}) {
  const [text, setText] = useState(aliases.join(', '));
  return (
    <input
      className="input w-full"
      aria-label={label}
      value={text}
      disabled={disabled}
      onChange={(e) => setText(e.target.value)}
      onBlur={() => text !== aliases.join(', ') && onChange(listOf(text))}
    />
  );
}
