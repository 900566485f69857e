import { keepPreviousData, useMutation, useQuery } from '@tanstack/react-query';
import { RefreshCw, X } from 'lucide-react';
import { useState, type ReactNode } from 'react';
import { Link } from 'react-router';
import { type Schema } from '../../api/client';
import { ago, count, exact } from '../../parts/format';
import { Head } from '../../parts/Head';
import { Inspector } from '../../parts/Inspector';
import { usePerson } from '../../parts/person';
import { useDebounced } from '../../parts/useDebounced';
import { pagesQuery } from '../../api/queries';
import { sitemapRead, pagesAdd, pageRemove } from './queries';

/** Pages of the workspace's sites, by title. */
export function PageList({ parts }: { parts: ReactNode }) {
  const person = usePerson();
  const [text, setText] = useState('');
  const [pasting, setPasting] = useState(false);
  const [pasted, setPasted] = useState('');
  const [outcome, setOutcome] = useState<Schema['PagesRead'] | null>(null);
  const asked = useDebounced(text, 150);
  const mayWrite = person.role !== 'viewer';
  const pages = useQuery({ ...pagesQuery(asked, 200), placeholderData: keepPreviousData });
  const readSitemap = useMutation({ ...sitemapRead(), onSuccess: setOutcome });
  const add = useMutation({
    ...pagesAdd(),
    onSuccess: (read) => {
      setOutcome(read);
      setPasted('');
    },
  });
  const remove = useMutation({ ...pageRemove(), onSuccess: () => setOutcome(null) });
  const isWriting = readSitemap.isPending || add.isPending || remove.isPending;
  const problem = [readSitemap, add, remove].sort((a, b) => b.submittedAt - a.submittedAt)[0]!.error;

  return (
    <>
      <Head title="Plan" state={pages.data && `${count(pages.data.total)} pages known`}>
        {parts}
        {mayWrite && (
          <button type="button" className="button" onClick={() => setPasting(true)}>
            Paste a list
          </button>
        )}
        {mayWrite &&
          pages.data?.sites.map((site) => (
            <button
              key={site.id}
              type="button"
              className="button-main"
              disabled={isWriting}
              onClick={() => readSitemap.mutate(site.id)}
            >
              <RefreshCw size={14} strokeWidth={1.5} /> {readSitemap.isPending ? 'Reading …' : `Read ${site.host}`}
            </button>
          ))}
      </Head>
      <div className="flex min-h-0 flex-1">
        <div className="flex min-w-0 flex-1 flex-col">
          <div className="flex min-h-11 shrink-0 items-center gap-3 border-b border-line px-5">
            <input
              className="input w-72"
              aria-label="Search pages"
              placeholder="Title or path"
              value={text}
              onChange={(e) => setText(e.target.value)}
            />
            <p role="status" className="min-w-0 flex-1 truncate text-quiet">
              {problem && <span className="text-error">{problem.message}</span>}
              {outcome &&
                `${count(outcome.found)} pages found, ${count(outcome.added)} of them new, ${count(outcome.titled)} titles read.${outcome.problems.length ? ` ${outcome.problems.length} problems: ${outcome.problems[0]}` : ''}`}
            </p>
          </div>
          <div className="min-h-0 flex-1 overflow-auto bg-sheet">
            <table className="w-full">
              <thead className="sticky top-0 z-10 bg-sheet">
                <tr className="h-[34px] border-b border-line text-left text-xs text-quiet">
                  {['Title', 'Address', 'Site', 'Seen'].map((head) => (
                    <th key={head} className="px-3 font-medium first:pl-5">
                      {head}
                    </th>
                  ))}
                  <th aria-label="Remove" />
                </tr>
              </thead>
              <tbody>
                {pages.data?.pages.map((page) => (
                  <tr key={page.id} className="h-[34px] border-b border-line">
                    <td className="max-w-80 truncate px-3 pl-5">
                      <Link to={`/compose?page=${encodeURIComponent(page.address)}`} className="hover:underline">
                        {page.title ?? <span className="text-quiet">no title yet</span>}
                      </Link>
                    </td>
                    <td className="max-w-96 truncate px-3 font-mono text-xs">{page.address}</td>
                    <td className="px-3 whitespace-nowrap">{page.site}</td>
                    <td className="px-3 whitespace-nowrap text-quiet" title={exact(page.seenAt)}>
                      {ago(page.seenAt)}
                    </td>
                    <td className="pr-3 text-right">
                      {mayWrite && (
                        <button
                          type="button"
                          className="rounded p-1 text-quiet hover:text-ink"
                          aria-label={`Remove ${page.title ?? page.address}`}
                          onClick={() => remove.mutate(page.id)}
                        >
                          <X size={14} strokeWidth={1.5} />
                        </button>
                      )}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
            {pages.data && pages.data.pages.length === 0 && (
              <p className="p-8 text-quiet">
                {asked
                  ? 'No pages match.'
                  : 'No pages yet. Read the site’s sitemap, or paste a list of addresses and titles.'}
              </p>
            )}
            {pages.data && pages.data.total > pages.data.pages.length && (
              <p className="caption px-5 py-3">
                The first {pages.data.pages.length} of {count(pages.data.total)}; search to see others.
              </p>
            )}
          </div>
        </div>
        {pasting && (
          <Inspector title="Paste pages" onClose={() => setPasting(false)}>
            <p className="text-quiet">One page per line: address or path, then a tab or space, then the title.</p>
            <textarea
              className="input h-64 py-1 font-mono text-xs"
              aria-label="Pages"
              value={pasted}
              onChange={(e) => setPasted(e.target.value)}
            />
            <button
              type="button"
              className="button-main self-start"
              disabled={pasted.trim() === '' || isWriting}
              onClick={() => add.mutate(pasted)}
            >
              Add pages
            </button>
            {outcome && outcome.problems.length > 0 && (
              <ul className="flex flex-col gap-1 text-xs">
                {outcome.problems.map((problem, i) => (
                  <li key={i}>{problem}</li>
                ))}
              </ul>
            )}
          </Inspector>
        )}
      </div>
    </>
  );
}
