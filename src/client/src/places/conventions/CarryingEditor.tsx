import { X } from 'lucide-react';
import { IconButton } from './ChannelEditor';
import { Choose } from './Choose';
import { listOf, replaced, type ConventionDocument } from './document';
import { FormField } from '../../parts/FormField';

interface CarryingEditorProps {
  document: ConventionDocument;
  mayWrite: boolean;
  onChange: (document: ConventionDocument) => void;
}

const styles: [ConventionDocument['style'], string][] = [
  ['query', 'in the query (after ?)'],
  ['fragment', 'in the fragment (after #)'],
  ['sealed', 'sealed: one opaque code'],
];

/** Where links carry their tags, and which systems read them. */
export function CarryingEditor({ document, mayWrite, onChange }: CarryingEditorProps) {
  const set = (part: Partial<ConventionDocument>) => onChange({ ...document, ...part });
  return (
    <div className="flex flex-col gap-6 p-5">
      <section className="flex flex-col gap-3">
        <h3 className="font-medium">Where links carry their tags</h3>
        <div className="grid grid-cols-2 gap-3">
          <Choose
            label="Tags go"
            value={document.style}
            options={styles}
            disabled={!mayWrite}
            onChange={(style) =>
              set({ style, sealedKey: style === 'sealed' ? (document.sealedKey ?? 'k') : document.sealedKey })
            }
          />
          <FormField label="Parameter of sealed links">
            <input
              className="input font-mono text-xs"
              value={document.sealedKey ?? ''}
              placeholder="no links are sealed"
              disabled={!mayWrite}
              onChange={(e) => set({ sealedKey: e.target.value || null })}
            />
          </FormField>
        </div>
        <p className="max-w-2xl text-quiet">
          A sealed link shows one code instead of its tags. Only this workspace can read it, when the visit arrives.
          Equal tags have equal codes, so reports stay complete. Don’t change the parameter once such links are
          published.
        </p>
      </section>
      <section className="flex flex-col items-start gap-2">
        <h3 className="font-medium">Systems that read your links</h3>
        <p className="max-w-2xl text-quiet">
          If a system reads only some keys, links with other keys get an info notice.
        </p>
        {document.readBy.map((system, i) => (
          <span key={i} className="flex w-full items-center gap-2">
            <input
              className="input w-48"
              aria-label={`Name of system ${i + 1}`}
              value={system.name}
              disabled={!mayWrite}
              onChange={(e) => set({ readBy: replaced(document.readBy, i, { ...system, name: e.target.value }) })}
            />
            <input
              className="input min-w-0 flex-1 font-mono text-xs"
              aria-label={`Keys ${system.name} understands`}
              defaultValue={system.keys.join(', ')}
              disabled={!mayWrite}
              onBlur={(e) => set({ readBy: replaced(document.readBy, i, { ...system, keys: listOf(e.target.value) }) })}
            />
            {mayWrite && (
              <IconButton
                label={`Remove ${system.name}`}
                onClick={() => set({ readBy: document.readBy.filter((_, n) => n !== i) })}
              >
                <X size={14} strokeWidth={1.5} />
              </IconButton>
            )}
          </span>
        ))}
        {mayWrite && (
          <button
            type="button"
            className="button-plain -ml-1.5"
            onClick={() =>
              set({
                readBy: [
                  ...document.readBy,
                  { name: `System ${document.readBy.length + 1}`, keys: document.fields.map((f) => f.key) },
                ],
              })
            }
          >
            Add system
          </button>
        )}
      </section>
    </div>
  );
}
