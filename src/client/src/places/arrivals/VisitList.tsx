import { useInfiniteQuery } from '@tanstack/react-query';
import { format } from 'date-fns';
import type { Schema } from '../../api/client';
import { live } from '../../api/live';
import { dayOf } from '../../parts/days';
import { ago, count, duration, exact } from '../../parts/format';
import { usePerson } from '../../parts/person';
import { useTick } from '../../parts/useTick';
import { visitsQuery } from './queries';
import { isOpen } from './range';
import { rowName } from './rowName';
import type { View } from './view';

interface VisitListProps {
  view: View;
  picked: string | null;
  onPick: (id: string) => void;
}

/** When a visit began: how long ago today, else day and time. */
const when = (moment: string): string =>
  Date.now() - Date.parse(moment) < 3_600_000 ? ago(moment) : format(new Date(moment), 'd MMM, HH:mm');

/** Where a visit came from, in the words of its tags. */
export const cameBy = (v: Schema['VisitAnswer']): string =>
  [v.source ?? 'no source', v.medium].filter(Boolean).join(' / ') + (v.printed ? ' · printed code' : '');

/** Single visits, the newest first. */
export function VisitList({ view, picked, onPick }: VisitListProps) {
  useTick(30_000);
  const { today } = usePerson();
  const visits = useInfiniteQuery({
    ...visitsQuery(view.range, view.where),
    ...(isOpen(view.range, today) && live),
  });
  const rows = visits.data?.pages.flatMap((p) => p.visits) ?? [];
  const rawFrom = visits.data?.pages[0]?.rawFrom;
  if (visits.isError) return <p className="flex-1 bg-sheet p-5 text-error">{visits.error.message}</p>;
  return (
    <div className="min-h-0 flex-1 overflow-auto bg-sheet">
      {rawFrom && (
        <p className="border-b border-line px-5 py-2 text-quiet">
          Visits are kept one by one from {dayOf(rawFrom)} on; Rows still have those before it.
        </p>
      )}
      {visits.data && rows.length === 0 ? (
        <div className="p-8">
          <h2 className="mb-2 font-semibold">No visits in this range</h2>
          <p className="text-quiet">Choose a longer range{view.where.length > 0 && ', or remove a filter'}.</p>
        </div>
      ) : (
        <table aria-label="Visits" className="w-full border-separate border-spacing-0 tabular-nums">
          <thead className="sticky top-0 z-10 bg-sheet text-xs text-quiet">
            <tr className="[&>th]:border-b [&>th]:border-line [&>th]:px-2 [&>th]:py-2 [&>th]:text-left [&>th]:font-medium">
              <th scope="col" className="!pl-5">
                Began
              </th>
              <th scope="col">Channel</th>
              <th scope="col">Came by</th>
              <th scope="col">Campaign</th>
              {!picked && <th scope="col">First page</th>}
              <th scope="col" className="!text-right">
                Pages
              </th>
              <th scope="col" className="!text-right">
                Time
              </th>
              <th scope="col" className="!text-right">
                Conversions
              </th>
              {!picked && (
                <th scope="col" className="!pr-5">
                  From
                </th>
              )}
            </tr>
          </thead>
          <tbody>
            {rows.map((v, i) => (
              <tr
                key={v.id}
                tabIndex={v.id === picked || (i === 0 && !rows.some((r) => r.id === picked)) ? 0 : -1}
                aria-selected={v.id === picked}
                onClick={() => onPick(v.id)}
                onKeyDown={(e) => {
                  const next =
                    e.key === 'ArrowDown'
                      ? e.currentTarget.nextElementSibling
                      : e.key === 'ArrowUp'
                        ? e.currentTarget.previousElementSibling
                        : null;
                  if (e.key === 'Enter') onPick(v.id);
                  else if (next instanceof HTMLElement) next.focus();
                  else return;
                  e.preventDefault();
                }}
                className="h-[34px] cursor-pointer whitespace-nowrap hover:bg-accent-wash aria-selected:bg-accent-wash [&>td]:border-b [&>td]:border-line [&>td]:px-2"
              >
                <td className="!pl-5" title={exact(v.startedAt)}>
                  {when(v.startedAt)}
                </td>
                <td className="max-w-32 truncate">{v.channel}</td>
                <td className="max-w-44 truncate">{cameBy(v)}</td>
                <td className="max-w-44 truncate">{v.campaign ?? <span className="text-quiet">–</span>}</td>
                {!picked && (
                  <td className="max-w-48 truncate" title={v.landingPage}>
                    {v.landingPage}
                  </td>
                )}
                <td className="text-right">{count(v.pageViews)}</td>
                <td className="text-right">{duration(v.seconds)}</td>
                <td className="text-right">
                  {v.conversions > 0 ? count(v.conversions) : <span className="text-quiet">–</span>}
                </td>
                {!picked && (
                  <td className="max-w-36 truncate !pr-5">
                    {[v.country ? rowName('country', v.country) : null, v.device].filter(Boolean).join(', ')}
                  </td>
                )}
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {visits.hasNextPage && (
        <div className="p-3 text-center">
          <button
            type="button"
            className="button"
            disabled={visits.isFetchingNextPage}
            onClick={() => void visits.fetchNextPage()}
          >
            Show more
          </button>
        </div>
      )}
    </div>
  );
}
