import { Choose } from './Choose';
import { dateForms } from './dateForms';
import { firstPattern, listOf, type ConventionDocument, type Field } from './document';
import { PatternEditor } from './PatternEditor';
import { PresenceByChannel, presences } from './PresenceByChannel';
import { WordTable } from './WordTable';
import { FormField } from '../../parts/FormField';

interface FieldEditorProps {
  document: ConventionDocument;
  field: Field;
  mayWrite: boolean;
  onChange: (field: Field) => void;
  onRemove: () => void;
}

const choices = {
  presence: presences,
  kind: [
    ['text', 'typed or chosen'],
    ['date', 'a date'],
    ['composed', 'composed from parts'],
    ['fixed', 'fixed value'],
  ],
  means: [
    ['byKey', 'automatic (by its key)'],
    ['source', 'the source'],
    ['medium', 'the medium'],
    ['campaign', 'the campaign'],
    ['content', 'the content'],
    ['term', 'the term'],
    ['id', 'the id'],
  ],
  list: [
    ['none', 'free text'],
    ['open', 'word list, others get a warning'],
    ['closed', 'word list only'],
  ],
  case: [
    ['lower', 'lower case'],
    ['asTyped', 'as typed'],
    ['firstLetters', 'Each Word Capitalised'],
  ],
  space: [
    ['underscore', 'becomes _'],
    ['hyphen', 'becomes -'],
    ['stay', 'stays'],
  ],
  characters: [
    ['anything', 'any printable'],
    ['lettersAndDigits', 'letters, digits, - . _ ~'],
    ['plain', 'A–Z a–z 0–9 - . _ ~'],
  ],
  outside: [
    ['remove', 'are removed'],
    ['refuse', 'are an error'],
  ],
} as const;

/** The rules of the chosen field. */
export function FieldEditor({ document, field, mayWrite, onChange, onRemove }: FieldEditorProps) {
  const set = (part: Partial<Field>) => onChange({ ...field, ...part });
  const pick = (name: keyof typeof choices, label: string) => (
    <Choose
      label={label}
      value={field[name] as string}
      options={choices[name] as readonly (readonly [string, string])[]}
      disabled={!mayWrite}
      onChange={(value) => set({ [name]: value } as Partial<Field>)}
    />
  );
  const text = (label: string, value: string, change: (text: string) => void, mono = false) => (
    <FormField label={label}>
      <input
        className={`input ${mono ? 'font-mono text-xs' : ''}`}
        value={value}
        disabled={!mayWrite}
        onChange={(e) => change(e.target.value)}
      />
    </FormField>
  );

  return (
    <div className="flex flex-col gap-4 p-5">
      <div className="grid grid-cols-3 gap-3">
        {text('Label', field.label, (label) => set({ label }))}
        {text('Key in the URL', field.key, (key) => set({ key }), true)}
        {pick('means', 'Role')}
        <Choose
          label="Value comes from"
          value={field.kind}
          options={choices.kind}
          disabled={!mayWrite}
          onChange={(kind) =>
            // A kind begins with something that can be saved.
            set({
              kind,
              pattern: kind === 'composed' ? (field.pattern ?? firstPattern) : field.pattern,
              fixed: kind === 'fixed' ? (field.fixed ?? 'value') : field.fixed,
            })
          }
        />
        {field.kind === 'text' && pick('list', 'Values')}
        {field.kind === 'date' && (
          <Choose
            label="Date format"
            value={field.dateForm}
            options={dateForms}
            disabled={!mayWrite}
            onChange={(dateForm) => set({ dateForm })}
          />
        )}
        {field.kind === 'fixed' &&
          text('Fixed value', field.fixed ?? '', (fixed) => set({ fixed: fixed || null }), true)}
        {pick('presence', 'Required')}
      </div>
      <PresenceByChannel
        field={field}
        channels={document.channels}
        mayWrite={mayWrite}
        onChange={(presenceIn) => set({ presenceIn })}
      />
      {field.kind === 'composed' && (
        <PatternEditor document={document} field={field} mayWrite={mayWrite} onChange={(pattern) => set({ pattern })} />
      )}
      <div className="grid grid-cols-3 gap-3">
        {pick('case', 'Case')}
        {pick('space', 'Spaces')}
        <FormField label="Maximum length (characters)">
          <input
            className="input"
            type="number"
            min={1}
            max={1000}
            value={field.longestValue}
            disabled={!mayWrite}
            onChange={(e) => set({ longestValue: Number(e.target.value) })}
          />
        </FormField>
        {pick('characters', 'Allowed characters')}
        {pick('outside', 'Other characters')}
        {text(
          'Also read from keys',
          field.alsoRead.join(', '),
          (keys) => set({ alsoRead: keys.endsWith(',') ? [...listOf(keys), ''] : listOf(keys) }),
          true,
        )}
        <div className="col-span-2">
          {text('Hint while typing', field.hint ?? '', (hint) => set({ hint: hint || null }))}
        </div>
        {text('Example', field.example ?? '', (example) => set({ example: example || null }))}
      </div>
      <div className="flex flex-wrap items-center gap-5">
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            checked={field.transliterate}
            disabled={!mayWrite}
            onChange={(e) => set({ transliterate: e.target.checked })}
          />
          Transliterate to plain letters
        </label>
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            checked={field.holdsNumbers}
            disabled={!mayWrite}
            onChange={(e) => set({ holdsNumbers: e.target.checked })}
          />
          Holds ids or dates (long numbers allowed)
        </label>
        {mayWrite && (
          <button type="button" className="button-plain ml-auto text-error" onClick={onRemove}>
            Remove field
          </button>
        )}
      </div>
      {field.kind === 'text' && field.list !== 'none' && (
        <WordTable field={field} mayWrite={mayWrite} onChange={(words) => set({ words })} />
      )}
    </div>
  );
}
