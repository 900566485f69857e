import { useQuery } from '@tanstack/react-query';
import { lazy, Suspense, useEffect, useState } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import { Board, type BoardRow } from '../../parts/board/Board';
import { count, counted } from '../../parts/format';
import { Head } from '../../parts/Head';
import { dayOf } from '../../parts/days';
import { SeverityMark } from '../../parts/SeverityMark';
import { usePerson } from '../../parts/person';
import { useHotkey } from '../../parts/useHotkey';
import { useWatch } from '../../parts/watch/watching';
import { ArrivalsBar } from './ArrivalsBar';
import { ArrivalsRuler } from './ArrivalsRuler';
import { BoardFoot } from './BoardFoot';
import { comparedCampaigns } from './compared';
import { conditionOf, withCondition } from './conditions';
import { creditSentence } from './credit';
import { labelOf } from './dimensions';
import { savedViewsQuery } from './queries';
import { isOpen } from './range';
import { RangePicker } from './RangePicker';
import { ledgerAddress } from './rowActions';
import { RowInspector } from './RowInspector';
import { PageList } from './PageList';
import { freshness, manyValues } from './sentences';
import { useOwnDimensions } from './useOwnDimensions';
import { conditionsOfRow, everything, useRows } from './useRows';
import { PathList } from './PathList';
import { PostingList } from './PostingList';
import { ProductList } from './ProductList';
import { SavedViewMenu } from './SavedViewMenu';
import { ShareDialog } from './ShareDialog';
import { SpotList } from './SpotList';
import { StepList } from './StepList';
import { SideBySide } from './SideBySide';
import { NoteDialog } from './NoteDialog';
import { addressOf, useView } from './useView';
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
  const { answer, error, rows, toggle } = useRows(view, person.today);
  const picked = search.getAll('pick');
  const [, setSearch] = useSearchParams();
  const navigate = useNavigate();
  const { watching, watch } = useWatch();
  const [noted, setNoted] = useState<string | null>(null);
  const [sharing, setSharing] = useState(false);
  // Opened without an address, the place shows the view that was open last.
  const views = useQuery(savedViewsQuery());
  const title = views.data?.find((v) => v.id === search.get('view'))?.name ?? '';
  const bare = search.size === 0;
  useEffect(() => {
    const last = bare && views.data?.find((v) => v.id === localStorage.getItem(lastView));
    if (last) setSearch(new URLSearchParams(`${last.address}&view=${last.id}`), { replace: true });
  }, [bare, views.data, setSearch]);
  useHotkey('w', () => watch(!watching));
  useHotkey('n', () => set({ plain: view.plain ? null : '1' }));
  useHotkey('t', () => set({ tall: view.tall ? null : '1' }));

  function filterBy(conditions: string[]) {
    set({ where: conditions.reduce(withCondition, view.where), pick: null });
  }

  function onKey(key: string, row: BoardRow): boolean {
    const conditions = conditionsOfRow(row.id);
    if (key === 'f' && conditions.length > 0) filterBy(conditions);
    else if (key === 'l') void navigate(ledgerAddress(view.range, [...view.where, ...conditions]));
    else return false;
    return true;
  }

  const empty = answer && answer.total.visits === 0 && !answer.total.clicks && !answer.total.cost;
  const besides = comparedCampaigns(view.compare).length > 1;
  return (
    <>
      <Head
        title="Arrivals"
        state={
          answer
            ? `${dayOf(view.range.from)} to ${dayOf(view.range.to)} · ${counted(answer.total.visits, 'visit')}${
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
            setSearch(new URLSearchParams(`${saved.address}&view=${saved.id}`));
          }}
        />
        <RangePicker {...view} today={person.today} set={set} />
      </Head>
      <div className="flex min-h-0 flex-1">
        <div className="flex min-w-0 flex-1 flex-col">
          <ArrivalsRuler view={view} set={set} onNote={setNoted} />
          <ArrivalsBar
            view={view}
            title={title}
            set={set}
            own={own}
            answer={answer}
            rows={rows}
            onNote={() => setNoted(person.today)}
            onWatch={() => watch(!watching)}
            onShare={() => setSharing(true)}
          />
          {error && <p className="p-5 text-error">{error}</p>}
          {!!answer?.lost && (
            <p className="flex items-center gap-2 border-b border-line px-5 py-2">
              <SeverityMark severity="warning" /> {count(answer.lost)} events in this range could not be stored: neither
              the disk nor the database accepted them.
            </p>
          )}
          {view.credit && view.part === 'board' && (
            <p className="border-b border-line px-5 py-1.5 text-quiet max-sm:px-3">{creditSentence(view.credit)}</p>
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
          ) : view.part === 'products' ? (
            <ProductList view={view} />
          ) : view.part === 'steps' ? (
            <StepList view={view} onSteps={(step) => set({ step })} />
          ) : view.part === 'spots' ? (
            <SpotList view={view} />
          ) : view.part === 'paths' ? (
            <PathList view={view} own={own} />
          ) : view.part === 'postings' ? (
            <PostingList view={view} own={own} />
          ) : view.part === 'map' ? (
            <Suspense fallback={<div className="flex-1 bg-sheet" />}>
              <CountryMap
                view={view}
                picked={picked.length === 1 ? picked[0]! : null}
                onPick={(condition) => set({ pick: condition })}
                onFilter={(condition) => filterBy([condition])}
              />
            </Suspense>
          ) : besides ? (
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
              sort={answer?.sort ?? null}
              onSort={(sort) => set({ sort })}
              picked={picked.length ? picked.join('\n') : null}
              onPick={(row) =>
                row.id !== everything && !row.id.endsWith('\nrest') && set({ pick: conditionsOfRow(row.id) })
              }
              onToggle={toggle}
              onKey={onKey}
            />
          )}
          {answer && !empty && view.part === 'board' && !besides && <BoardFoot view={view} set={set} answer={answer} />}
        </div>
        {view.part === 'visits' && search.get('visit') && (
          <VisitInspector id={search.get('visit')!} onClose={() => set({ visit: null })} />
        )}
        {(view.part === 'board' || view.part === 'map') && picked.length > 0 && (
          <RowInspector
            range={view.range}
            where={view.where}
            conditions={picked}
            credit={view.credit}
            onFilter={() => filterBy(picked)}
            onClose={() => set({ pick: null })}
          />
        )}
      </div>
      {sharing && (
        <ShareDialog address={addressOf(search)} name={title || 'Arrivals'} onClose={() => setSharing(false)} />
      )}
      {noted && <NoteDialog day={noted} onClose={() => setNoted(null)} />}
    </>
  );
}
