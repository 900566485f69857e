import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useMemo, useRef, useState } from 'react';
import { useSearchParams } from 'react-router';
import { api, dataOf, type ComposeAnswer, type Notice, type SavedLink } from '../../api/client';
import { copyText } from '../../parts/CopyButton';
import { Head } from '../../parts/Head';
import { useDebounced } from '../../parts/useDebounced';
import { useHotkey } from '../../parts/useHotkey';
import { usePerson } from '../../parts/person';
import { CellInspector } from './CellInspector';
import { ComposeGrid } from './ComposeGrid';
import { cellsOf, isAlike, repaired, requestOf, withOverride, type Cell } from './composition';
import { Sentence } from './Sentence';
import { useComposition } from './useComposition';

const mostLinks = 1_000;

/** Where links are built: a sentence, and the grid of what follows from it. */
export function Compose() {
  const person = usePerson();
  const queries = useQueryClient();
  const [search, setSearch] = useSearchParams();
  const [composition, change] = useComposition();
  const [saved, setSaved] = useState<Map<string, { request: string; link: SavedLink }>>(new Map());
  const [message, setMessage] = useState('');
  const lastTry = useRef({ body: '', key: '' });
  const selected = search.get('link');

  const placements = useQuery({
    queryKey: ['placements'],
    queryFn: async () => dataOf(await api.GET('/api/v1/placements')),
  });
  const campaigns = useQuery({
    queryKey: ['campaigns'],
    queryFn: async () => dataOf(await api.GET('/api/v1/campaigns')),
  });
  const fields = useQuery({
    queryKey: ['fields'],
    queryFn: async () => dataOf(await api.GET('/api/v1/convention/fields')),
  });

  const cells = cellsOf(composition).slice(0, mostLinks);
  const wanted = JSON.stringify(cells.map((cell) => [cell.key, requestOf(cell, composition)]));
  const asked = useDebounced(wanted, 80);
  const composed = useQuery({
    queryKey: ['compose', asked],
    queryFn: async () => {
      const pairs = JSON.parse(asked) as [string, ReturnType<typeof requestOf>][];
      const answer = dataOf(
        await api.POST('/api/v1/links/compose-many', { body: { links: pairs.map(([, request]) => request) } }),
      );
      return new Map(pairs.map(([key], i) => [key, answer.links[i]!]));
    },
    enabled: asked !== '[]',
    placeholderData: keepPreviousData,
  });
  const answers = useMemo(
    () => (asked === '[]' ? new Map<string, ComposeAnswer>() : (composed.data ?? new Map<string, ComposeAnswer>())),
    [asked, composed.data],
  );

  // A link that was saved and then changed is a new link.
  const savedNow = new Map(
    cells.flatMap((cell) => {
      const entry = saved.get(cell.key);
      return entry && entry.request === JSON.stringify(requestOf(cell, composition))
        ? [[cell.key, entry.link] as const]
        : [];
    }),
  );
  const toSave = cells.filter((cell) => answers.get(cell.key)?.ready && !savedNow.has(cell.key));
  const stopped = cells.filter((cell) => answers.get(cell.key)?.ready === false).length;
  const looks = cells.filter((cell) => answers.get(cell.key)?.notices.some((n) => n.severity === 'look')).length;
  const settled = asked === wanted && !composed.isFetching;
  const maySave = person.role !== 'Viewer';

  const save = useMutation({
    mutationFn: async (copy: boolean) => {
      const requests = toSave.map((cell) => requestOf(cell, composition));
      const body = JSON.stringify(requests);
      // The same links sent again, as when an answer was lost on the way, are one saving.
      if (lastTry.current.body !== body) lastTry.current = { body, key: attemptKey() };
      const answer = dataOf(
        await api.POST('/api/v1/links/many', {
          body: { links: requests },
          headers: { 'Idempotency-Key': lastTry.current.key },
        }),
      );
      const next = new Map(saved);
      const lines: string[] = [];
      answer.links.forEach((outcome, i) => {
        if (!outcome.saved) return;
        next.set(toSave[i]!.key, { request: JSON.stringify(requests[i]), link: outcome.saved });
        lines.push(outcome.saved.shortUrl ?? outcome.saved.link.url ?? '');
      });
      lastTry.current = { body: '', key: '' };
      setSaved(next);
      if (copy && lines.length) await copyText(lines.join('\n'));
      setMessage(
        `${answer.saved} ${answer.saved === 1 ? 'link' : 'links'} saved${copy && lines.length ? ' and copied' : ''}.`,
      );
      await queries.invalidateQueries({ queryKey: ['links'] });
    },
    onError: (error) => setMessage(error.message),
  });

  function trySave(copy: boolean) {
    if (maySave && settled && toSave.length && !save.isPending) save.mutate(copy);
  }
  useHotkey('Ctrl+Enter', () => trySave(true));
  useHotkey('c', () => {
    const url = selected ? answers.get(selected)?.url : undefined;
    if (url) void copyText(url).then(() => setMessage('Copied.'));
  });

  function select(key: string | null) {
    const params = new URLSearchParams(search);
    if (key) params.set('link', key);
    else params.delete('link');
    setSearch(params, { replace: true });
  }

  /** A pasted URL that carries tags is read back: the page goes into the sentence, the values become typed ones. */
  function readBack(text: string): boolean {
    const url = text.trim();
    const keys = fields.data?.map((f) => f.key) ?? [];
    if (
      /\s/.test(url) ||
      !keys.some((key) => url.toLowerCase().includes(`${key.toLowerCase().slice(0, 5)}`)) ||
      !/[?#]/.test(url)
    )
      return false;
    void (async () => {
      try {
        const read = dataOf(await api.POST('/api/v1/links/inspect', { body: { url } }));
        const values = Object.fromEntries(read.fields.filter((f) => f.value).map((f) => [f.key, f.value]));
        if (read.destination === null) {
          setMessage(read.notices[0]?.message ?? 'That address can’t be read.');
          return;
        }
        change({
          ...composition,
          pages: [...new Set([...composition.pages, read.destination])],
          common: { ...composition.common, ...values },
        });
        const faults = read.notices.filter((n) => n.severity !== 'note').length;
        setMessage(`Read back: ${Object.keys(values).length} fields${faults ? `, ${faults} faults mended` : ''}.`);
      } catch (error) {
        setMessage((error as Error).message);
      }
    })();
    return true;
  }

  const cell = cells.find((c) => c.key === selected);
  const answer = cell && answers.get(cell.key);
  const placementName = (id: string) => placements.data?.find((p) => p.id === id)?.name ?? '';
  const common = Object.entries(composition.common);

  const alikeCells = (notice: Notice): Cell[] =>
    cells.filter((c) => answers.get(c.key)?.notices.some((n) => isAlike(n, notice)));

  return (
    <>
      <Head
        title="Compose"
        state={
          cells.length === 0
            ? 'Choose where people come from and where they go; the words follow.'
            : `${cells.length} ${cells.length === 1 ? 'link' : 'links'} · ${looks} need a look`
        }
      />
      <Sentence
        composition={composition}
        onChange={change}
        placements={placements.data ?? []}
        campaigns={campaigns.data ?? []}
        onPasted={readBack}
      />
      {common.length > 0 && (
        <div className="flex flex-wrap items-center gap-2 border-b border-line px-5 py-1.5 text-xs">
          <span className="text-quiet">For all links:</span>
          {common.map(([key, value]) => (
            <span key={key} className="inline-flex items-center gap-1 font-mono">
              {key}={value}
              <button
                type="button"
                className="button-plain font-sans"
                aria-label={`Take back ${key}`}
                onClick={() => {
                  const { [key]: _, ...rest } = composition.common;
                  change({ ...composition, common: rest });
                }}
              >
                Take back
              </button>
            </span>
          ))}
        </div>
      )}
      <div className="flex min-h-0 flex-1">
        {cells.length === 0 ? (
          <Empty />
        ) : (
          <ComposeGrid
            cells={cells}
            answers={answers}
            saved={savedNow}
            placementName={placementName}
            selected={selected}
            onSelect={select}
            onRemove={(key) => change({ ...composition, removed: [...composition.removed, key] })}
          />
        )}
        {cell && answer && (
          <CellInspector
            title={placementName(cell.placement) || 'Link'}
            answer={answer}
            fields={fields.data ?? []}
            saved={savedNow.get(cell.key)}
            overridden={composition.overrides[cell.key] ?? {}}
            onOverride={(key, value) => change(withOverride(composition, cell.key, key, value))}
            onRepair={(notice) => {
              const next = repaired(composition, cell, notice);
              change(next);
              if (notice.repair?.field === null) select(null);
            }}
            onRepairAll={(notice) =>
              change(alikeCells(notice).reduce((all, c) => repaired(all, c, notice), composition))
            }
            alike={(notice) => alikeCells(notice).length}
            onClose={() => select(null)}
          />
        )}
      </div>
      <footer className="flex h-14 shrink-0 items-center gap-4 border-t border-line px-5">
        <p role="status" className="min-w-0 flex-1 truncate">
          {composed.isError
            ? composed.error.message
            : `${toSave.length} ready · ${stopped} stopped${savedNow.size ? ` · ${savedNow.size} saved` : ''}`}
          {composition.removed.length > 0 && (
            <button type="button" className="button-plain" onClick={() => change({ ...composition, removed: [] })}>
              Put {composition.removed.length} back
            </button>
          )}
          {message && <span className="ml-4 text-quiet">{message}</span>}
        </p>
        {maySave ? (
          <>
            <span className="caption hidden lg:inline">
              <kbd className="kbd">Ctrl Enter</kbd> saves and copies
            </span>
            <button
              type="button"
              className="button-main"
              disabled={!settled || toSave.length === 0 || save.isPending}
              onClick={() => trySave(false)}
            >
              Save {toSave.length}
            </button>
          </>
        ) : (
          <span className="caption">Your role may look and copy, not save.</span>
        )}
      </footer>
    </>
  );
}

/** A key nobody guesses for one attempt at saving. */
function attemptKey(): string {
  return [...crypto.getRandomValues(new Uint32Array(4))].map((n) => n.toString(36)).join('-');
}

function Empty() {
  return (
    <div className="flex flex-1 items-center justify-center bg-sheet p-8">
      <div className="max-w-md">
        <h2 className="mb-2 font-semibold">Nothing to build yet</h2>
        <ol className="list-decimal space-y-1 pl-5 text-quiet">
          <li>Choose the placements people will come from: one, or thirty.</li>
          <li>Paste the address of the page they should come to.</li>
          <li>Choose the campaign. The tags follow from the convention.</li>
        </ol>
        <p className="mt-3 text-quiet">Or paste a link that has tags already: it is read back, judged and mended.</p>
      </div>
    </div>
  );
}
