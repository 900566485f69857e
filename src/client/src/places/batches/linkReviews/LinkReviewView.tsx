import { useQuery } from '@tanstack/react-query';
import { ArrowLeft, Download, Printer } from 'lucide-react';
import { useState } from 'react';
import { type Schema } from '../../../api/client';
import { CopyButton } from '../../../parts/CopyButton';
import { count, exact } from '../../../parts/format';
import { Head } from '../../../parts/Head';
import { SeverityMark } from '../../../parts/SeverityMark';
import { NotThere } from '../NotThere';
import { linkReviewQuery, reviewedLinksQuery } from './queries';

type State = Schema['LinkReviewLinkAnswer']['state'];

const perPage = 100;
const states: [State, string][] = [
  ['right', 'right'],
  ['mended', 'repaired'],
  ['stuck', 'to decide'],
];

/** One link review: notices by rule with their counts, and each link with its repaired form. */
export function LinkReviewView({ id, onLeave }: { id: string; onLeave: () => void }) {
  const [filter, setFilter] = useState<{ state?: State; rule?: string }>({});
  const [page, setPage] = useState(0);
  const review = useQuery(linkReviewQuery(id));
  const links = useQuery({ ...reviewedLinksQuery(id, filter, page, perPage), placeholderData: (before) => before });
  const choose = (next: typeof filter) => {
    setFilter(next);
    setPage(0);
  };

  if (review.isError) return <NotThere error={review.error} back="All link reviews" onBack={onLeave} />;
  if (!review.data) return <Head title="Batches" />;
  const a = review.data;
  const total = a.right + a.mended + a.stuck;
  const counts: Record<State, number> = { right: a.right, mended: a.mended, stuck: a.stuck };
  const last = Math.max(0, Math.ceil((links.data?.total ?? 0) / perPage) - 1);

  return (
    <>
      <Head
        title={a.name}
        state={
          <>
            {count(total)} links{a.pages != null && ` on ${count(a.pages)} pages`} · {count(a.right)} right ·{' '}
            {count(a.mended)} repaired · {count(a.stuck)} to decide
          </>
        }
      >
        <span className="flex gap-3">
          <button type="button" className="button" onClick={onLeave}>
            <ArrowLeft size={14} strokeWidth={1.5} /> All link reviews
          </button>
          <a className="button" href={`/api/v1/link-reviews/${id}/report`} target="_blank" rel="noreferrer">
            <Printer size={14} strokeWidth={1.5} /> Report
          </a>
          <a className="button" href={`/api/v1/link-reviews/${id}/result.csv`} download>
            <Download size={14} strokeWidth={1.5} /> CSV
          </a>
          <a className="button" href={`/api/v1/link-reviews/${id}/result.xlsx`} download>
            <Download size={14} strokeWidth={1.5} /> XLSX
          </a>
        </span>
      </Head>
      <div className="flex min-h-0 flex-1">
        <section
          aria-label="Notices by rule"
          className="w-[360px] shrink-0 overflow-auto border-r border-line px-5 py-4"
        >
          <p className="caption mb-3">
            {exact(a.createdAt)} by {a.createdBy}, by version {a.conventionVersion} of the convention
          </p>
          <div className="mb-4 flex flex-wrap gap-2">
            <button
              type="button"
              className="button aria-pressed:border-accent aria-pressed:bg-accent-wash"
              aria-pressed={!filter.state && !filter.rule}
              onClick={() => choose({})}
            >
              All
            </button>
            {states.map(([state, says]) => (
              <button
                key={state}
                type="button"
                className="button aria-pressed:border-accent aria-pressed:bg-accent-wash"
                aria-pressed={filter.state === state}
                onClick={() => choose({ state })}
              >
                {count(counts[state])} {says}
              </button>
            ))}
          </div>
          {a.rules.length === 0 && total > 0 && <p>Every link follows the convention.</p>}
          {total === 0 && <p>No tagged links found.</p>}
          <ul className="flex flex-col gap-3">
            {a.rules.map((rule) => (
              <li key={rule.rule} className="flex gap-2">
                <span className="mt-0.5">
                  <SeverityMark severity={rule.severity} />
                </span>
                <span className="min-w-0">
                  <button
                    type="button"
                    className="button-plain -ml-1.5 text-left"
                    aria-pressed={filter.rule === rule.rule}
                    onClick={() => choose({ rule: rule.rule })}
                  >
                    {count(rule.links)} × {rule.rule.replaceAll('-', ' ')}
                  </button>
                  <span className="block text-xs text-quiet">
                    {rule.mended === rule.links
                      ? 'all repaired'
                      : rule.mended > 0
                        ? `${count(rule.mended)} repaired`
                        : 'to decide'}
                    . {rule.example}
                  </span>
                </span>
              </li>
            ))}
          </ul>
          {a.problems.length > 0 && (
            <>
              <h2 className="mt-5 mb-1 text-xs font-medium text-quiet">Not checked</h2>
              <ul className="text-xs">
                {a.problems.map((problem) => (
                  <li key={problem}>{problem}</li>
                ))}
              </ul>
            </>
          )}
        </section>
        <div className="min-h-0 min-w-0 flex-1 overflow-auto bg-sheet">
          <table className="w-full table-fixed">
            <thead className="sticky top-0 bg-sheet">
              <tr className="h-[34px] border-b border-line text-left text-xs text-quiet">
                <th className="w-14 px-3 text-right font-medium">No.</th>
                <th className="px-3 font-medium">Link and notices</th>
                <th className="px-3 font-medium">Repaired</th>
              </tr>
            </thead>
            <tbody>
              {links.data?.links.map((link) => (
                <tr key={link.number} className="border-b border-line align-top">
                  <td className="px-3 py-2 text-right text-quiet tabular-nums">{link.number}</td>
                  <td className="px-3 py-2">
                    <span className="line-clamp-4 font-mono text-xs break-all" title={link.link}>
                      {link.link}
                    </span>
                    {link.foundOn && <span className="block text-xs break-all text-quiet">on {link.foundOn}</span>}
                    {link.says.map((says) => (
                      <span key={says} className="block text-xs">
                        {says}
                      </span>
                    ))}
                  </td>
                  <td className="px-3 py-2">
                    {link.state === 'stuck' && <span className="block text-quiet">to decide</span>}
                    {link.mendedUrl ? (
                      <span className="flex items-start gap-1">
                        <span
                          className="line-clamp-4 min-w-0 flex-1 font-mono text-xs break-all"
                          title={link.mendedUrl}
                        >
                          {link.mendedUrl}
                        </span>
                        <span>
                          <CopyButton text={link.mendedUrl} label="Copy" className="button-plain" />
                        </span>
                      </span>
                    ) : (
                      <span className="text-quiet">{link.state === 'right' && 'correct'}</span>
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          {last > 0 && (
            <nav aria-label="Pages of links" className="flex items-center gap-3 px-3 py-2">
              <button type="button" className="button" disabled={page === 0} onClick={() => setPage(page - 1)}>
                Previous
              </button>
              {count(page * perPage + 1)} to {count(Math.min(links.data?.total ?? 0, (page + 1) * perPage))} of{' '}
              {count(links.data?.total ?? 0)}
              <button type="button" className="button" disabled={page === last} onClick={() => setPage(page + 1)}>
                Next
              </button>
            </nav>
          )}
        </div>
      </div>
    </>
  );
}
