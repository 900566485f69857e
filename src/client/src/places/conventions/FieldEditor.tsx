import type { ReactNode } from 'react';
import { Choose } from './Choose';
import { dateForms } from './dateForms';
import { firstPattern, listOf, type ConventionDocument, type Field } from './document';
import { PatternEditor } from './PatternEditor';
import { PresenceByChannel, presences } from './PresenceByChannel';
import { WordTable } from './WordTable';
import { FormField } from '../../parts/FormField';
import { WrittenExample } from './WrittenExample';

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
    <div className="flex flex-col gap-5 p-5">
      <Group title="What it is">
        {text('Label', field.label, (label) => set({ label }))}
        {text('Key in the URL', field.key, (key) => set({ key }), true)}
        {pick('means', 'Role')}
        {text('Example', field.example ?? '', (example) => set({ example: example || null }))}
        {text('Hint while typing', field.hint ?? '', (hint) => set({ hint: hint || null }))}
        {text(
          'Also read from keys',
          field.alsoRead.join(', '),
          (keys) => set({ alsoRead: keys.endsWith(',') ? [...listOf(keys), ''] : listOf(keys) }),
          true,
        )}
      </Group>
      <Group title="Which values it takes">
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
        <label className="col-span-full flex items-center gap-2">
          <input
            type="checkbox"
            checked={field.holdsNumbers}
            disabled={!mayWrite}
            onChange={(e) => set({ holdsNumbers: e.target.checked })}
          />
          Holds ids or dates (long numbers allowed)
        </label>
        {field.kind === 'composed' && (
          <div className="col-span-full">
            <PatternEditor
              document={document}
              field={field}
              mayWrite={mayWrite}
              onChange={(pattern) => set({ pattern })}
            />
          </div>
        )}
      </Group>
      <Group title="How values are written">
        {pick('case', 'Case')}
        {pick('space', 'Spaces')}
        {pick('characters', 'Allowed characters')}
        {pick('outside', 'Other characters')}
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
        <label className="flex h-8 items-center gap-2 self-end">
          <input
            type="checkbox"
            checked={field.transliterate}
            disabled={!mayWrite}
            onChange={(e) => set({ transliterate: e.target.checked })}
          />
          Transliterate to plain letters
        </label>
        <div className="col-span-full">
          <WrittenExample document={document} field={field} />
        </div>
      </Group>
      <Group title="When it is needed">
        {pick('presence', 'Required')}
        <div className="col-span-full">
          <PresenceByChannel
            field={field}
            channels={document.channels}
            mayWrite={mayWrite}
            onChange={(presenceIn) => set({ presenceIn })}
          />
        </div>
      </Group>
      {field.kind === 'text' && field.list !== 'none' && (
        <Group title="Words">
          <div className="col-span-full">
            <WordTable field={field} mayWrite={mayWrite} onChange={(words) => set({ words })} />
          </div>
        </Group>
      )}
      {mayWrite && (
        <button type="button" className="button-plain -ml-1.5 self-start text-error" onClick={onRemove}>
          Remove field
        </button>
      )}
    </div>
  );
}

/** Rules that are thought of together. */
const Group = ({ title, children }: { title: string; children: ReactNode }) => (
  <fieldset className="border-t border-line pt-3 first:border-t-0 first:pt-0">
    <legend className="float-left mb-2 w-full font-semibold">{title}</legend>
    <div className="clear-left grid grid-cols-3 gap-3">{children}</div>
  </fieldset>
);
