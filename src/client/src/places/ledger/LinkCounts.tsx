import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { api, dataOf, type Schema } from '../../api/client';
import { CopyButton } from '../../parts/CopyButton';
import { count, exact, rate } from '../../parts/format';
import { dayOf } from '../../parts/days';
import { DateField } from '../../parts/DateField';
import { PartTabs } from '../../parts/PartTabs';
import { usePerson } from '../../parts/person';
import { SeverityMark } from '../../parts/SeverityMark';
import { linkCountsQuery } from './queries';

const ranges = [
  ['day', '24 hours'],
  ['week', '7 days'],
  ['month', '30 days'],
  ['all', 'All time'],
  ['own', 'From … to'],
] as const;
type Range = (typeof ranges)[number][0];

const weekdays = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'];
const others: Record<string, string> = {
  Crawler: 'crawlers',
  Preview: 'previews in chats',
  DoubleTap: 'double taps',
  Prefetch: 'fetched ahead',
  Head: 'header requests',
};

/** What was counted on a link's short links: over time, by country, device, referrer and hour of the week. */
export function LinkCounts({ linkId }: { linkId: string }) {
  const [range, setRange] = useState<Range>('month');
  const [from, setFrom] = useState('');
  const [to, setTo] = useState('');
  const ready = range !== 'own' || (from && to);
  const results = useQuery({
    ...linkCountsQuery(linkId, range === 'own' ? { range, from, to } : { range }),
    enabled: !!ready,
    placeholderData: keepPreviousData,
    refetchInterval: 10_000,
    retry: false,
  });
  const r = results.data;
  const c = r?.counts;
  const people = c ? c.clicks + c.scans : 0;
  return (
    <div className="flex flex-col gap-6">
      <div className="flex flex-wrap items-center gap-3">
        <PartTabs label="Range" parts={ranges} at={range} onGo={setRange} />
        {range === 'own' && (
          <>
            <DateField label="First day" value={from} onChange={setFrom} />
            <DateField label="Last day" value={to} onChange={setTo} />
          </>
        )}
        <span className="flex-1" />
        {r && <Share linkId={linkId} address={r.sharedAt} />}
      </div>
      {results.isError && (
        <p role="alert" className="text-error">
          {results.error.message}
        </p>
      )}
      {r && r.reuse.length > 0 && <Reuse reuse={r.reuse} />}
      {c && (
        <>
          <dl className="flex flex-wrap gap-x-10 gap-y-3 tabular-nums">
            <Figure name="Clicks in texts" value={count(c.clicks)} />
            <Figure name="Scans of the code" value={count(c.scans)} />
            <Figure
              name={c.unit === 'hour' ? 'Unique' : 'Daily visitors, added up'}
              value={count(c.unique)}
              more="A visitor is known for one day"
            />
            <Figure
              name="Visits that arrived"
              value={count(c.visits)}
              more={
                c.visitsDue > 0
                  ? `${rate(c.visits / c.visitsDue)} of ${count(c.visitsDue)} expected; repeated clicks by one visitor within 30 minutes are one visit`
                  : undefined
              }
            />
            <Figure
              name="Not people"
              value={count(Object.values(c.others).reduce((sum, n) => sum + n, 0))}
              more={Object.entries(c.others)
                .map(([kind, n]) => `${count(n)} ${others[kind] ?? kind}`)
                .join(', ')}
            />
          </dl>
          <Series counts={c} />
          {people === 0 ? (
            <p className="text-quiet">No clicks or scans in this range.</p>
          ) : (
            <div
              className={`grid gap-8 ${c.places.length ? 'grid-cols-[repeat(2,minmax(0,1fr))_minmax(300px,1.3fr)]' : 'grid-cols-[repeat(3,minmax(0,1fr))_minmax(300px,1.3fr)]'}`}
            >
              <Shares title="Country" rows={c.countries} total={people} empty="not known" nameOf={countryName} />
              {c.places.length > 0 && <Shares title="Town" rows={c.places} total={people} empty="not known" />}
              <Shares title="Device" rows={c.devices} total={people} empty="not known" />
              <Shares title="Referrer" rows={c.referrers} total={people} empty="no referrer" />
              <Week hours={c.weekHours} zone={r!.timeZone} />
            </div>
          )}
        </>
      )}
    </div>
  );
}

function Figure({ name, value, more }: { name: string; value: string; more?: string }) {
  return (
    <div>
      <dt className="caption">{name}</dt>
      <dd className="text-xl font-semibold">{value}</dd>
      {more && <dd className="caption">{more}</dd>}
    </div>
  );
}

/** Clicks and scans over time, as bars from zero. */
function Series({ counts }: { counts: Schema['LinkCounts'] }) {
  const most = Math.max(1, ...counts.series.map((s) => s.clicks + s.scans));
  const height = 96;
  const step = 100 / counts.series.length;
  /** Day, and hour where bars are hours, that a bar begins with. */
  const beginOf = (from: string) =>
    `${dayOf(from.slice(0, 10))}${counts.unit === 'hour' ? ` ${from.slice(11, 16)}` : ''}`;
  return (
    <figure>
      <svg
        viewBox={`0 0 100 ${height}`}
        preserveAspectRatio="none"
        className="h-24 w-full border-b border-line-strong"
        role="img"
        aria-label={`Clicks and scans by ${counts.unit}, at most ${count(most)}`}
      >
        {counts.series.map((s, i) => {
          const tall = ((s.clicks + s.scans) / most) * height;
          return (
            <rect
              key={s.from}
              x={i * step + step / 2 - Math.min(step * 0.8, 4) / 2}
              width={Math.min(step * 0.8, 4)}
              y={height - tall}
              height={tall}
              fill="var(--accent)"
            >
              <title>{`${beginOf(s.from)}: ${count(s.clicks)} clicks, ${count(s.scans)} scans`}</title>
            </rect>
          );
        })}
      </svg>
      <figcaption className="caption flex justify-between pt-1">
        <span>{counts.series[0] && beginOf(counts.series[0].from)}</span>
        <span>
          by {counts.unit}, at most {count(most)}
        </span>
        <span>now</span>
      </figcaption>
    </figure>
  );
}

function Shares({
  title,
  rows,
  total,
  empty,
  nameOf = (name) => name,
}: {
  title: string;
  rows: Schema['CountOf'][];
  total: number;
  empty: string;
  nameOf?: (name: string) => string;
}) {
  return (
    <section>
      <h3 className="mb-1.5 text-xs font-medium text-quiet">{title}</h3>
      <ul className="flex flex-col gap-1 tabular-nums">
        {rows.map((row) => (
          <li key={row.name} className="relative flex justify-between gap-2 px-1">
            <span
              aria-hidden
              className="absolute inset-y-0 left-0 bg-accent-wash"
              style={{ width: `${(row.hits / total) * 100}%` }}
            />
            <span className="relative min-w-0 truncate">{row.name ? nameOf(row.name) : empty}</span>
            <span className="relative">{count(row.hits)}</span>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** Weekday by hour; the darker, the more. */
function Week({ hours, zone }: { hours: number[]; zone: string }) {
  const most = Math.max(1, ...hours);
  return (
    <section>
      <h3 className="mb-1.5 text-xs font-medium text-quiet">Weekday and hour ({zone})</h3>
      <svg viewBox="0 0 276 96" className="w-full" role="img" aria-label="Clicks and scans by weekday and hour">
        {weekdays.map((day, d) => (
          <text key={day} x={0} y={d * 12 + 9} fontSize={8} fill="var(--quiet)">
            {day}
          </text>
        ))}
        {hours.map((n, i) => (
          <rect
            key={i}
            x={24 + (i % 24) * 10.5}
            y={Math.floor(i / 24) * 12}
            width={9.5}
            height={11}
            fill="var(--accent)"
            opacity={n === 0 ? 0.06 : 0.2 + (0.8 * n) / most}
          >
            <title>{`${weekdays[Math.floor(i / 24)]} ${i % 24}:00: ${count(n)}`}</title>
          </rect>
        ))}
        {[0, 6, 12, 18].map((hour) => (
          <text key={hour} x={24 + hour * 10.5} y={94} fontSize={8} fill="var(--quiet)">
            {hour}:00
          </text>
        ))}
      </svg>
    </section>
  );
}

/** The printed code is used elsewhere too: since when, and how one knows. */
function Reuse({ reuse }: { reuse: Schema['ReuseEvidence'][] }) {
  return (
    <section className="flex gap-2 rounded border border-line-strong p-3" role="note">
      <span className="mt-0.5">
        <SeverityMark severity="warning" />
      </span>
      <div>
        <p>
          <span className="font-medium">The QR link is used outside print</span>, since {exact(reuse[0]!.since)}: scans
          have no referrer, but these clicks did, so its scan count includes clicks.
        </p>
        <ul className="mt-1">
          {reuse.map((e) => (
            <li key={e.host}>
              {count(e.hits)} {e.host ? `from ${e.host}` : 'link previews by chats and networks'}, since{' '}
              {exact(e.since)}
            </li>
          ))}
        </ul>
      </div>
    </section>
  );
}

/** The page for people without an account. */
function Share({ linkId, address }: { linkId: string; address: string | null }) {
  const person = usePerson();
  const queries = useQueryClient();
  const again = () => queries.invalidateQueries({ queryKey: ['link-counts', linkId] });
  const share = useMutation({
    mutationFn: async () =>
      dataOf(await api.POST('/api/v1/links/{id}/results-page', { params: { path: { id: linkId } } })),
    onSuccess: again,
  });
  const withdraw = useMutation({
    mutationFn: async () =>
      dataOf(await api.DELETE('/api/v1/links/{id}/results-page', { params: { path: { id: linkId } } })),
    onSuccess: again,
  });
  if (person.role === 'viewer') return null;
  if (!address)
    return (
      <button type="button" className="button" onClick={() => share.mutate()}>
        Create a results page for people without an account
      </button>
    );
  return (
    <span className="flex items-center gap-2">
      <a href={address} target="_blank" rel="noreferrer" className="button-plain">
        Results page
      </a>
      <CopyButton text={address} label="Copy address" />
      <button type="button" className="button-plain" onClick={() => withdraw.mutate()}>
        Withdraw
      </button>
    </span>
  );
}

const names = new Intl.DisplayNames(['en'], { type: 'region' });

/** A country's name in words. */
function countryName(code: string): string {
  try {
    return names.of(code) ?? code;
  } catch {
    return code;
  }
}
