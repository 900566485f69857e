import { useMutation } from '@tanstack/react-query';
import { ChevronDown, ChevronUp } from 'lucide-react';
import { useRef, useState } from 'react';
import { useSearchParams } from 'react-router';
import { api, dataOf, type Schema } from '../../api/client';
import { ago } from '../../parts/format';
import { Head } from '../../parts/Head';
import { usePerson } from '../../parts/person';
import { ChannelEditor, IconButton } from './ChannelEditor';
import { moved, newField, replaced } from './document';
import { EffectPanel } from './EffectPanel';
import { FieldEditor } from './FieldEditor';
import { TryingBench } from './TryingBench';
import { useDraft } from './useDraft';

/** Where the convention is written: fields and their words, channels, a bench to try them on, and what a change would do. */
export function Conventions() {
  const person = usePerson();
  const mayWrite = person.role === 'Owner';
  const [search, setSearch] = useSearchParams();
  const { published, stored, document, change, state, reload } = useDraft();
  const [effect, setEffect] = useState<Schema['EffectAnswer']>();
  const [message, setMessage] = useState('');
  const file = useRef<HTMLInputElement>(null);
  const at = search.get('at') ?? '0';
  const show = (where: string) => setSearch({ at: where }, { replace: true });

  const weigh = useMutation({
    mutationFn: async () => dataOf(await api.POST('/api/v1/convention/effect')),
    onSuccess: setEffect,
    onError: (error) => setMessage(error.message),
  });
  const publish = useMutation({
    mutationFn: async () =>
      dataOf(await api.POST('/api/v1/convention/publish', { params: { query: { revision: stored!.revision } } })),
    onSuccess: async (now) => {
      setEffect(undefined);
      setMessage(`Version ${now.number} holds.`);
      await reload();
    },
    onError: (error) => setMessage(error.message),
  });
  const discard = useMutation({
    mutationFn: async () => dataOf(await api.POST('/api/v1/convention/discard')),
    onSuccess: async () => {
      setEffect(undefined);
      await reload();
    },
  });

  async function download() {
    const answer = await fetch(`/api/v1/convention${stored ? '?version=draft' : ''}`, {
      headers: { Accept: 'application/yaml' },
    });
    const link = window.document.createElement('a');
    link.href = URL.createObjectURL(await answer.blob());
    link.download = 'convention.yaml';
    link.click();
    URL.revokeObjectURL(link.href);
  }

  async function upload(chosen: File) {
    try {
      const text = await chosen.text();
      dataOf(
        await api.PUT('/api/v1/convention', {
          body: text as unknown as Schema['SaveDraft'],
          bodySerializer: () => text,
          headers: { 'Content-Type': 'application/yaml' },
        }),
      );
      await reload();
      setMessage(`${chosen.name} is the draft now; see its effect before you publish.`);
    } catch (error) {
      setMessage((error as Error).message);
    }
  }

  if (!document || !published) return <Head title="Conventions" state="" />;
  const index = Number(at);
  const field = at === 'channels' ? undefined : document.fields[Number.isInteger(index) ? index : 0];
  const stateLine = stored
    ? `Version ${published.number} holds · a draft by ${stored.savedBy}${state.kind === 'saving' ? ', saving …' : state.kind === 'saved' ? ', saved' : ', not saved'}`
    : `Version ${published.number} holds${published.publishedAt ? `, published ${ago(published.publishedAt)}` : ''}`;

  return (
    <>
      <Head title="Conventions" state={message ? `${stateLine} · ${message}` : stateLine}>
        <button type="button" className="button" onClick={() => void download()}>
          Download as YAML
        </button>
        {mayWrite && (
          <>
            <button type="button" className="button" onClick={() => file.current?.click()}>
              Load a file
            </button>
            <input
              ref={file}
              type="file"
              accept=".yaml,.yml"
              className="hidden"
              aria-label="Convention file"
              onChange={(e) => {
                const chosen = e.target.files?.[0];
                e.target.value = '';
                if (chosen) void upload(chosen);
              }}
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
              See effect
            </button>
          </>
        )}
      </Head>
      {state.kind === 'refused' && (
        <p role="alert" className="flex items-center gap-3 border-b border-line px-5 py-2 text-stop">
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
            <span key={i} className="group flex items-center">
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
              Add a field
            </button>
          )}
          <h2 className="mt-3 px-2 text-xs font-medium text-quiet">Sorting</h2>
          <button
            type="button"
            aria-current={at === 'channels' || undefined}
            className="rounded px-2 py-1.5 text-left hover:bg-accent-wash aria-[current]:bg-accent-wash aria-[current]:font-medium"
            onClick={() => show('channels')}
          >
            Channels
            <span className="caption block">{document.channels.length} rows, first claim wins</span>
          </button>
        </nav>
        <div className="min-w-0 flex-1 overflow-y-auto bg-sheet">
          {field ? (
            <FieldEditor
              key={at}
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
          ) : (
            <ChannelEditor
              channels={document.channels}
              neverReached={(stored ?? published).neverReached}
              mayWrite={mayWrite}
              onChange={(channels) => change({ ...document, channels })}
            />
          )}
        </div>
        {effect ? (
          <EffectPanel
            effect={effect}
            publishing={publish.isPending}
            onPublish={() => publish.mutate()}
            onClose={() => setEffect(undefined)}
          />
        ) : (
          <TryingBench document={document} field={field} />
        )}
      </div>
    </>
  );
}
