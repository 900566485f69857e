import { useQuery } from '@tanstack/react-query';
import type { Schema } from '../../api/client';
import { LinkBoard } from '../../parts/board/LinkBoard';
import type { MeasureName } from '../../parts/board/measures';
import { dayOf } from '../../parts/days';
import { count } from '../../parts/format';
import { CountRuler } from '../../parts/ruler/CountRuler';
import { LinkShares } from '../ledger/LinkFigures';
import { sharedArrivalsQuery, sharedCountsQuery } from './queries';
import { ResultsHead } from './Results';

const stations: MeasureName[] = ['clicks', 'visits', 'stayed', 'convertingVisits'];
const columns: MeasureName[] = ['scans', 'secondsPerVisit'];

/** One link's figures for somebody without an account: never any money. */
export function LinkResults({ token, about }: { token: string; about: Schema['ResultsAbout'] }) {
  const counts = useQuery(sharedCountsQuery(token));
  const line = useQuery(sharedArrivalsQuery(token, { measures: [...stations, ...columns].join(',') }));
  const course = useQuery(sharedArrivalsQuery(token, { series: 'day', measures: 'visits' }));
  const month = counts.data?.month;
  const first = month?.series[0]?.from.slice(0, 10) ?? about.today;
  const visits = course.data?.series.filter((p) => p.day >= first);
  const failed = counts.error ?? line.error ?? course.error;
  const all = counts.data?.all;
  const people = all ? all.clicks + all.scans : 0;
  const notPeople = all ? Object.values(all.others).reduce((sum, n) => sum + n, 0) : 0;
  return (
    <main className="mx-auto max-w-5xl pb-10">
      <ResultsHead title={about.title} workspace={about.workspace}>
        {about.since && `Since ${dayOf(about.since)}`}
        {all &&
          (people > 0
            ? ` · used ${count(people)} times by people`
            : all.visits > 0
              ? ` · ${count(all.visits)} visits arrived`
              : ' · nobody has used this link yet')}
      </ResultsHead>
      {failed && <p className="p-5 text-error">{failed.message}</p>}
      {month && visits && <CountRuler counts={month} visits={visits} today={about.today} />}
      {line.data && (
        <LinkBoard
          label="This link"
          name="Since it was made"
          figures={line.data.total}
          stations={stations}
          columns={columns}
        />
      )}
      {all && (
        <div className="flex flex-col gap-4 px-5 pt-5 max-sm:px-3">
          {people > 0 && <LinkShares counts={all} zone={about.timeZone} />}
          <p className="text-quiet">
            {notPeople > 0 && `Crawlers and previews, ${count(notPeople)} hits, are left out. `}
            Days and hours are those of {about.timeZone}.
          </p>
        </div>
      )}
    </main>
  );
}
