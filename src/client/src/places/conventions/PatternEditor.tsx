import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { ChevronLeft, ChevronRight, X } from 'lucide-react';
import { useState } from 'react';
import { useDebounced } from '../../parts/useDebounced';
import { IconButton } from './ChannelEditor';
import { Choose } from './Choose';
import { dateForms } from './dateForms';
import { dropped, moved, replaced, type ConventionDocument, type Field, type Part, type Pattern } from './document';
import { FormField } from '../../parts/FormField';
import { triedQuery } from './queries';

interface PatternEditorProps {
  document: ConventionDocument;
  field: Field;
  mayWrite: boolean;
  onChange: (pattern: Pattern) => void;
}

const kinds: [Part['kind'], string][] = [
  ['date', 'the date'],
  ['field', 'a field'],
  ['campaign', 'the campaign'],
  ['channel', 'the channel'],
  ['attribute', 'an attribute'],
  ['literal', 'a fixed text'],
];

/** Parts in a row, with what they make and what a name comes apart into. */
export function PatternEditor({ document, field, mayWrite, onChange }: PatternEditorProps) {
  const [name, setName] = useState('');
  const [dragged, setDragged] = useState<number | null>(null);
  const pattern = field.pattern ?? { separator: '_', parts: [] };
  const asked = useDebounced(JSON.stringify({ document, field: field.key, text: name }), 250);
  const tried = useQuery({
    ...triedQuery(asked),
    enabled: pattern.parts.length > 0,
    placeholderData: keepPreviousData,
    retry: false,
  });
  const set = (parts: Part[]) => onChange({ ...pattern, parts });
  const fields = document.fields.filter((f) => f.kind !== 'composed').map((f) => [f.key, f.label] as const);

  function add(kind: Part['kind']) {
    const of =
      kind === 'field' ? (fields[0]?.[0] ?? '') : kind === 'literal' ? 'text' : kind === 'attribute' ? 'region' : '';
    set([...pattern.parts, { kind, of, form: 'month', filler: null }]);
  }

  return (
    <section aria-label="Name pattern" className="flex flex-col gap-3">
      <div className="flex items-center gap-3">
        <h3 className="font-medium">Composed from</h3>
        <Choose
          label="Separator between parts"
          bare
          value={pattern.separator === '-' ? '-' : '_'}
          disabled={!mayWrite}
          options={[
            ['_', '_ (underscore)'],
            ['-', '- (hyphen)'],
          ]}
          onChange={(separator) => onChange({ ...pattern, separator })}
        />
      </div>
      <ol className="flex flex-wrap items-stretch gap-2">
        {pattern.parts.map((part, i) => {
          const change = (next: Partial<Part>) => set(replaced(pattern.parts, i, { ...part, ...next }));
          return (
            <li
              key={i}
              draggable={mayWrite}
              onDragStart={() => setDragged(i)}
              onDragOver={(e) => e.preventDefault()}
              onDrop={() => {
                if (dragged !== null) set(dropped(pattern.parts, dragged, i));
                setDragged(null);
              }}
              className="flex w-44 flex-col gap-1.5 rounded border border-line-strong p-2"
            >
              <span className="flex items-center justify-between">
                <span className="caption">Part {i + 1}</span>
                {mayWrite && (
                  <span>
                    <IconButton label={`Move part ${i + 1} left`} onClick={() => set(moved(pattern.parts, i, -1))}>
                      <ChevronLeft size={12} strokeWidth={1.5} />
                    </IconButton>
                    <IconButton label={`Move part ${i + 1} right`} onClick={() => set(moved(pattern.parts, i, 1))}>
                      <ChevronRight size={12} strokeWidth={1.5} />
                    </IconButton>
                    <IconButton
                      label={`Remove part ${i + 1}`}
                      onClick={() => set(pattern.parts.filter((_, n) => n !== i))}
                    >
                      <X size={12} strokeWidth={1.5} />
                    </IconButton>
                  </span>
                )}
              </span>
              <Choose
                label={`Part ${i + 1}`}
                bare
                value={part.kind}
                options={kinds}
                disabled={!mayWrite}
                onChange={(kind) => change({ kind, of: kind === 'field' ? (fields[0]?.[0] ?? '') : '' })}
              />
              {part.kind === 'field' && (
                <Choose
                  label={`Field of part ${i + 1}`}
                  bare
                  value={part.of}
                  options={fields}
                  disabled={!mayWrite}
                  onChange={(of) => change({ of })}
                />
              )}
              {part.kind === 'date' && (
                <Choose
                  label={`Date form of part ${i + 1}`}
                  bare
                  value={part.form}
                  options={dateForms.filter(([, says]) => !says.includes(pattern.separator))}
                  disabled={!mayWrite}
                  onChange={(form) => change({ form })}
                />
              )}
              {(part.kind === 'literal' || part.kind === 'attribute') && (
                <input
                  className="input font-mono text-xs"
                  aria-label={part.kind === 'literal' ? `Text of part ${i + 1}` : `Attribute of part ${i + 1}`}
                  value={part.of}
                  disabled={!mayWrite}
                  onChange={(e) => change({ of: e.target.value })}
                />
              )}
              <label className="flex items-center gap-1.5 text-xs">
                <input
                  type="checkbox"
                  checked={part.filler !== null}
                  disabled={!mayWrite}
                  onChange={(e) => change({ filler: e.target.checked ? 'all' : null })}
                />
                optional
              </label>
              {part.filler !== null && (
                <input
                  className="input font-mono text-xs"
                  aria-label={`Placeholder for part ${i + 1}`}
                  value={part.filler}
                  disabled={!mayWrite}
                  onChange={(e) => change({ filler: e.target.value })}
                />
              )}
            </li>
          );
        })}
      </ol>
      {mayWrite && (
        <div className="flex flex-wrap items-center gap-1">
          <span className="caption">Add</span>
          {kinds.map(([kind, says]) => (
            <button
              key={kind}
              type="button"
              className="button-plain"
              aria-label={`Add ${says} as a part`}
              onClick={() => add(kind)}
            >
              {says}
            </button>
          ))}
        </div>
      )}
      {pattern.parts.length === 0 && <p className="text-warning">Add at least one part.</p>}
      {tried.isError && pattern.parts.length > 0 && <p className="text-error">{tried.error.message}</p>}
      {tried.data?.example && (
        <div className="grid grid-cols-2 gap-4 border-t border-line pt-3">
          <p>
            <span className="caption block">Example</span>
            <output aria-label="Example name" className="font-mono text-xs font-medium break-all">
              {tried.data.example}
            </output>
          </p>
          <div>
            <FormField label="Test a name">
              <input
                className="input font-mono text-xs"
                placeholder={tried.data.example}
                value={name}
                onChange={(e) => setName(e.target.value)}
              />
            </FormField>
            {tried.data.apart.length > 0 ? (
              <dl className="mt-2 grid grid-cols-[auto_1fr] gap-x-3">
                {tried.data.apart.map((p, i) => (
                  <div key={i} className="contents">
                    <dt className="text-quiet">{p.part}</dt>
                    <dd className="font-mono text-xs leading-5">{p.written}</dd>
                  </div>
                ))}
              </dl>
            ) : (
              <p className="mt-2 text-warning">That doesn’t match the pattern.</p>
            )}
          </div>
        </div>
      )}
    </section>
  );
}
