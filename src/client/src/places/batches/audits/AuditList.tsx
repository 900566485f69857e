import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState, type ReactNode } from 'react';
import { api, dataOf, Refused, type Schema } from '../../../api/client';
import { lastLineOf } from '../../../api/lines';
import { ago, count, exact } from '../../../parts/format';
import { Head } from '../../../parts/Head';
import { usePerson } from '../../../parts/person';
import { DropArea } from '../DropArea';
import { FileButton } from '../FileButton';

type Progress = Schema['AuditProgress'];

/** Looks at links in use, newest first. */
export function AuditList({ parts, onOpen }: { parts: ReactNode; onOpen: (id: string) => void }) {
  const person = usePerson();
  const queries = useQueryClient();
  const mayWrite = person.role !== 'Viewer';
  const [progress, setProgress] = useState<{ done: number; total: number; what: string } | null>(null);
  const audits = useQuery({
    queryKey: ['audits'],
    queryFn: async () => dataOf(await api.GET('/api/v1/audits')),
  });
  const pages = useQuery({
    queryKey: ['pages', 'sites'],
    queryFn: async () => dataOf(await api.GET('/api/v1/pages', { params: { query: { most: 1 } } })),
  });

  async function ended(answer: Parameters<typeof lastLineOf>[0], what: string) {
    const last = await lastLineOf<Progress>(answer, (line) => setProgress({ ...line, what }));
    if (!last.id) throw new Refused(last.refused ?? 'The audit broke off; start it again.', 422);
    return last.id;
  }
  const judge = useMutation({
    mutationFn: async (asked: File | { site: string }) =>
      asked instanceof File
        ? ended(
            await api.POST('/api/v1/audits', {
              params: { query: { name: asked.name } },
              body: asked as never,
              bodySerializer: (body: unknown) => body as Blob,
              parseAs: 'stream',
            } as never),
            'links',
          )
        : ended(await api.POST('/api/v1/audits/site', { body: { site: asked.site }, parseAs: 'stream' }), 'pages'),
    onSuccess: async (id) => {
      await queries.invalidateQueries({ queryKey: ['audits'] });
      onOpen(id);
    },
    onSettled: () => setProgress(null),
  });

  return (
    <>
      <Head
        title="Batches"
        state={audits.data && `${count(audits.data.length)} ${audits.data.length === 1 ? 'audit' : 'audits'}`}
      >
        {parts}
        {mayWrite && (
          <FileButton
            label="Links in use"
            accept=".csv,.tsv,.txt,.xlsx"
            pending={judge.isPending}
            says="Bring links in use"
            onFile={(file) => judge.mutate(file)}
          />
        )}
      </Head>
      <DropArea disabled={!mayWrite} onFile={(file) => judge.mutate(file)}>
        {mayWrite && (
          <div className="flex flex-wrap items-center gap-4 border-b border-line px-5 py-3">
            <p className="text-quiet">
              Drop a list or a sheet with links, paste links one a line, or look through a site:
            </p>
            <textarea
              aria-label="Pasted links"
              className="input h-8 w-48 resize-none py-1"
              placeholder="paste here"
              value=""
              onChange={() => undefined}
              onPaste={(e) => {
                e.preventDefault();
                const text = e.clipboardData.getData('text/plain');
                if (text.trim() !== '') judge.mutate(new File([text], 'Pasted links', { type: 'text/plain' }));
              }}
            />
            {pages.data?.sites.map((site) => (
              <button
                key={site.id}
                type="button"
                className="button"
                disabled={judge.isPending}
                onClick={() => judge.mutate({ site: site.id })}
              >
                Look through {site.name}
              </button>
            ))}
          </div>
        )}
        {progress && (
          <p role="status" className="flex items-center gap-2 border-b border-line px-5 py-2 text-quiet">
            <progress className="h-2 w-40" aria-label="Progress" max={progress.total} value={progress.done} />
            {count(progress.done)} of {count(progress.total)} {progress.what}
          </p>
        )}
        {judge.isError && (
          <p role="alert" className="border-b border-line px-5 py-2 text-stop">
            {judge.error.message}
          </p>
        )}
        <div className="min-h-0 flex-1 overflow-auto bg-sheet">
          {audits.data?.length === 0 ? (
            <p className="max-w-xl p-8 text-quiet">
              Nothing was looked at yet. Bring the links that are out there: each is judged by the convention, those
              that can be mended are, and the rest is named with the reason. Try it with samples/old-links.csv.
            </p>
          ) : (
            <table className="w-full">
              <thead className="sticky top-0 bg-sheet">
                <tr className="h-[34px] border-b border-line text-left text-xs text-quiet">
                  {['Looked at', 'Links', 'Right', 'Mended', 'To decide', 'When'].map((head, i) => (
                    <th key={head} className={`px-3 font-medium first:pl-5 ${i > 0 && i < 5 ? 'text-right' : ''}`}>
                      {head}
                    </th>
                  ))}
                </tr>
              </thead>
              <tbody>
                {audits.data?.map((a) => (
                  <tr
                    key={a.id}
                    tabIndex={0}
                    className="h-[34px] cursor-pointer border-b border-line hover:bg-accent-wash focus-visible:outline-offset-[-2px]"
                    onClick={() => onOpen(a.id)}
                    onKeyDown={(e) => e.key === 'Enter' && onOpen(a.id)}
                  >
                    <td className="px-3 pl-5">
                      {a.name}
                      {a.pages != null && <span className="text-quiet"> · {count(a.pages)} pages</span>}
                    </td>
                    {[a.right + a.mended + a.stuck, a.right, a.mended, a.stuck].map((n, i) => (
                      <td key={i} className="px-3 text-right tabular-nums">
                        {count(n)}
                      </td>
                    ))}
                    <td className="px-3" title={exact(a.createdAt)}>
                      {ago(a.createdAt)} by {a.createdBy}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          )}
        </div>
      </DropArea>
    </>
  );
}
