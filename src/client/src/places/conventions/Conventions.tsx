import { useMutation } from '@tanstack/react-query';
import { ChevronDown, ChevronUp } from 'lucide-react';
import { useState } from 'react';
import { useSearchParams } from 'react-router';
import type { Schema } from '../../api/client';
import { ago, count } from '../../parts/format';
import { Head } from '../../parts/Head';
import { FileInput } from '../../parts/FileInput';
import { usePerson } from '../../parts/person';
import { CarryingEditor } from './CarryingEditor';
import { ChannelEditor, IconButton } from './ChannelEditor';
import { ChoiceEditor } from './ChoiceEditor';
import { dropped, moved, newField, placeOf, replaced, type ConventionDocument } from './document';
import { EffectPanel } from './EffectPanel';
import { FieldEditor } from './FieldEditor';
import { FileDifference } from './FileDifference';
import { RuleEditor } from './RuleEditor';
import { ValueTest } from './ValueTest';
import { useDraft } from './useDraft';
import { VersionList } from './VersionList';
import { draftEffect, draftPublish, draftDiscard, readConventionFile } from './queries';

/** What is written beside the fields, by its place in the address. */
const sections: Record<string, string> = {
  channels: 'Channels',
  choices: 'Words that go together',
  rules: 'Rules',
  carrying: 'Where tags go',
  versions: 'Versions',
};

/** Where the convention is written: fields and their words, channels, a bench to try them on, and what a change would do. */
export function Conventions() {
  const person = usePerson();
  const mayWrite = person.role === 'owner';
  const [search, setSearch] = useSearchParams();
  const { published, stored, document, change, state, forget, reload } = useDraft();
  const [effect, setEffect] = useState<Schema['EffectAnswer']>();
  const [message, setMessage] = useState('');
  const [loaded, setLoaded] = useState<{ name: string; read: Schema['FileRead'] }>();
  const [dragged, setDragged] = useState<number | null>(null);
  const at = search.get('at') ?? '0';
  const show = (where: string) => setSearch({ at: where }, { replace: true });

  const weigh = useMutation({
    ...draftEffect(({ done, total, months, monthsDone }) =>
      setMessage(
        done < total
          ? `${count(done)} of ${count(total)} links checked …`
          : monthsDone < months
            ? `${count(monthsDone)} of ${count(months)} months of page views checked …`
            : '',
      ),
    ),
    onSuccess: setEffect,
    onError: (error) => setMessage(error.message),
  });
  const publish = useMutation({
    ...draftPublish(),
    onSuccess: (now) => {
      forget();
      setEffect(undefined);
      setMessage(`Version ${now.number} is current.`);
    },
    onError: (error) => setMessage(error.message),
  });
  const discard = useMutation({
    ...draftDiscard(),
    onSuccess: () => {
      forget();
      setEffect(undefined);
    },
  });

  async function download(path: string, name: string, accept: string) {
    const answer = await fetch(`${path}${stored ? '?version=draft' : ''}`, { headers: { Accept: accept } });
    const link = window.document.createElement('a');
    link.href = URL.createObjectURL(await answer.blob());
    link.download = name;
    link.click();
    URL.revokeObjectURL(link.href);
  }

  async function open(chosen: File) {
    try {
      setLoaded({ name: chosen.name, read: await readConventionFile(chosen) });
      setMessage('');
    } catch (error) {
      setMessage((error as Error).message);
    }
  }

  if (!document || !published) return <Head title="Conventions" state="" />;
  const index = placeOf(document.fields, at);
  const field = at in sections ? undefined : document.fields[index];
  const stateLine = stored
    ? `Version ${published.number} · a draft by ${stored.savedBy}${state.kind === 'saving' ? ', saving …' : state.kind === 'saved' ? ', saved' : ', not saved'}`
    : `Version ${published.number}${published.publishedAt ? `, published ${ago(published.publishedAt)}` : ''}`;

  return (
    <>
      <Head title="Conventions" state={message ? `${stateLine} · ${message}` : stateLine}>
        <button
          type="button"
          className="button"
          onClick={() => void download('/api/v1/convention', 'convention.yaml', 'application/yaml')}
        >
          Download as YAML
        </button>
        <button
          type="button"
          className="button"
          onClick={() => void download('/api/v1/convention/sheet.xlsx', 'convention.xlsx', '*/*')}
        >
          Download as XLSX
        </button>
        {mayWrite && (
          <>
            <FileInput
              label="Convention file"
              accept=".yaml,.yml,.xlsx"
              says="Upload a file"
              onFile={(chosen) => void open(chosen)}
            />
            {stored && (
              <button type="button" className="button" disabled={discard.isPending} onClick={() => discard.mutate()}>
                Discard draft
              </button>
            )}
            <button
              type="button"
              className="button-main"
              disabled={!stored || state.kind !== 'saved' || weigh.isPending}
              onClick={() => weigh.mutate()}
            >
              Preview effect
            </button>
          </>
        )}
      </Head>
      {state.kind === 'refused' && (
        <p role="alert" className="flex items-center gap-3 border-b border-line px-5 py-2 text-error">
          {state.why}
          {state.overtaken && (
            <button type="button" className="button" onClick={() => void reload()}>
              Load their draft
            </button>
          )}
        </p>
      )}
      <div className="flex min-h-0 flex-1">
        <nav
          aria-label="Parts of the convention"
          className="flex w-56 shrink-0 flex-col gap-1 overflow-y-auto border-r border-line p-3"
        >
          <h2 className="px-2 text-xs font-medium text-quiet">Fields, in the order of the URL</h2>
          {document.fields.map((f, i) => (
            <span
              key={i}
              className="group flex items-center"
              draggable={mayWrite}
              onDragStart={() => setDragged(i)}
              onDragOver={(e) => e.preventDefault()}
              onDrop={() => {
                if (dragged !== null && dragged !== i) {
                  change({ ...document, fields: dropped(document.fields, dragged, i) });
                  show(String(i));
                }
                setDragged(null);
              }}
            >
              <button
                type="button"
                aria-current={field === f || undefined}
                className="min-w-0 flex-1 rounded px-2 py-1.5 text-left hover:bg-accent-wash aria-[current]:bg-accent-wash aria-[current]:font-medium"
                onClick={() => show(String(i))}
              >
                <span className="block truncate">{f.label || 'No label'}</span>
                <span className="block truncate font-mono text-2xs text-quiet">{f.key || 'no key yet'}</span>
              </button>
              {mayWrite && field === f && (
                <span className="flex flex-col">
                  <IconButton
                    label={`Move ${f.label} up`}
                    onClick={() => {
                      change({ ...document, fields: moved(document.fields, i, -1) });
                      if (i > 0) show(String(i - 1));
                    }}
                  >
                    <ChevronUp size={12} strokeWidth={1.5} />
                  </IconButton>
                  <IconButton
                    label={`Move ${f.label} down`}
                    onClick={() => {
                      change({ ...document, fields: moved(document.fields, i, 1) });
                      if (i < document.fields.length - 1) show(String(i + 1));
                    }}
                  >
                    <ChevronDown size={12} strokeWidth={1.5} />
                  </IconButton>
                </span>
              )}
            </span>
          ))}
          {mayWrite && (
            <button
              type="button"
              className="button-plain self-start"
              onClick={() => {
                change({
                  ...document,
                  fields: [...document.fields, { ...newField, key: `field_${document.fields.length + 1}` }],
                });
                show(String(document.fields.length));
              }}
            >
              Add field
            </button>
          )}
          <h2 className="mt-3 px-2 text-xs font-medium text-quiet">Also</h2>
          {Object.entries(sections).map(([where, name]) => (
            <button
              key={where}
              type="button"
              aria-current={at === where || undefined}
              className="rounded px-2 py-1.5 text-left hover:bg-accent-wash aria-[current]:bg-accent-wash aria-[current]:font-medium"
              onClick={() => show(where)}
            >
              {name}
            </button>
          ))}
        </nav>
        <div className="min-w-0 flex-1 overflow-y-auto bg-sheet">
          {field ? (
            <FieldEditor
              key={at}
              document={document}
              field={field}
              mayWrite={mayWrite}
              onChange={(next) =>
                change({ ...document, fields: replaced(document.fields, document.fields.indexOf(field), next) })
              }
              onRemove={() => {
                change({ ...document, fields: document.fields.filter((f) => f !== field) });
                show('0');
              }}
            />
          ) : at === 'choices' ? (
            <ChoiceEditor
              document={document}
              mayWrite={mayWrite}
              onChange={(choices) => change({ ...document, choices })}
            />
          ) : at === 'rules' ? (
            <RuleEditor
              document={document}
              mayWrite={mayWrite}
              onChange={(severities) => change({ ...document, severities })}
            />
          ) : at === 'carrying' ? (
            <CarryingEditor document={document} mayWrite={mayWrite} onChange={change} />
          ) : at === 'versions' ? (
            <VersionList
              mayWrite={mayWrite}
              onTake={(old, number) => {
                change(old);
                setMessage(`Version ${number} is now the draft; preview its effect before you publish.`);
              }}
            />
          ) : (
            <ChannelEditor
              channels={document.channels}
              neverReached={(stored ?? published).neverReached}
              overlaps={(stored ?? published).overlaps}
              mayWrite={mayWrite}
              onChange={(channels) => change({ ...document, channels })}
            />
          )}
        </div>
        {loaded ? (
          <FileDifference
            name={loaded.name}
            read={loaded.read}
            onTake={() => {
              change(loaded.read.document as ConventionDocument);
              setMessage(`${loaded.name} is now the draft; preview its effect before you publish.`);
              setLoaded(undefined);
            }}
            onClose={() => setLoaded(undefined)}
          />
        ) : effect ? (
          <EffectPanel
            effect={effect}
            publishing={publish.isPending}
            onPublish={() => publish.mutate(stored!.revision!)}
            onClose={() => setEffect(undefined)}
          />
        ) : (
          <ValueTest document={document} field={field} initial={search.get('try') ?? ''} />
        )}
      </div>
    </>
  );
}
