import { ArrowRightToLine, X } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import { arrivalsAddress, dimensionOf } from '../../parts/arrivalsAddress';
import { CopyButton } from '../../parts/CopyButton';
import { count } from '../../parts/format';
import { asLines, listOf, merged, replaced, type Field, type Word } from './document';
import { WordPaste } from './WordPaste';

interface WordTableProps {
  field: Field;
  mayWrite: boolean;
  onChange: (words: Word[]) => void;
}

const mostShown = 200;

/** The words of a field: written form, label, aliases, and whether a word is retired. */
export function WordTable({ field, mayWrite, onChange }: WordTableProps) {
  const { words } = field;
  const [search, setSearch] = useState('');
  const [merging, setMerging] = useState<number | null>(null);
  const wanted = search.trim().toLowerCase();
  const shown = words
    .map((word, i) => ({ word, i }))
    .filter(
      ({ word }) =>
        !wanted || [word.written, word.label, ...word.aliases].some((t) => t.toLowerCase().includes(wanted)),
    );
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
        <CopyButton text={asLines(words)} label="Copy as table" />
        {merging !== null && (
          <span role="status" className="flex items-center gap-2">
            Choose the word to merge “{words[merging]?.written}” into
            <button type="button" className="button-plain" onClick={() => setMerging(null)}>
              Cancel
            </button>
          </span>
        )}
        {shown.length > mostShown && (
          <span className="caption">the first {mostShown} shown; search to find others</span>
        )}
      </div>
      <table className="w-full table-fixed">
        <thead className="text-left text-xs text-quiet">
          <tr className="[&>th]:pb-1 [&>th]:font-medium">
            <th scope="col" className="w-[27%]">
              Written
            </th>
            <th scope="col">Label</th>
            <th scope="col">Aliases</th>
            <th scope="col" className="w-[132px]">
              Retired
            </th>
            <th scope="col" className="w-[68px]">
              <span className="sr-only">Merge</span>
            </th>
            <th scope="col" className="w-14">
              <span className="sr-only">Visits, remove</span>
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
              <td className="whitespace-nowrap">
                <input
                  type="checkbox"
                  className="align-middle"
                  aria-label={`${word.written} is retired`}
                  checked={word.retired}
                  disabled={!mayWrite}
                  onChange={(e) => set(i, { retired: e.target.checked })}
                />
                {word.retired && (
                  <input
                    className="input ml-2 w-24 font-mono text-xs"
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
                    className="button-plain"
                    disabled={merging === i}
                    aria-label={
                      merging === null ? `Merge ${word.written} into another word` : `Merge into ${word.written}`
                    }
                    onClick={() => {
                      if (merging === null) return setMerging(i);
                      onChange(merged(words, merging, i));
                      setMerging(null);
                    }}
                  >
                    {merging === null ? 'Merge' : merging === i ? '…' : 'Merge here'}
                  </button>
                )}
              </td>
              <td className="whitespace-nowrap">
                <Link
                  aria-label={`Show visits of ${word.written} in Arrivals`}
                  title="Show its visits in Arrivals"
                  className="inline-flex size-6 items-center justify-center rounded text-quiet hover:text-ink"
                  to={arrivalsAddress({ where: [[dimensionOf(field), word.written]] })}
                >
                  <ArrowRightToLine size={14} strokeWidth={1.5} />
                </Link>
                {mayWrite && (
                  <button
                    type="button"
                    aria-label={`Remove ${word.written}`}
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
      {mayWrite && <WordPaste field={field} onAdd={(fresh) => onChange([...words, ...fresh])} />}
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
