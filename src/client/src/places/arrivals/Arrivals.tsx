import { Search } from 'lucide-react';
import { useQuery } from '@tanstack/react-query';
import { lazy, Suspense, useEffect, useRef, useState } from 'react';
import { useSearchParams } from 'react-router';
import { Board, type BoardRow } from '../../parts/board/Board';
import { count, money, rate } from '../../parts/format';
import { Head } from '../../parts/Head';
import { PartTabs } from '../../parts/PartTabs';
import { dayOf } from '../../parts/days';
import { Select } from '../../parts/Select';
import { SeverityMark } from '../../parts/SeverityMark';
import { usePerson } from '../../parts/person';
import { useDebounced } from '../../parts/useDebounced';
import { useHotkey } from '../../parts/useHotkey';
import { useWatch } from '../../parts/watch/watching';
import { ArrivalsRuler } from './ArrivalsRuler';
import { conditionOf, partsOf, withCondition } from './conditions';
import { labelOf } from './dimensions';
import { FigureChoice } from './FigureChoice';
import { FilterBar } from './FilterBar';
import { savedViewsQuery } from './queries';
import { isOpen } from './range';
import { RangePicker } from './RangePicker';
import { RowInspector } from './RowInspector';
import { PageList } from './PageList';
import { RowsBy } from './RowsBy';
import { freshness, manyValues } from './sentences';
import { useOwnDimensions } from './useOwnDimensions';
import { conditionsOfRow, everything, useRows } from './useRows';
import { SavedViewMenu } from './SavedViewMenu';
import { comparedCampaigns, SideBySide } from './SideBySide';
import { NoteDialog } from './NoteDialog';
import { MoreMenu } from './MoreMenu';
import { addressOf, useView } from './useView';
import { parts, sizes } from './view';
import { VisitInspector } from './VisitInspector';
import { VisitList } from './VisitList';

const CountryMap = lazy(() => import('./CountryMap').then((m) => ({ default: m.CountryMap })));

/** Where the browser remembers the view that was open last. */
const lastView = 'arrivals-view';

/** The reports of tagged traffic: the ruler across the top, the board below it. The address is all of its state. */
export function Arrivals() {
  const person = usePerson();
  const { view, search, set } = useView();
  const own = useOwnDimensions();
  const { answer, error, rows, toggle } = useRows(view);
  const picked = search.getAll('pick');
  const [, setSearch] = useSearchParams();
  const { watching, watch } = useWatch();
  const [noted, setNoted] = useState<string | null>(null);
  const [text, setText] = useState(view.search);
  const settled = useDebounced(text, 200);
  const field = useRef<HTMLInputElement>(null);
  useEffect(() => {
    if (settled !== view.search) set({ search: settled || null });
    // What was typed is put into the address, not the other way.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [settled]);
  // Opened without an address, the place shows the view that was open last.
  const views = useQuery(savedViewsQuery());
  const bare = search.size === 0;
  useEffect(() => {
    const last = bare && views.data?.find((v) => v.id === localStorage.getItem(lastView));
    if (last) setSearch(new URLSearchParams(`${last.address}&view=${last.id}`), { replace: true });
  }, [bare, views.data, setSearch]);
  useHotkey('/', () => field.current?.focus());
  useHotkey('w', () => watch(!watching));
  useHotkey('n', () => set({ plain: view.plain ? null : '1' }));
  useHotkey('t', () => set({ tall: view.tall ? null : '1' }));

  function filterBy(conditions: string[]) {
    set({ where: conditions.reduce(withCondition, view.where), pick: null });
  }

  function onKey(key: string, row: BoardRow): boolean {
    const conditions = conditionsOfRow(row.id);
    if (key !== 'f' || conditions.length === 0) return false;
    filterBy(conditions);
    return true;
  }

  const empty = answer && answer.total.visits === 0 && !answer.total.clicks;
  const pages = answer ? Math.ceil(answer.found / view.size) : 1;
  return (
    <>
      <Head
        title="Arrivals"
        state={
          answer
            ? `${dayOf(view.range.from)} to ${dayOf(view.range.to)} · ${count(answer.total.visits)} visits${
                isOpen(view.range, person.today) ? freshness(answer.freshness) : ''
              }`
            : ''
        }
      >
        <SavedViewMenu
          address={addressOf(search)}
          open={search.get('view')}
          onOpen={(saved) => {
            localStorage.setItem(lastView, saved.id);
            setText(new URLSearchParams(saved.address).get('search') ?? '');
            setSearch(new URLSearchParams(`${saved.address}&view=${saved.id}`));
          }}
        />
        <RangePicker {...view} today={person.today} set={set} />
      </Head>
      <div className="flex min-h-0 flex-1">
        <div className="flex min-w-0 flex-1 flex-col">
          <ArrivalsRuler view={view} set={set} onNote={setNoted} />
          <div className="flex flex-wrap items-center gap-2 border-b border-line bg-page px-5 py-1.5 whitespace-nowrap max-sm:px-3">
            {view.part === 'board' && (
              <RowsBy rows={view.rows} own={own} onChange={(next) => set({ rows: next.join(','), pick: null })} />
            )}
            <FilterBar
              range={view.range}
              where={view.where}
              own={own}
              names={answer?.names ?? {}}
              onChange={(where) => set({ where })}
            />
            <span className="ml-auto flex items-center gap-2">
              {(view.part === 'board' || view.part === 'pages') && (
                <label className="relative max-sm:hidden">
                  <Search size={13} strokeWidth={1.5} className="absolute top-2 left-2 text-quiet" />
                  <input
                    ref={field}
                    className="input h-7 w-40 pl-7 text-xs"
                    placeholder="Search rows"
                    aria-label="Search rows"
                    value={text}
                    onChange={(e) => setText(e.target.value)}
                  />
                </label>
              )}
              {view.part === 'board' && (
                <FigureChoice
                  stations={view.stations}
                  columns={view.columns}
                  plain={view.plain}
                  onStations={(names) => set({ stations: names.join(',') })}
                  onColumns={(names) => set({ columns: names.join(',') })}
                  onPlain={(plain) => set({ plain: plain ? '1' : null })}
                  onReset={() => set({ stations: null, columns: null, plain: null })}
                />
              )}
              <PartTabs
                label="Parts of Arrivals"
                parts={Object.entries(parts) as [keyof typeof parts, string][]}
                at={view.part}
                onGo={(part) => set({ part: part === 'board' ? null : part, pick: null, visit: null })}
              />
              <MoreMenu
                view={view}
                rows={rows}
                onNote={() => setNoted(person.today)}
                onWatch={() => watch(!watching)}
              />
            </span>
          </div>
          {error && <p className="p-5 text-error">{error}</p>}
          {!!answer?.lost && (
            <p className="flex items-center gap-2 border-b border-line px-5 py-2">
              <SeverityMark severity="warning" /> {count(answer.lost)} events in this range could not be stored: neither
              the disk nor the database accepted them.
            </p>
          )}
          {answer?.manyValues.map((many) => (
            <p key={many.of + many.key} className="flex items-center gap-2 border-b border-line px-5 py-2">
              <SeverityMark severity="warning" /> {manyValues(many)}
            </p>
          ))}
          {view.part === 'visits' ? (
            <VisitList view={view} picked={search.get('visit')} onPick={(visit) => set({ visit })} />
          ) : view.part === 'pages' ? (
            <PageList
              view={view}
              onEntered={(page) =>
                set({ part: 'visits', where: withCondition(view.where, conditionOf('landingPage', page)) })
              }
            />
          ) : view.part === 'map' ? (
            <Suspense fallback={<div className="flex-1 bg-sheet" />}>
              <CountryMap
                view={view}
                picked={picked.length === 1 ? (partsOf(picked[0]!)?.value ?? null) : null}
                onPick={(code) => set({ pick: conditionOf('country', code) })}
                onFilter={(code) => filterBy([conditionOf('country', code)])}
              />
            </Suspense>
          ) : comparedCampaigns(view.compare).length > 1 ? (
            <SideBySide view={view} own={own} />
          ) : empty ? (
            <div className="flex-1 bg-sheet p-8">
              <h2 className="mb-2 font-semibold">No visits in this range</h2>
              <p className="max-w-lg text-quiet">
                {view.where.length > 0
                  ? 'Choose a longer range, or remove a filter.'
                  : 'Choose a longer range, or open one of your links: its visit appears here within seconds. A site is measured once its pages include the measuring script.'}
              </p>
            </div>
          ) : (
            <Board
              label="Arrivals"
              head={view.rows.map((r) => labelOf(r, own)).join(', then ')}
              rows={rows}
              stations={view.stations}
              columns={view.columns}
              plain={view.plain}
              sort={answer ? (view.sort ?? '-visits') : null}
              onSort={(sort) => set({ sort })}
              picked={picked.length ? picked.join('\n') : null}
              onPick={(row) =>
                row.id !== everything && !row.id.endsWith('\nrest') && set({ pick: conditionsOfRow(row.id) })
              }
              onToggle={toggle}
              onKey={onKey}
            />
          )}
          {answer && !empty && view.part === 'board' && comparedCampaigns(view.compare).length < 2 && (
            <div className="flex min-h-9 flex-wrap items-center gap-3 border-t border-line bg-page px-5 py-1 text-xs text-quiet max-sm:px-3">
              <span>
                {count(answer.found)} {answer.found === 1 ? 'row' : 'rows'}
              </span>
              {pages > 1 && (
                <span className="flex items-center gap-1">
                  <button
                    type="button"
                    className="button h-6 px-2"
                    disabled={view.page <= 1}
                    onClick={() => set({ page: String(view.page - 1) })}
                  >
                    Previous
                  </button>
                  page {view.page} of {pages}
                  <button
                    type="button"
                    className="button h-6 px-2"
                    disabled={view.page >= pages}
                    onClick={() => set({ page: String(view.page + 1) })}
                  >
                    Next
                  </button>
                </span>
              )}
              {answer.found > sizes[0]! && (
                <Select
                  bare
                  label="Rows on a page"
                  value={String(view.size)}
                  onChange={(size) => set({ size })}
                  options={sizes.map((n) => [String(n), `${count(n)} on a page`] as const)}
                />
              )}
              {answer.revenueElsewhere.length > 0 && (
                <span>and, apart, {answer.revenueElsewhere.map((m) => money(m)).join(', ')}</span>
              )}
              {answer.dailyVisitors && answer.shareWithId !== null && (
                <span className="ml-auto text-right">
                  {rate(answer.shareWithId)} of visits carry a visitor id; other visitors are counted once per day
                </span>
              )}
            </div>
          )}
        </div>
        {view.part === 'visits' && search.get('visit') && (
          <VisitInspector id={search.get('visit')!} onClose={() => set({ visit: null })} />
        )}
        {(view.part === 'board' || view.part === 'map') && picked.length > 0 && (
          <RowInspector
            range={view.range}
            where={view.where}
            conditions={picked}
            onFilter={() => filterBy(picked)}
            onClose={() => set({ pick: null })}
          />
        )}
      </div>
      {noted && <NoteDialog day={noted} onClose={() => setNoted(null)} />}
    </>
  );
}
