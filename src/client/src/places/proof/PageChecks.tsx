import { useMutation, useQuery } from '@tanstack/react-query';
import { format } from 'date-fns';
import { useState, type ReactNode } from 'react';
import { useSearchParams } from 'react-router';
import type { Schema } from '../../api/client';
import { ago, count, counted, exact } from '../../parts/format';
import { FormField } from '../../parts/FormField';
import { Head } from '../../parts/Head';
import { Inspector, InspectorPart } from '../../parts/Inspector';
import { usePerson } from '../../parts/person';
import { SeverityMark } from '../../parts/SeverityMark';
import { Select } from '../../parts/Select';
import { Hops } from './Hops';
import { pageChecksCancel, pageChecksQuery, pageChecksSchedule, pageChecksStart, pageFindingMute } from './queries';

type Page = Schema['CheckedPageAnswer'];
type Found = Page['findings'][number];

const schedules = [
  ['0', 'Only by hand'],
  ['1', 'Every day'],
  ['7', 'Every week'],
  ['30', 'Every 30 days'],
] as const;

const isOpen = (finding: Found) => !finding.goneAt && !finding.mutedBy;

/** The pages that links lead to, what is wrong with each, and since when. */
export function PageChecks({ tabs }: { tabs: ReactNode }) {
  const person = usePerson();
  const [search, setSearch] = useSearchParams();
  const sheet = search.get('sheet') ?? undefined;
  const read = useQuery(pageChecksQuery(sheet));
  const start = useMutation(pageChecksStart(sheet));
  const cancel = useMutation(pageChecksCancel());
  const schedule = useMutation(pageChecksSchedule());
  const [chosen, choose] = useState<string | undefined>(() => search.get('at') ?? undefined);
  const data = read.data;
  const running = data?.run && !data.run.finishedAt;
  const page = data?.pages.find((p) => p.page === chosen);
  const faulty = data?.pages.filter((p) => p.findings.some((f) => isOpen(f) && f.severity !== 'info')).length ?? 0;
  const problem = start.error ?? cancel.error ?? schedule.error;
  return (
    <>
      <Head title="Page checks" state={data && stateOf(data, faulty, sheet)}>
        {tabs}
      </Head>
      <div className="flex min-h-0 flex-1">
        <div className="min-w-0 flex-1 overflow-auto bg-sheet">
          <div className="flex flex-wrap items-end gap-4 px-5 py-3">
            {person.role !== 'viewer' &&
              (running ? (
                <button type="button" className="button" disabled={cancel.isPending} onClick={() => cancel.mutate()}>
                  Cancel
                </button>
              ) : (
                <button type="button" className="button-main" disabled={start.isPending} onClick={() => start.mutate()}>
                  {sheet ? 'Check these now' : 'Check all now'}
                </button>
              ))}
            {sheet && (
              <button
                type="button"
                className="button"
                onClick={() =>
                  setSearch((at) => {
                    at.delete('sheet');
                    return at;
                  })
                }
              >
                Show all pages
              </button>
            )}
            {data && person.role === 'owner' && !sheet && (
              <FormField label="Check by itself">
                <Select
                  label="Check by itself"
                  value={String(data.days ?? 0) as (typeof schedules)[number][0]}
                  options={schedules}
                  onChange={(days) => schedule.mutate(days === '0' ? null : Number(days))}
                />
              </FormField>
            )}
            <p className="max-w-xl text-quiet">
              Each page is fetched with and without tags, at most one request a second to a host. By itself, only what a
              site’s robots.txt allows.
            </p>
            {problem && (
              <p role="alert" className="w-full text-error">
                {problem.message}
              </p>
            )}
            {read.isError && (
              <p role="alert" className="w-full text-error">
                {read.error.message}
              </p>
            )}
          </div>
          {data?.pages.length === 0 && (
            <p className="px-5 text-quiet">
              No page has been checked yet. A check lists every page that a live link {sheet && 'of the sheet '}leads
              to.
            </p>
          )}
          {data && data.pages.length > 0 && (
            <table className="w-full border-collapse">
              <thead>
                <tr className="border-b border-line text-left text-xs text-quiet">
                  <th className="py-1.5 pr-4 pl-5 font-medium">Page</th>
                  <th className="w-16 py-1.5 pr-4 text-right font-medium">Links</th>
                  <th className="w-[40%] py-1.5 pr-4 font-medium">Found</th>
                  <th className="w-32 py-1.5 pr-5 font-medium max-lg:hidden">Checked</th>
                </tr>
              </thead>
              <tbody>
                {data.pages.map((p) => (
                  <Row key={p.page} page={p} chosen={p.page === chosen} onChoose={() => choose(p.page)} />
                ))}
              </tbody>
            </table>
          )}
          {data && data.history.length > 0 && <History runs={data.history} />}
        </div>
        {page && <PageInspector key={page.page} page={page} onClose={() => choose(undefined)} />}
      </div>
    </>
  );
}

/** What the latest checks came to. */
function History({ runs }: { runs: Schema['PageChecksAnswer']['history'] }) {
  return (
    <section className="px-5 pt-8 pb-5">
      <h2 className="mb-1 font-semibold">Earlier checks</h2>
      <table className="w-full max-w-3xl border-collapse tabular-nums">
        <thead>
          <tr className="border-b border-line text-left text-xs text-quiet">
            <th className="py-1.5 pr-4 font-medium">Ended</th>
            <th className="py-1.5 pr-4 font-medium">Begun by</th>
            <th className="w-20 py-1.5 pr-4 text-right font-medium">Pages</th>
            <th className="w-20 py-1.5 pr-4 text-right font-medium">Found</th>
            <th className="w-20 py-1.5 pr-4 text-right font-medium">New</th>
            <th className="w-20 py-1.5 text-right font-medium">Gone</th>
          </tr>
        </thead>
        <tbody>
          {runs.map((run) => (
            <tr key={run.startedAt} className="h-[34px] border-b border-line">
              <td className="pr-4" title={exact(run.finishedAt!)}>
                {ago(run.finishedAt!)}
                {run.cancelled && <span className="text-quiet">, cancelled</span>}
              </td>
              <td className="pr-4 text-quiet">
                {run.startedBy ?? 'the schedule'}
                {run.batchId && ', one sheet'}
              </td>
              <td className="pr-4 text-right">{count(run.done)}</td>
              <td className="pr-4 text-right">{run.found === null ? '–' : count(run.found)}</td>
              <td className="pr-4 text-right">{run.appeared === null ? '–' : count(run.appeared)}</td>
              <td className="text-right">{run.gone === null ? '–' : count(run.gone)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

/** When about a run ends: each page takes three requests to its host, one a second. */
const endOf = (run: NonNullable<Schema['PageChecksAnswer']['run']>): string =>
  format(new Date(Date.now() + (run.total! - run.done) * 3_000), 'HH:mm');

function stateOf(data: Schema['PageChecksAnswer'], faulty: number, sheet?: string): string {
  const { run } = data;
  if (run && !run.finishedAt)
    return run.total == null
      ? 'Listing pages …'
      : `Checking: ${count(run.done)} of ${counted(run.total, 'page')}, until about ${endOf(run)}`;
  if (data.pages.length === 0) return '';
  const pages = `${counted(data.pages.length, 'page')}${sheet ? ' of the sheet' : ''}, ${faulty === 0 ? 'nothing to repair' : `${count(faulty)} to look into`}`;
  return run?.cancelled ? `${pages}; the last check was cancelled` : pages;
}

function Row({ page, chosen, onChoose }: { page: Page; chosen: boolean; onChoose: () => void }) {
  const open = page.findings.filter(isOpen);
  const muted = page.findings.filter((f) => f.mutedBy && !f.goneAt).length;
  return (
    <tr
      aria-selected={chosen}
      className="h-[34px] cursor-pointer border-b border-line hover:bg-accent-wash aria-selected:bg-accent-wash"
      onClick={onChoose}
    >
      <td className="max-w-0 pr-4 pl-5">
        <button type="button" className="block w-full truncate text-left font-mono text-xs" title={page.page}>
          {page.page.replace(/^https?:\/\//, '')}
        </button>
      </td>
      <td className="pr-4 text-right tabular-nums">{count(page.links)}</td>
      <td className="max-w-0 pr-4">
        {open.length > 0 ? (
          <span className="flex items-center gap-2">
            <SeverityMark severity={open[0]!.severity} size={13} />
            <span className="truncate" title={open[0]!.message}>
              {open[0]!.message}
            </span>
            {open.length > 1 && <span className="caption shrink-0">and {open.length - 1} more</span>}
          </span>
        ) : (
          <span className="text-quiet">
            {page.checkedAt
              ? muted > 0
                ? `nothing but ${counted(muted, 'muted finding')}`
                : 'nothing'
              : 'not checked yet'}
          </span>
        )}
      </td>
      <td
        className="pr-5 whitespace-nowrap text-quiet max-lg:hidden"
        title={page.checkedAt ? exact(page.checkedAt) : ''}
      >
        {page.checkedAt ? ago(page.checkedAt) : '–'}
      </td>
    </tr>
  );
}

function PageInspector({ page, onClose }: { page: Page; onClose: () => void }) {
  return (
    <Inspector title={page.title ?? page.page.replace(/^https?:\/\//, '')} onClose={onClose}>
      <p className="font-mono text-xs break-all">{page.page}</p>
      <InspectorPart title="Found">
        {page.findings.length === 0 ? (
          <p className="text-quiet">Nothing.</p>
        ) : (
          <ul aria-label="Findings" className="flex flex-col gap-3">
            {page.findings.map((finding) => (
              <FoundItem key={finding.rule} page={page.page} finding={finding} />
            ))}
          </ul>
        )}
      </InspectorPart>
      {page.hops.length > 0 && (
        <InspectorPart title="The way to the page">
          <Hops
            label="With tags"
            hops={page.hops}
            faulty={page.findings.flatMap((f) => (f.goneAt ? [] : (f.hop ?? [])))}
          />
        </InspectorPart>
      )}
    </Inspector>
  );
}

function FoundItem({ page, finding }: { page: string; finding: Found }) {
  const person = usePerson();
  const [reason, setReason] = useState<string>();
  const mute = useMutation({ ...pageFindingMute(), onSuccess: () => setReason(undefined) });
  return (
    <li className="flex gap-2">
      <span className="mt-0.5">
        <SeverityMark severity={finding.goneAt ? 'good' : finding.severity} />
      </span>
      <span className="min-w-0 flex-1">
        <span className={`block break-words ${finding.goneAt || finding.mutedBy ? 'text-quiet' : ''}`}>
          {finding.message}
        </span>
        <span className="caption block">
          {finding.goneAt ? (
            <>Gone since {ago(finding.goneAt)}</>
          ) : (
            <span title={exact(finding.firstSeen)}>First seen {ago(finding.firstSeen)}</span>
          )}
          {finding.mutedBy && ` · muted by ${finding.mutedBy}: ${finding.mutedReason}`}
        </span>
        {mute.isError && (
          <span role="alert" className="block text-error">
            {mute.error.message}
          </span>
        )}
        {person.role !== 'viewer' &&
          !finding.goneAt &&
          (reason !== undefined ? (
            <form
              className="mt-1 flex gap-2"
              onSubmit={(e) => {
                e.preventDefault();
                mute.mutate({ page, rule: finding.rule, reason });
              }}
            >
              <input
                className="input min-w-0 flex-1"
                aria-label="Reason"
                placeholder="Why it may stay"
                autoFocus
                value={reason}
                onChange={(e) => setReason(e.target.value)}
              />
              <button type="submit" className="button" disabled={!reason.trim() || mute.isPending}>
                Mute
              </button>
            </form>
          ) : (
            <button
              type="button"
              className="button-plain -ml-1.5"
              onClick={() =>
                finding.mutedBy ? mute.mutate({ page, rule: finding.rule, reason: null }) : setReason('')
              }
            >
              {finding.mutedBy ? 'Unmute' : 'Mute …'}
            </button>
          ))}
      </span>
    </li>
  );
}
