import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { addDays, format, parseISO } from 'date-fns';
import { Pause, Play, X } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import { live } from '../../api/live';
import { newestVisitsQuery } from '../../api/queries';
import { recentTrialsQuery } from '../../api/trials';
import { count, exact } from '../format';
import { usePerson } from '../person';
import { useTick } from '../useTick';
import { inOrder } from './inOrder';
import { present } from './present';

const dayBefore = (day: string): string => format(addDays(parseISO(day), -1), 'yyyy-MM-dd');

/** Visits that are looked through for those still there, and shown. */
const newest = 200;
const shown = 60;

/** Arrivals as they happen: each as it is sorted, and who is there now by source. Beside any place. */
export function Watch({ onClose }: { onClose: () => void }) {
  useTick(10_000);
  const { today } = usePerson();
  const [paused, setPaused] = useState(false);
  const visits = useQuery({
    ...newestVisitsQuery(dayBefore(today), today, newest),
    placeholderData: keepPreviousData,
    ...(!paused && live),
    enabled: !paused,
  });
  const trials = useQuery({
    ...recentTrialsQuery(),
    placeholderData: keepPreviousData,
    ...(!paused && live),
    enabled: !paused,
  });
  const arrived = inOrder(visits.data?.visits ?? [], trials.data ?? []).slice(0, shown);
  // eslint-disable-next-line react-hooks/purity -- the clock moves on with the tick
  const there = present(visits.data?.visits ?? [], Date.now());
  const now = there.reduce((sum, s) => sum + s.visits, 0);
  return (
    <aside
      aria-label="Watch"
      className="flex w-72 shrink-0 flex-col border-l border-line bg-sheet max-sm:fixed max-sm:inset-0 max-sm:z-40 max-sm:w-full"
    >
      <div className="flex h-14 shrink-0 items-center gap-1 border-b border-line px-4">
        <h2 className="flex-1 font-semibold">Watch</h2>
        <button
          type="button"
          className="flex size-7 items-center justify-center rounded text-quiet hover:text-ink"
          aria-pressed={paused}
          aria-label={paused ? 'Go on' : 'Pause'}
          onClick={() => setPaused(!paused)}
        >
          {paused ? <Play size={15} strokeWidth={1.5} /> : <Pause size={15} strokeWidth={1.5} />}
        </button>
        <button
          type="button"
          className="flex size-7 items-center justify-center rounded text-quiet hover:text-ink"
          aria-label="Close Watch"
          onClick={onClose}
        >
          <X size={15} strokeWidth={1.5} />
        </button>
      </div>
      <div className="min-h-0 flex-1 overflow-y-auto">
        {visits.isError && <p className="p-4 text-error">{visits.error.message}</p>}
        <section className="border-b border-line px-4 py-3">
          <h3 className="caption mb-1">
            {paused ? 'Paused' : now === 0 ? 'Nobody is there right now' : `${count(now)} there now`}
          </h3>
          <ul className="flex flex-col gap-0.5 tabular-nums">
            {there.slice(0, 6).map(({ source, visits: n }) => (
              <li key={source} className="relative flex justify-between gap-2 px-1">
                <span
                  aria-hidden
                  className="absolute inset-y-0 left-0 bg-accent-wash"
                  style={{ width: `${(100 * n) / there[0]!.visits}%` }}
                />
                <span className="relative min-w-0 truncate">{source}</span>
                <span className="relative">{count(n)}</span>
              </li>
            ))}
          </ul>
        </section>
        <ol aria-live="polite" aria-relevant="additions">
          {arrived.map((a) => (
            <li key={a.id} className="border-b border-line">
              <Link
                to={a.trial ? `/proof?trial=${a.id}` : `/arrivals?span=7d&part=visits&visit=${a.id}`}
                title={exact(a.at)}
                className="block px-4 py-2 leading-4 hover:bg-accent-wash"
              >
                <span className="flex justify-between gap-2">
                  <span className="truncate font-medium">{a.channel}</span>
                  <span className="caption shrink-0 tabular-nums">{format(new Date(a.at), 'HH:mm:ss')}</span>
                </span>
                {a.trial && <span className="caption block text-accent">Trial by {a.trial}, in no figure</span>}
                <span className="caption block truncate pb-0.5 font-mono text-2xs">
                  <span className="border-b-2 border-source">{a.source ?? '–'}</span>{' '}
                  {a.medium && <span className="border-b-2 border-medium">{a.medium}</span>}{' '}
                  {a.campaign && <span className="border-b-2 border-campaign">{a.campaign}</span>}
                </span>
                <span className="caption block truncate">{a.page}</span>
              </Link>
            </li>
          ))}
        </ol>
        {visits.data && arrived.length === 0 && <p className="p-4 text-quiet">Nobody has arrived since yesterday.</p>}
      </div>
    </aside>
  );
}
