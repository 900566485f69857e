import { Link } from 'react-router';
import type { ComposeAnswer, ComposeRequest, FieldAnswer, Notice, SavedLink } from '../../api/client';
import { CodePreview } from '../../parts/CodePreview';
import { clickFillIns } from '../../parts/clickFillIns';
import { CopyButton } from '../../parts/CopyButton';
import { Inspector, InspectorPart } from '../../parts/Inspector';
import { originOf } from '../../parts/LinkStrip';
import { NoticeList } from '../../parts/NoticeList';
import { TryLink } from '../../parts/TryLink';
import type { CellName } from './composition';
import { copyForms } from './copying';
import { SlugChoice } from './SlugChoice';

interface CellInspectorProps {
  title: string;
  answer: ComposeAnswer;
  fields: FieldAnswer[];
  saved?: SavedLink;
  overridden: Record<string, string>;
  /** How many links there are; a value can be given to all of them. */
  links: number;
  name: CellName;
  onName: (name: CellName) => void;
  onOverride: (key: string, value: string | undefined) => void;
  onForAll: (key: string, value: string) => void;
  onRepair: (notice: Notice) => void;
  onRepairAll: (notice: Notice) => void;
  alike: (notice: Notice) => number;
  /** What the link is made from; ideas for its slug come from that. */
  request: ComposeRequest;
  /** Short domain of all links here; empty for the workspace's first. */
  shortDomain: string;
  onShortDomain: (host: string) => void;
  onClose: () => void;
}

/** The fields of the selected link, its notices, and its other forms. */
export function CellInspector(props: CellInspectorProps) {
  const { title, answer, fields, saved, overridden, links, name, onName, onOverride, onForAll } = props;
  const { onRepair, onRepairAll, alike, onClose } = props;
  const linksToCopy = { placement: title, answer, saved };
  return (
    <Inspector title={title} onClose={onClose}>
      {answer.notices.length > 0 && (
        <InspectorPart title="Notices">
          <NoticeList
            notices={answer.notices}
            onRepair={onRepair}
            onRepairAll={onRepairAll}
            alike={alike}
            wayOut={(notice) =>
              notice.rule === 'placeholder-on-short-link' &&
              !saved && (
                <button
                  type="button"
                  className="button-plain -ml-1.5"
                  onClick={() => onName({ ...name, carries: true })}
                >
                  Carry parameters through
                </button>
              )
            }
          />
          {answer.existing && !saved && (
            <p className="mt-2 flex flex-wrap items-baseline gap-x-2">
              <span className="caption">Already in the Ledger:</span>
              <Link
                className="button-plain"
                to={`/ledger?link=${answer.existing.id}&search=${encodeURIComponent(answer.existing.shortUrl?.split('/').pop() ?? answer.existing.title)}`}
              >
                {answer.existing.title}
              </Link>
              {answer.existing.shortUrl && <CopyButton text={answer.existing.shortUrl} label="Copy its short link" />}
            </p>
          )}
        </InspectorPart>
      )}
      {saved && (
        <InspectorPart title={saved.waiting ? 'Saved; the short link waits until an owner approves the host' : 'Saved'}>
          <div className="flex items-start gap-3">
            {saved.codeUrl && <CodePreview linkId={saved.id} says={saved.codeShortUrl ?? ''} />}
            <div className="flex min-w-0 flex-col items-start gap-1">
              <span className="font-mono text-xs break-all">{saved.copyUrl}</span>
              <CopyButton
                text={saved.copyUrl}
                label={saved.copyUrl === answer.url ? 'Copy long link' : 'Copy short link'}
                className="button-plain -ml-1.5"
              />
              {!saved.waiting && <TryLink linkId={saved.id} className="button-plain -ml-1.5" />}
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
            const fillIns = rule?.kind === 'text' && !rule.closedList ? clickFillIns : [];
            return (
              <div key={field.key} className="flex flex-col gap-1">
                <label className="flex items-baseline justify-between gap-2">
                  <span className="font-medium">{field.label}</span>
                  <span className="caption truncate font-mono">{field.key}</span>
                </label>
                <input
                  aria-label={field.label}
                  className={`input font-mono text-xs ${isOverride ? 'border-accent' : ''}`}
                  list={words.length || fillIns.length ? listId : undefined}
                  readOnly={rule?.kind === 'fixed'}
                  placeholder={rule?.example ? `such as ${rule.example}` : ''}
                  value={overridden[field.key] ?? field.value}
                  onChange={(e) => onOverride(field.key, e.target.value)}
                />
                {words.length + fillIns.length > 0 && (
                  <datalist id={listId}>
                    {words.map((word) => (
                      <option key={word.written} value={word.written}>
                        {word.label}
                      </option>
                    ))}
                    {fillIns.map(([fillIn, says]) => (
                      <option key={fillIn} value={fillIn}>
                        {says}
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
                    <span className="shrink-0">
                      {links > 1 && (
                        <button
                          type="button"
                          className="button-plain"
                          onClick={() => onForAll(field.key, overridden[field.key]!)}
                        >
                          For all {links}
                        </button>
                      )}
                      <button type="button" className="button-plain" onClick={() => onOverride(field.key, undefined)}>
                        Undo
                      </button>
                    </span>
                  )}
                </span>
              </div>
            );
          })}
        </div>
      </InspectorPart>
      {!saved && (
        <InspectorPart title="Title">
          <div className="flex flex-col gap-2">
            <input
              className="input"
              aria-label="Title"
              placeholder="title, composed if empty"
              value={name.title ?? ''}
              onChange={(e) => onName({ ...name, title: e.target.value || undefined })}
            />
            {name.carries && (
              <p className="flex items-baseline justify-between gap-2">
                <span>Parameters behind the short link are carried through.</span>
                <button type="button" className="button-plain" onClick={() => onName({ ...name, carries: undefined })}>
                  Undo
                </button>
              </p>
            )}
            <SlugChoice
              slug={name.slug ?? ''}
              onChange={(slug) => onName({ ...name, slug: slug || undefined })}
              codeSlug={name.codeSlug ?? ''}
              onCodeSlug={(codeSlug) => onName({ ...name, codeSlug: codeSlug || undefined })}
              domain={props.shortDomain}
              onDomain={props.onShortDomain}
              request={props.request}
            />
          </div>
        </InspectorPart>
      )}
      {answer.url && answer.forms && (
        <InspectorPart title="Copy as">
          <div className="-ml-1.5 flex flex-wrap gap-x-1">
            {copyForms.map((form) => {
              const text = form.of(linksToCopy);
              return (
                text && (
                  <span key={form.key} className="inline-flex items-center">
                    <CopyButton text={text} label={form.name} />
                    <kbd className="kbd">{form.key}</kbd>
                  </span>
                )
              );
            })}
          </div>
          <p className="mt-2 font-mono text-xs break-all text-quiet">{answer.url}</p>
        </InspectorPart>
      )}
    </Inspector>
  );
}
