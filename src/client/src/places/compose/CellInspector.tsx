import type { ComposeAnswer, FieldAnswer, Notice, SavedLink } from '../../api/client';
import { CodePreview } from '../../parts/CodePreview';
import { CopyButton } from '../../parts/CopyButton';
import { Inspector, InspectorPart } from '../../parts/Inspector';
import { originOf } from '../../parts/LinkStrip';
import { NoticeList } from '../../parts/NoticeList';

interface CellInspectorProps {
  title: string;
  answer: ComposeAnswer;
  fields: FieldAnswer[];
  saved?: SavedLink;
  overridden: Record<string, string>;
  onOverride: (key: string, value: string | undefined) => void;
  onRepair: (notice: Notice) => void;
  onRepairAll: (notice: Notice) => void;
  alike: (notice: Notice) => number;
  onClose: () => void;
}

/** The fields of the selected link, what there is to say about it, and its other forms. */
export function CellInspector(props: CellInspectorProps) {
  const { title, answer, fields, saved, overridden, onOverride, onRepair, onRepairAll, alike, onClose } = props;
  return (
    <Inspector title={title} onClose={onClose}>
      {answer.notices.length > 0 && (
        <InspectorPart title="What there is to say">
          <NoticeList notices={answer.notices} onRepair={onRepair} onRepairAll={onRepairAll} alike={alike} />
        </InspectorPart>
      )}
      {saved && (
        <InspectorPart title={saved.waiting ? 'Saved; the short link waits until an owner approves the host' : 'Saved'}>
          <div className="flex items-start gap-3">
            {saved.codeUrl && <CodePreview linkId={saved.id} says={saved.codeShortUrl ?? ''} />}
            <div className="flex min-w-0 flex-col items-start gap-1">
              <span className="font-mono text-xs break-all">{saved.shortUrl}</span>
              {saved.shortUrl && (
                <CopyButton text={saved.shortUrl} label="Copy short link" className="button-plain -ml-1.5" />
              )}
            </div>
          </div>
        </InspectorPart>
      )}
      <InspectorPart title="Fields">
        <div className="flex flex-col gap-3">
          {answer.fields.map((field) => {
            const rule = fields.find((f) => f.key === field.key);
            const isOverride = field.key in overridden;
            const listId = `words-${field.key}`;
            if (rule?.presence === 'hidden' && !field.value && !isOverride) return null;
            const narrowed = answer.narrowed.find((n) => n.key === field.key)?.words;
            const words = rule?.words.filter((word) => !narrowed || narrowed.includes(word.written)) ?? [];
            return (
              <div key={field.key} className="flex flex-col gap-1">
                <label className="flex items-baseline justify-between gap-2">
                  <span className="font-medium">{field.label}</span>
                  <span className="caption truncate font-mono">{field.key}</span>
                </label>
                <input
                  aria-label={field.label}
                  className={`input font-mono text-xs ${isOverride ? 'border-accent' : ''}`}
                  list={words.length ? listId : undefined}
                  readOnly={rule?.kind === 'fixed'}
                  placeholder={rule?.example ? `such as ${rule.example}` : ''}
                  value={overridden[field.key] ?? field.value}
                  onChange={(e) => onOverride(field.key, e.target.value)}
                />
                {words.length > 0 && (
                  <datalist id={listId}>
                    {words.map((word) => (
                      <option key={word.written} value={word.written}>
                        {word.label}
                      </option>
                    ))}
                  </datalist>
                )}
                <span className="caption flex items-baseline justify-between gap-2">
                  <span>
                    {isOverride ? 'for this link only' : field.value ? originOf(field) : rule?.hint}
                    {narrowed && !isOverride && ` · goes with ${narrowed.join(', ')}`}
                    {field.value && isOverride && overridden[field.key] !== field.value && (
                      <>
                        {' '}
                        → <span className="font-mono">{field.value}</span>
                      </>
                    )}
                  </span>
                  {isOverride && (
                    <button
                      type="button"
                      className="button-plain shrink-0"
                      onClick={() => onOverride(field.key, undefined)}
                    >
                      Take back
                    </button>
                  )}
                </span>
              </div>
            );
          })}
        </div>
      </InspectorPart>
      {answer.url && answer.forms && (
        <InspectorPart title="Copy as">
          <div className="-ml-1.5 flex flex-wrap gap-1">
            <CopyButton text={answer.url} label="Link" />
            <CopyButton text={answer.parameterText ?? ''} label="Parameters" />
            <CopyButton text={answer.forms.encoded} label="Encoded" />
            <CopyButton text={answer.forms.html} label="HTML" />
            <CopyButton text={answer.forms.markdown} label="Markdown" />
          </div>
        </InspectorPart>
      )}
    </Inspector>
  );
}
