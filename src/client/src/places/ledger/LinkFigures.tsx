import { type Schema } from '../../api/client';
import { count, exact } from '../../parts/format';
import { SeverityMark } from '../../parts/SeverityMark';
import { rowName } from '../arrivals/rowName';

const weekdays = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'];

/** What was counted by country, town, device, referrer and hour of the week. */
export function LinkShares({ counts, zone }: { counts: Schema['LinkCounts']; zone: string }) {
  const people = counts.clicks + counts.scans;
  return (
    <div className="grid grid-cols-[repeat(auto-fit,minmax(180px,1fr))] gap-8">
      <Shares
        title="Country"
        rows={counts.countries}
        total={people}
        empty="not known"
        nameOf={(code) => rowName('country', code)}
      />
      {counts.places.length > 0 && <Shares title="Town" rows={counts.places} total={people} empty="not known" />}
      <Shares title="Device" rows={counts.devices} total={people} empty="not known" />
      <Shares title="Referrer" rows={counts.referrers} total={people} empty="no referrer" />
      <Week hours={counts.weekHours} zone={zone} />
    </div>
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
export function Reuse({ reuse }: { reuse: Schema['ReuseEvidence'][] }) {
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
