import { X } from 'lucide-react';
import type { Schema } from '../../api/client';
import { usePlacements } from '../../api/known';
import { IconButton } from './ChannelEditor';
import { Choose } from './Choose';
import { replaced, type Choice, type ConventionDocument } from './document';

interface ChoiceEditorProps {
  document: ConventionDocument;
  mayWrite: boolean;
  onChange: (choices: Choice[]) => void;
}

/** Which words go together, so that choosing one narrows the other. */
export function ChoiceEditor({ document, mayWrite, onChange }: ChoiceEditorProps) {
  const placements = usePlacements();
  const { choices } = document;
  const fields = document.fields.map((f) => [f.key, f.label] as const);
  const wordsOf = (key: string) => document.fields.find((f) => f.key === key)?.words ?? [];
  const offered = suggestions(document, placements.data ?? []).filter(
    (s) => !choices.some((c) => c.field === s.field && c.word === s.word && c.narrows === s.narrows),
  );
  const set = (i: number, part: Partial<Choice>) => onChange(replaced(choices, i, { ...choices[i]!, ...part }));

  return (
    <div className="p-5">
      <p className="mb-3 max-w-2xl text-quiet">
        If the word on the left is chosen, the other field offers only the words on the right. Any other word gets a
        warning. A placement’s channel narrows the medium automatically.
      </p>
      <ul className="flex flex-col gap-2">
        {choices.map((choice, i) => (
          <li key={i} className="flex flex-wrap items-center gap-2 border-t border-line pt-2">
            <Choose
              label={`Field of line ${i + 1}`}
              bare
              value={choice.field}
              options={fields}
              disabled={!mayWrite}
              onChange={(field) => set(i, { field })}
            />
            <input
              className="input w-40 font-mono text-xs"
              aria-label={`Word of line ${i + 1}`}
              list={`choice-words-${i}`}
              value={choice.word}
              disabled={!mayWrite}
              onChange={(e) => set(i, { word: e.target.value })}
            />
            <datalist id={`choice-words-${i}`}>
              {wordsOf(choice.field).map((w) => (
                <option key={w.written} value={w.written} />
              ))}
            </datalist>
            <span>limits</span>
            <Choose
              label={`Field narrowed by line ${i + 1}`}
              bare
              value={choice.narrows}
              options={fields}
              disabled={!mayWrite}
              onChange={(narrows) => set(i, { narrows })}
            />
            {mayWrite && (
              <span className="ml-auto">
                <IconButton label={`Remove line ${i + 1}`} onClick={() => onChange(choices.filter((_, n) => n !== i))}>
                  <X size={14} strokeWidth={1.5} />
                </IconButton>
              </span>
            )}
            <span className="flex w-full flex-wrap gap-x-3">
              {wordsOf(choice.narrows)
                .filter((w) => !w.retired || choice.to.includes(w.written))
                .map((w) => (
                  <label key={w.written} className="flex h-6 items-center gap-1 font-mono text-xs">
                    <input
                      type="checkbox"
                      checked={choice.to.includes(w.written)}
                      disabled={!mayWrite || (choice.to.length === 1 && choice.to.includes(w.written))}
                      onChange={(e) =>
                        set(i, {
                          to: e.target.checked ? [...choice.to, w.written] : choice.to.filter((t) => t !== w.written),
                        })
                      }
                    />
                    {w.written}
                  </label>
                ))}
            </span>
          </li>
        ))}
      </ul>
      {choices.length === 0 && <p>No limits yet.</p>}
      {mayWrite && offered.length > 0 && (
        <section className="mt-5">
          <h3 className="mb-1 font-medium">Used together in your placements</h3>
          <ul>
            {offered.map((s) => (
              <li key={`${s.field} ${s.word} ${s.narrows}`} className="flex items-center gap-2 py-0.5">
                <button type="button" className="button-plain -ml-1.5" onClick={() => onChange([...choices, s])}>
                  Add
                </button>
                <span className="font-mono text-xs">
                  {s.word} → {s.to.join(', ')}
                </span>
              </li>
            ))}
          </ul>
          <button type="button" className="button mt-2" onClick={() => onChange([...choices, ...offered])}>
            Add all {offered.length}
          </button>
        </section>
      )}
    </div>
  );
}

/** Mediums by source as placements have them, where both fields have word lists. */
function suggestions(document: ConventionDocument, placements: Schema['PlacementAnswer'][]): Choice[] {
  const keyOf = (means: 'source' | 'medium') =>
    document.fields.find((f) => f.means === means || (f.means === 'byKey' && f.key === `utm_${means}`))?.key;
  const source = keyOf('source');
  const medium = keyOf('medium');
  const mediums = document.fields.find((f) => f.key === medium)?.words.map((w) => w.written) ?? [];
  if (!source || !medium) return [];
  const together = new Map<string, Set<string>>();
  for (const { defaults } of placements) {
    const from = defaults[source] ?? defaults['utm_source'];
    const by = defaults[medium] ?? defaults['utm_medium'];
    if (from && by && mediums.includes(by)) together.set(from, (together.get(from) ?? new Set()).add(by));
  }
  return [...together].map(([word, to]) => ({ field: source, word, narrows: medium, to: [...to] }));
}
