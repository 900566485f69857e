import { keepPreviousData, useQuery, type UseQueryOptions } from '@tanstack/react-query';
import { useCallback, useMemo, useState } from 'react';
import type { ArrivalsAnswer, Schema } from '../../api/client';
import { Board } from '../../parts/board/Board';
import { isMoney } from '../../parts/board/measures';
import { dayOf } from '../../parts/days';
import { count, counted, rate } from '../../parts/format';
import { Paging } from '../../parts/Paging';
import { Ruler } from '../../parts/ruler/Ruler';
import { within } from '../../parts/ruler/rulerScale';
import { comparedCampaigns } from '../arrivals/compared';
import { conditionSays, conditionsOf } from '../arrivals/conditions';
import { labelOf } from '../arrivals/dimensions';
import { comparedWith, isOpen } from '../arrivals/range';
import { ReportContext, type Report } from '../arrivals/report';
import { freshness } from '../arrivals/sentences';
import { SideBySide } from '../arrivals/SideBySide';
import { useRows } from '../arrivals/useRows';
import { viewOf, type View } from '../arrivals/view';
import { creditSentence } from '../arrivals/credit';
import { sharedArrivalsQuery } from './queries';
import { ResultsHead } from './Results';

interface ViewResultsProps {
  token: string;
  about: Schema['ResultsAbout'];
  /** The view's settings. */
  address: string;
}

/** A view of Arrivals for somebody without an account: its rows can be opened and ordered, and nothing else of it changes. */
export function ViewResults({ token, about, address }: ViewResultsProps) {
  const [sort, setSort] = useState<string | null>(null);
  const [page, setPage] = useState(1);
  const view = useMemo((): View => {
    const read = viewOf(new URLSearchParams(address), about.today);
    const shown = <T extends string>(names: T[]) => names.filter((n) => about.currency !== null || !isMoney(n));
    const kept = sort ?? read.sort;
    return {
      ...read,
      stations: shown(read.stations),
      columns: shown(read.columns),
      sort: kept && (about.currency !== null || !isMoney(kept.replace(/^-/, ''))) ? kept : null,
      size: Math.min(read.size, 500),
      part: 'board',
      page,
    };
  }, [address, about, sort, page]);
  const report = useCallback<Report>(
    ({ open, asked: { measures, sort: order, size, page: at } }) =>
      sharedArrivalsQuery(token, {
        ...(open.length > 0 && { open }),
        ...(measures && { measures }),
        ...(order && { sort: order }),
        ...(size && { size: Math.min(size, 500) }),
        ...(at && { page: at }),
      }) as UseQueryOptions<ArrivalsAnswer>,
    [token],
  );
  return (
    <ReportContext value={report}>
      <Shown token={token} about={about} view={view} onSort={setSort} onPage={setPage} />
    </ReportContext>
  );
}

interface ShownProps {
  token: string;
  about: Schema['ResultsAbout'];
  view: View;
  onSort: (sort: string) => void;
  onPage: (page: number) => void;
}

function Shown({ token, about, view, onSort, onPage }: ShownProps) {
  const own = Object.entries(about.labels).map(([name, label]) => ({ name, label }));
  const { answer, error, rows, toggle } = useRows(view, about.today);
  const extent = useMemo(() => within(view.range), [view.range]);
  const course = useQuery({
    ...sharedArrivalsQuery(token, { series: extent.unit, measures: 'visits' }),
    placeholderData: keepPreviousData,
  });
  const points = useMemo(() => new Map(course.data?.series.map((p) => [p.day, p.visits])), [course.data]);
  const campaigns = comparedCampaigns(view.compare);
  const compared = campaigns.length > 0 ? null : comparedWith(view.compare, view.range);
  const filters = conditionsOf(view.where).map((c) => conditionSays(c, own, answer?.names[c.field]));
  return (
    <main className="flex h-dvh flex-col">
      <ResultsHead title={about.title} workspace={about.workspace}>
        {dayOf(view.range.from)} to {dayOf(view.range.to)}
        {answer && ` · ${counted(answer.total.visits, 'visit')}`}
        {filters.length > 0 && ` · only visits where ${filters.join(' and ')}`}
        {view.credit && ` · ${creditSentence(view.credit)}`}
        {compared && ` · compared with ${dayOf(compared.from)} to ${dayOf(compared.to)}`}
        {answer && isOpen(view.range, about.today) && freshness(answer.freshness)}
      </ResultsHead>
      <Ruler extent={extent} counts="Visits" points={points} range={view.range} today={about.today} />
      {error && <p className="p-5 text-error">{error}</p>}
      {campaigns.length > 1 ? (
        <SideBySide view={view} own={own} without={about.currency === null ? isMoney : undefined} />
      ) : (
        <Board
          label="Results"
          head={view.rows.map((r) => labelOf(r, own)).join(', then ')}
          rows={rows}
          stations={view.stations}
          columns={view.columns}
          plain={view.plain}
          sort={answer?.sort ?? null}
          onSort={onSort}
          onToggle={toggle}
        />
      )}
      {answer && campaigns.length < 2 && (
        <footer className="flex min-h-9 flex-wrap items-center gap-3 border-t border-line px-5 py-1 text-xs text-quiet max-sm:px-3">
          <span>
            {count(answer.found)} {answer.found === 1 ? 'row' : 'rows'}
          </span>
          <Paging page={view.page} pages={Math.ceil(answer.found / view.size)} onGo={onPage} />
          {answer.dailyVisitors && answer.shareWithId !== null && (
            <span>
              {rate(answer.shareWithId)} of visits carry a visitor id; other visitors are counted once per day
            </span>
          )}
          <span className="ml-auto">Days are those of {about.timeZone}.</span>
        </footer>
      )}
    </main>
  );
}
