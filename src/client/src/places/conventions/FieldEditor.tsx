import { listOf, type Field } from './document';
import { WordTable } from './WordTable';

interface FieldEditorProps {
  field: Field;
  mayWrite: boolean;
  onChange: (field: Field) => void;
  onRemove: () => void;
}

const choices = {
  presence: [
    ['required', 'every link needs one'],
    ['offered', 'offered'],
    ['hidden', 'hidden'],
  ],
  list: [
    ['none', 'free text'],
    ['open', 'words, others noticed'],
    ['closed', 'words and nothing else'],
  ],
  case: [
    ['lower', 'lower case'],
    ['asTyped', 'as typed'],
    ['firstLetters', 'First Letters'],
  ],
  space: [
    ['underscore', 'becomes _'],
    ['hyphen', 'becomes -'],
    ['stay', 'stays'],
  ],
  characters: [
    ['anything', 'any that prints'],
    ['lettersAndDigits', 'letters, digits, - . _ ~'],
    ['plain', 'A–Z a–z 0–9 - . _ ~'],
  ],
  outside: [
    ['remove', 'are removed'],
    ['refuse', 'stop the link'],
  ],
} as const;

/** The rules of the chosen field. */
export function FieldEditor({ field, mayWrite, onChange, onRemove }: FieldEditorProps) {
  const set = (part: Partial<Field>) => onChange({ ...field, ...part });
  const pick = (name: keyof typeof choices, label: string) => (
    <label className="flex flex-col gap-1">
      <span className="caption">{label}</span>
      <select
        className="input"
        value={field[name]}
        disabled={!mayWrite}
        onChange={(e) => set({ [name]: e.target.value } as Partial<Field>)}
      >
        {choices[name].map(([value, says]) => (
          <option key={value} value={value}>
            {says}
          </option>
        ))}
      </select>
    </label>
  );
  const text = (label: string, value: string, change: (text: string) => void, mono = false) => (
    <label className="flex flex-col gap-1">
      <span className="caption">{label}</span>
      <input
        className={`input ${mono ? 'font-mono text-xs' : ''}`}
        value={value}
        disabled={!mayWrite}
        onChange={(e) => change(e.target.value)}
      />
    </label>
  );

  return (
    <div className="flex flex-col gap-5 p-5">
      <div className="grid grid-cols-2 gap-3">
        {text('Label', field.label, (label) => set({ label }))}
        {text('Key in the URL', field.key, (key) => set({ key }), true)}
        {pick('presence', 'On a link')}
        {pick('list', 'Values')}
        {pick('case', 'Letters')}
        {pick('space', 'A space')}
        {pick('characters', 'Characters')}
        {pick('outside', 'Other characters')}
        {text('Hint at the moment of entry', field.hint ?? '', (hint) => set({ hint: hint || null }))}
        {text('Example', field.example ?? '', (example) => set({ example: example || null }))}
        {text(
          'Also read from keys',
          field.alsoRead.join(', '),
          (keys) => set({ alsoRead: keys.endsWith(',') ? [...listOf(keys), ''] : listOf(keys) }),
          true,
        )}
        <label className="flex flex-col gap-1">
          <span className="caption">Longest value, in characters</span>
          <input
            className="input"
            type="number"
            min={1}
            max={1000}
            value={field.longestValue}
            disabled={!mayWrite}
            onChange={(e) => set({ longestValue: Number(e.target.value) })}
          />
        </label>
      </div>
      <div className="flex flex-wrap items-center gap-5">
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            checked={field.transliterate}
            disabled={!mayWrite}
            onChange={(e) => set({ transliterate: e.target.checked })}
          />
          Letters of other scripts become plain ones
        </label>
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            checked={field.holdsNumbers}
            disabled={!mayWrite}
            onChange={(e) => set({ holdsNumbers: e.target.checked })}
          />
          Made for ids and dates
        </label>
        {mayWrite && (
          <button type="button" className="button-plain ml-auto text-stop" onClick={onRemove}>
            Take the field out
          </button>
        )}
      </div>
      {field.list !== 'none' && (
        <WordTable words={field.words} mayWrite={mayWrite} onChange={(words) => set({ words })} />
      )}
    </div>
  );
}
