import { keepPreviousData, useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { live } from '../../api/live';
import { CopyButton } from '../../parts/CopyButton';
import { count, rate } from '../../parts/format';
import { dayOf } from '../../parts/days';
import { DateField } from '../../parts/DateField';
import { PartTabs } from '../../parts/PartTabs';
import { usePerson } from '../../parts/person';
import { linkCountsQuery, resultsPageMake, resultsPageWithdraw } from './queries';
import { Figure, Series, Shares, Week, Reuse } from './LinkFigures';

const ranges = [
  ['day', '24 hours'],
  ['week', '7 days'],
  ['month', '30 days'],
  ['all', 'All time'],
  ['own', 'From … to'],
] as const;
type Range = (typeof ranges)[number][0];

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
    ...live,
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
      {r?.rawFrom && (
        <p className="text-quiet">
          Counted from {dayOf(r.rawFrom)} on. Earlier clicks and visits are no longer kept one by one; the Ledger’s
          totals include them.
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

/** The page for people without an account. */
function Share({ linkId, address }: { linkId: string; address: string | null }) {
  const person = usePerson();
  const share = useMutation(resultsPageMake(linkId));
  const withdraw = useMutation(resultsPageWithdraw(linkId));
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
