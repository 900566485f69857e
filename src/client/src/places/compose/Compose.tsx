import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { type Notice } from '../../api/client';
import { useCampaigns, useFields, usePlacements } from '../../api/known';
import { copyText } from '../../parts/CopyButton';
import { Head } from '../../parts/Head';
import { PartTabs } from '../../parts/PartTabs';
import { useHotkey } from '../../parts/useHotkey';
import { firstLink } from '../../parts/composeAddress';
import { usePerson } from '../../parts/person';
import { AxisEditor } from './AxisEditor';
import { CellInspector } from './CellInspector';
import { CommonValues } from './CommonValues';
import { ComposeFoot } from './ComposeFoot';
import { ComposeGrid } from './ComposeGrid';
import {
  axisKeysOf,
  cellsOf,
  filledIn,
  isAlike,
  nothing,
  repaired,
  requestOf,
  withCommon,
  withOverride,
  type Cell,
} from './composition';
import { copyForms, linesOf, tableOf, type Copied } from './copying';
import { EmptyCompose } from './EmptyCompose';
import { MissingBar } from './MissingBar';
import { ReadBack } from './ReadBack';
import { Sentence } from './Sentence';
import { ShortDomainNote } from './ShortDomainNote';
import { ShareTexts } from './ShareTexts';
import { SnippetList } from './SnippetList';
import { useComposed } from './useComposed';
import { useComposition } from './useComposition';
import { useSaving } from './useSaving';
import { placementSetsQuery } from '../../api/queries';
import { useCopyKeys, usePasteAnywhere } from './composeKeys';
import { useReadBack } from './useReadBack';

const mostLinks = 1_000;
const views = [
  ['links', 'Links'],
  ['texts', 'Share texts'],
] as const;

/** Where links are built: a sentence, and the grid of what follows from it. */
export function Compose() {
  const person = usePerson();
  const [search, setSearch] = useSearchParams();
  const [composition, change] = useComposition();
  const [message, setMessage] = useState('');
  const [ticked, setTicked] = useState(new Set<string>());
  const view = search.get('view') === 'texts' ? 'texts' : 'links';
  const maySave = person.role !== 'viewer';

  const placements = usePlacements();
  const sets = useQuery(placementSetsQuery());
  const campaigns = useCampaigns();
  const fields = useFields();

  const keys = axisKeysOf(fields.data ?? []);
  const every = cellsOf(composition);
  const cells = every.slice(0, mostLinks);
  const selected = search.get('link') === firstLink ? (cells[0]?.key ?? null) : search.get('link');
  const requests = cells.map((cell) => ({ key: cell.key, request: requestOf(cell, composition, keys) }));
  const { answers, settled, error } = useComposed(requests);
  const { save, savedOf, progress } = useSaving(setMessage);

  const saved = new Map(
    requests.flatMap(({ key, request }) => {
      const link = savedOf(key, request);
      return link ? [[key, link] as const] : [];
    }),
  );
  const toSave = requests.filter(({ key }) => answers.get(key)?.ready && !saved.has(key));
  // With a slug of its own a link is meant to be another one, however alike.
  const existing = toSave.flatMap(({ key, request }) => {
    const answer = answers.get(key)!;
    return answer.existing && !request.slug && !request.codeSlug ? [{ key, request, answer }] : [];
  });
  const fresh = toSave.filter(({ key }) => !existing.some((e) => e.key === key));
  const stopped = cells.filter((cell) => answers.get(cell.key)?.ready === false).length;
  const looks = cells.filter((cell) => answers.get(cell.key)?.notices.some((n) => n.severity === 'warning')).length;
  const cell = cells.find((c) => c.key === selected);
  const answer = cell && answers.get(cell.key);
  const placementName = (id: string) => placements.data?.find((p) => p.id === id)?.name ?? '';
  const titleOf = (c: Cell) => (c.read ? 'Read back' : placementName(c.placement) || 'Link');

  function trySave(copy: boolean, again = false) {
    if (!maySave || !settled || toSave.length === 0 || save.isPending) return;
    save.mutate(again ? { links: toSave, used: [], copy } : { links: fresh, used: existing, copy });
  }

  /** What copying is about: the ticked links, else the selected one. */
  const toCopy: Copied[] = (ticked.size ? cells.filter((c) => ticked.has(c.key)) : cell ? [cell] : []).flatMap((c) => {
    const worked = answers.get(c.key);
    return worked ? [{ placement: titleOf(c), answer: worked, saved: saved.get(c.key) }] : [];
  });
  function copy(text: string, what: string) {
    if (text) void copyText(text).then(() => setMessage(`${what} copied.`));
    else setMessage(`There is no ${what.toLowerCase()} to copy yet.`);
  }
  useHotkey('Ctrl+Enter', () => view === 'links' && trySave(true));
  useCopyKeys((key) => {
    const form = copyForms.find((f) => f.key === key);
    if (view !== 'links' || toCopy.length === 0) return;
    if (form) copy(linesOf(toCopy, form), toCopy.length === 1 ? form.name : `${toCopy.length} lines`);
    else if (key === 't') copy(tableOf(toCopy), 'Table');
  });

  function set(key: string, value: string | null) {
    const params = new URLSearchParams(search);
    if (value) params.set(key, value);
    else params.delete(key);
    setSearch(params, { replace: true });
  }
  const select = (key: string | null) => set('link', key);

  const { pasted, setPasted, readBack, take } = useReadBack({
    composition,
    change,
    isEmpty: cells.length === 0,
    mostLinks,
    onSay: setMessage,
  });
  usePasteAnywhere(readBack);

  const alikeCells = (notice: Notice): Cell[] =>
    cells.filter((c) => answers.get(c.key)?.notices.some((n) => isAlike(n, notice)));
  const state =
    every.length > mostLinks
      ? `The first ${mostLinks} of ${every.length} links; remove pages or placements.`
      : cells.length === 0
        ? 'Choose where people come from and where they go; the tags follow.'
        : `${cells.length} ${cells.length === 1 ? 'link' : 'links'} · ${looks} need a look`;

  const parts = (
    <PartTabs
      label="Parts of Compose"
      parts={views}
      at={view}
      onGo={(name) => set('view', name === 'texts' ? name : null)}
    />
  );
  if (view === 'texts')
    return (
      <ShareTexts
        parts={parts}
        campaigns={campaigns.data ?? []}
        campaign={composition.campaign}
        onCampaign={(campaign) => change({ ...composition, campaign })}
      />
    );

  return (
    <>
      <Head title="Compose" state={state}>
        {(cells.length > 0 || composition.removed.length > 0) && (
          <button
            type="button"
            className="button"
            onClick={() => {
              change(nothing);
              setTicked(new Set());
            }}
          >
            Clear
          </button>
        )}
        {parts}
      </Head>
      <Sentence
        composition={composition}
        onChange={change}
        placements={placements.data ?? []}
        sets={sets.data ?? []}
        campaigns={campaigns.data ?? []}
        mayWrite={maySave}
        onPasted={readBack}
      />
      <AxisEditor composition={composition} placements={placements.data ?? []} onChange={change} />
      <CommonValues composition={composition} fields={fields.data ?? []} onChange={change} />
      {cells.length > 0 && <ShortDomainNote domain={composition.shortDomain} />}
      <MissingBar
        cells={cells}
        answers={answers}
        fields={fields.data ?? []}
        onFill={(lacking, key, value) => change(filledIn(composition, lacking, key, value))}
      />
      <div className="flex min-h-0 flex-1">
        {pasted.length > 0 ? (
          <ReadBack
            links={pasted}
            onTake={take}
            onLeave={(link) => setPasted(pasted.filter((p) => p !== link))}
            onLeaveAll={() => setPasted([])}
          />
        ) : cells.length > 0 ? (
          <ComposeGrid
            cells={cells}
            answers={answers}
            saved={saved}
            placementName={placementName}
            contentKey={keys.content}
            selected={selected}
            ticked={ticked}
            onSelect={select}
            onTick={(some, on) =>
              setTicked(on ? new Set([...ticked, ...some]) : new Set([...ticked].filter((k) => !some.includes(k))))
            }
            onRemove={(some) => {
              change({ ...composition, removed: [...composition.removed, ...some] });
              setTicked(new Set());
            }}
          />
        ) : composition.placements.length > 0 ? (
          <SnippetList composition={composition} placements={placements.data ?? []} />
        ) : (
          <EmptyCompose />
        )}
        {cell && answer && pasted.length === 0 && (
          <CellInspector
            title={titleOf(cell)}
            answer={answer}
            fields={fields.data ?? []}
            saved={saved.get(cell.key)}
            overridden={composition.overrides[cell.key] ?? {}}
            links={cells.filter((c) => !c.read).length}
            name={composition.names[cell.key] ?? {}}
            onName={(name) => change({ ...composition, names: { ...composition.names, [cell.key]: name } })}
            request={requestOf(cell, composition, keys)}
            shortDomain={composition.shortDomain}
            onShortDomain={(shortDomain) => change({ ...composition, shortDomain })}
            onOverride={(key, value) => change(withOverride(composition, cell.key, key, value))}
            onForAll={(key, value) => change(withCommon(composition, key, value))}
            onRepair={(notice) => {
              change(repaired(composition, cell, notice));
              if (notice.repair?.field === null && !cell.read) select(null);
            }}
            onRepairAll={(notice) =>
              change(alikeCells(notice).reduce((all, c) => repaired(all, c, notice), composition))
            }
            alike={(notice) => alikeCells(notice).length}
            onClose={() => select(null)}
          />
        )}
      </div>
      <ComposeFoot
        ready={toSave.length}
        existing={existing.length}
        stopped={stopped}
        saved={saved.size}
        removed={composition.removed.length}
        ticked={ticked.size}
        message={error ? `${error.message} Your input is kept; the app tries again automatically.` : message}
        progress={progress}
        maySave={maySave}
        canSave={settled && toSave.length > 0 && !save.isPending}
        onSave={() => trySave(false)}
        onSaveAgain={() => trySave(false, true)}
        onPutBack={() => change({ ...composition, removed: [] })}
        onUntick={() => setTicked(new Set())}
        onCopyLines={() =>
          copy(
            linesOf(toCopy, saved.size ? copyForms[1] : copyForms[0]) || linesOf(toCopy, copyForms[0]),
            `${toCopy.length} lines`,
          )
        }
        onCopyTable={() => copy(tableOf(toCopy), 'Table')}
      />
    </>
  );
}
