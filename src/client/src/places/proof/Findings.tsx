import { useMutation, useQuery } from '@tanstack/react-query';
import { useState, type ReactNode } from 'react';
import { Link } from 'react-router';
import type { Schema } from '../../api/client';
import { findingsQuery } from '../../api/queries';
import { dayOf } from '../../parts/days';
import { ago, count, exact } from '../../parts/format';
import { Head } from '../../parts/Head';
import { usePerson } from '../../parts/person';
import { Select } from '../../parts/Select';
import { SeverityMark } from '../../parts/SeverityMark';
import { findingQuiet } from './queries';

type Finding = Schema['ListedFindingAnswer'];

const areas: Record<Finding['area'], [name: string, way: string]> = {
  page: ['Page', 'Look at the page'],
  stray: ['Stray', 'Assign it'],
  inside: ['Inside your site', 'Look at the links'],
  gap: ['Clicks and visits', 'Look at the gap'],
  trial: ['Trial run', 'Look at the trial'],
  variant: ['Variant test', 'Look at the test'],
  figure: ['Reconcile', 'Look at the gap'],
};

const parts: Record<Exclude<Finding['area'], 'trial'>, string> = {
  page: 'pages',
  stray: 'strays',
  inside: 'strays',
  gap: 'gaps',
  variant: 'variants',
  figure: 'reconcile',
};

/** Where the way out of a finding begins. */
const wayOf = (finding: Finding): string =>
  finding.area === 'trial'
    ? `/proof?trial=${finding.about}`
    : `/proof?part=${parts[finding.area]}&at=${encodeURIComponent(finding.about)}`;

/** What all checks found, in one list, each with its way out. */
export function Findings({ tabs }: { tabs: ReactNode }) {
  const read = useQuery(findingsQuery());
  const data = read.data;
  const lists: [string, Finding[]][] = [
    ['Open', data?.findings.filter((f) => f.change !== 'gone' && !f.quietUntil) ?? []],
    ['Quiet', data?.findings.filter((f) => f.change !== 'gone' && f.quietUntil) ?? []],
    ['Gone', data?.findings.filter((f) => f.change === 'gone') ?? []],
  ];
  return (
    <>
      <Head title="Findings" state={data?.at ? `${stateOf(data)}, looked at ${ago(data.at)}` : undefined}>
        {tabs}
      </Head>
      <div className="min-h-0 flex-1 overflow-auto bg-sheet pb-6">
        {read.isError && (
          <p role="alert" className="p-5 text-error">
            {read.error.message}
          </p>
        )}
        {data && data.findings.length === 0 && (
          <p className="max-w-xl p-5">
            {data.at
              ? 'Nothing was found. Page checks, strays, clicks without visits and trials that failed stand here.'
              : 'Links, pages and traffic are being looked through for the first time. What is found stands here.'}
          </p>
        )}
        {lists.map(
          ([title, findings]) =>
            findings.length > 0 && (
              <section key={title} className="pt-3">
                {title !== 'Open' && <h2 className="px-5 pt-3 pb-1 font-semibold">{title}</h2>}
                <ul aria-label={title}>
                  {findings.map((finding) => (
                    <Item key={finding.id} finding={finding} />
                  ))}
                </ul>
              </section>
            ),
        )}
      </div>
    </>
  );
}

const stateOf = (data: Schema['FindingsAnswer']): string =>
  data.open === 0 ? 'nothing open' : `${count(data.open)} open`;

const changes: Record<Finding['change'], string> = { new: 'new', worse: 'worse', known: '', gone: 'gone' };

function Item({ finding }: { finding: Finding }) {
  const person = usePerson();
  const [asking, ask] = useState(false);
  const quiet = useMutation({ ...findingQuiet(), onSuccess: () => ask(false) });
  const gone = finding.change === 'gone';
  return (
    <li className="flex gap-3 border-b border-line px-5 py-2.5">
      <span className="mt-0.5 shrink-0">
        <SeverityMark severity={gone ? 'good' : finding.severity} />
      </span>
      <span className={`min-w-0 flex-1 ${gone || finding.quietUntil ? 'text-quiet' : ''}`}>
        <span className="flex items-baseline gap-2">
          <span className="min-w-0 truncate font-medium" title={finding.subject}>
            {finding.subject.replace(/^https?:\/\//, '')}
          </span>
          <span className="caption shrink-0">{areas[finding.area][0]}</span>
          {changes[finding.change] && (
            <span
              className={`shrink-0 text-xs font-medium ${finding.change === 'worse' ? 'text-error' : 'text-accent'}`}
            >
              {changes[finding.change]}
            </span>
          )}
        </span>
        <span className="block max-w-3xl break-words">{finding.message}</span>
        <span className="caption block">
          {gone ? (
            <span title={exact(finding.goneAt!)}>Gone since {ago(finding.goneAt!)}</span>
          ) : (
            <span title={exact(finding.firstSeen)}>
              Found {ago(finding.firstSeen)}
              {finding.change === 'worse' && `, then ${count(finding.then)}, now ${count(finding.weight)}`}
            </span>
          )}
          {finding.quietUntil &&
            ` · quiet until ${dayOf(finding.quietUntil.slice(0, 10))} by ${finding.quietBy}: ${finding.quietReason}`}
        </span>
        {quiet.isError && (
          <span role="alert" className="block text-error">
            {quiet.error.message}
          </span>
        )}
        {asking && (
          <QuietForm
            pending={quiet.isPending}
            onQuiet={(days, reason) => quiet.mutate({ id: finding.id, days, reason })}
            onLeave={() => ask(false)}
          />
        )}
      </span>
      {!gone && (
        <span className="flex shrink-0 items-start gap-1 max-sm:flex-col">
          <Link className="button" to={wayOf(finding)}>
            {areas[finding.area][1]}
          </Link>
          {person.role !== 'viewer' && !asking && (
            <button
              type="button"
              className="button-plain"
              onClick={() =>
                finding.quietUntil ? quiet.mutate({ id: finding.id, days: null, reason: null }) : ask(true)
              }
            >
              {finding.quietUntil ? 'Count it' : 'Quiet …'}
            </button>
          )}
        </span>
      )}
    </li>
  );
}

const spans = [
  ['7', 'for a week'],
  ['30', 'for 30 days'],
  ['90', 'for 90 days'],
  ['365', 'for a year'],
] as const;

interface QuietFormProps {
  pending: boolean;
  onQuiet: (days: number, reason: string) => void;
  onLeave: () => void;
}

function QuietForm({ pending, onQuiet, onLeave }: QuietFormProps) {
  const [days, setDays] = useState<(typeof spans)[number][0]>('30');
  const [reason, setReason] = useState('');
  return (
    <form
      className="mt-1 flex flex-wrap items-center gap-2"
      onSubmit={(e) => {
        e.preventDefault();
        onQuiet(Number(days), reason);
      }}
    >
      <Select label="How long" value={days} options={spans} onChange={setDays} />
      <input
        className="input min-w-48 flex-1"
        aria-label="Reason"
        placeholder="Why it may stay"
        autoFocus
        value={reason}
        onChange={(e) => setReason(e.target.value)}
      />
      <button type="submit" className="button" disabled={!reason.trim() || pending}>
        Quiet
      </button>
      <button type="button" className="button-plain" onClick={onLeave}>
        Cancel
      </button>
    </form>
  );
}
