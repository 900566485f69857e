import { keepPreviousData, useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { live } from '../../api/live';
import type { Schema } from '../../api/client';
import { LinkBoard } from '../../parts/board/LinkBoard';
import { usualStations, type MeasureName } from '../../parts/board/measures';
import { Link } from 'react-router';
import { arrivalsAddress } from '../../parts/arrivalsAddress';
import { CopyButton } from '../../parts/CopyButton';
import { count, rate } from '../../parts/format';
import { dayOf } from '../../parts/days';
import { DateField } from '../../parts/DateField';
import { PartTabs } from '../../parts/PartTabs';
import { PictureMenu } from '../../parts/picture/PictureMenu';
import { usePerson } from '../../parts/person';
import { CountRuler } from '../../parts/ruler/CountRuler';
import { ShareButton } from '../../parts/ShareButton';
import { dayNotesQuery } from '../arrivals/queries';
import { linkCountsQuery, resultsPageMake, resultsPageWithdraw } from './queries';
import { LinkShares, Reuse } from './LinkFigures';

const ranges = [
  ['day', '2 days'],
  ['week', '7 days'],
  ['month', '30 days'],
  ['all', 'All time'],
  ['own', 'From … to'],
] as const;
type Range = (typeof ranges)[number][0];

/** What follows the stations. */
const columns: MeasureName[] = ['scans', 'visitors', 'secondsPerVisit'];

/** What hits that were no person's click are called: one of them, and several. */
const others: Record<string, [one: string, several: string]> = {
  Crawler: ['crawler', 'crawlers'],
  Preview: ['preview in a chat', 'previews in chats'],
  DoubleTap: ['double tap', 'double taps'],
  Prefetch: ['fetched ahead', 'fetched ahead'],
  Head: ['header request', 'header requests'],
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
  const person = usePerson();
  const notes = useQuery({
    ...dayNotesQuery({ from: c?.series[0]?.from.slice(0, 10) ?? '', to: c?.series.at(-1)?.from.slice(0, 10) ?? '' }),
    enabled: !!c?.series.length,
  });
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
        <Link
          className="button-plain"
          to={arrivalsAddress({ where: [['link', linkId]], rows: ['source', 'content', 'country'], span: '365d' })}
        >
          Show in Arrivals
        </Link>
        <PictureMenu title="What came of this link" />
        <span className="flex-1" />
        {r && <Share linkId={linkId} shared={r.shared} />}
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
          <div className="-mx-5 border-t border-line">
            <CountRuler counts={c} visits={r!.visits} today={person.today} notes={notes.data} />
            <LinkBoard
              label="What came of this link"
              name="In this range"
              figures={r!.figures}
              stations={usualStations}
              columns={columns}
            />
          </div>
          <p className="text-quiet">{sentence(c)}</p>
          {people > 0 && <LinkShares counts={c} zone={r!.timeZone} />}
        </>
      )}
    </div>
  );
}

/** What the stations do not say: who clicked, what was left out, and how many visits could have arrived. */
function sentence(c: Schema['LinkCounts']): string {
  const people = c.clicks + c.scans;
  if (people === 0 && Object.keys(c.others).length === 0) return 'No clicks or scans in this range.';
  const left = Object.entries(c.others).map(([kind, n]) => `${count(n)} ${others[kind]?.[n === 1 ? 0 : 1] ?? kind}`);
  return [
    `${count(c.clicks)} clicks on the text link and ${count(c.scans)} scans of the QR link, by ${count(c.unique)} ${
      c.unit === 'hour' ? 'visitors' : 'daily visitors, added up'
    }.`,
    c.visitsDue > 0
      ? `${rate(c.visits / c.visitsDue)} of ${count(c.visitsDue)} expected visits arrived; repeated clicks by one visitor within 30 minutes are one visit.`
      : '',
    left.length > 0 ? `Not people, and not counted: ${left.join(', ')}.` : '',
  ]
    .filter(Boolean)
    .join(' ');
}

/** The page for people without an account. */
function Share({ linkId, shared }: { linkId: string; shared: Schema['SharedResults'] | null }) {
  const person = usePerson();
  const share = useMutation(resultsPageMake(linkId));
  const withdraw = useMutation(resultsPageWithdraw(linkId));
  if (person.role === 'viewer') return null;
  if (!shared)
    return (
      <button type="button" className="button" onClick={() => share.mutate(false)}>
        Create a results page for people without an account
      </button>
    );
  return (
    <span className="flex items-center gap-2">
      <label
        className="flex items-center gap-1.5"
        title="The page that says where the short link leads gets a link to it."
      >
        <input type="checkbox" checked={shared.onWherePage} onChange={(e) => share.mutate(e.target.checked)} />
        Linked from “where it leads”
      </label>
      <a href={shared.address} target="_blank" rel="noreferrer" className="button-plain">
        Results page
      </a>
      <CopyButton text={shared.address} label="Copy address" />
      <ShareButton title="Results" url={shared.address} />
      <button type="button" className="button-plain" onClick={() => withdraw.mutate()}>
        Withdraw
      </button>
    </span>
  );
}
