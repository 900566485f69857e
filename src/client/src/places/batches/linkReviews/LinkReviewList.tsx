import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState, type ReactNode } from 'react';
import { api, Refused, type Schema } from '../../../api/client';
import { lastLineOf } from '../../../api/lines';
import { count } from '../../../parts/format';
import { usePerson } from '../../../parts/person';
import { UploadList } from '../UploadList';
import { When } from '../When';
import { linkReviewsQuery } from './queries';
import { pagesQuery } from '../../../api/queries';

type Progress = Schema['LinkReviewProgress'];

/** Looks at links in use, newest first. */
export function LinkReviewList({ parts, onOpen }: { parts: ReactNode; onOpen: (id: string) => void }) {
  const queries = useQueryClient();
  const [progress, setProgress] = useState<{ done: number; total: number; what: string } | null>(null);
  const reviews = useQuery(linkReviewsQuery());
  const pages = useQuery(pagesQuery('', 1));

  async function ended(answer: Parameters<typeof lastLineOf>[0], what: string) {
    const last = await lastLineOf<Progress>(answer, (line) => setProgress({ ...line, what }));
    if (!last.id) throw new Refused(last.refused ?? 'The review was interrupted. Start it again.', 422);
    return last.id;
  }
  const judge = useMutation({
    mutationFn: async (asked: File | { site: string }) =>
      asked instanceof File
        ? ended(
            await api.POST('/api/v1/link-reviews', {
              params: { query: { name: asked.name } },
              body: asked as never,
              bodySerializer: (body: unknown) => body as Blob,
              parseAs: 'stream',
            } as never),
            'links',
          )
        : ended(
            await api.POST('/api/v1/link-reviews/site', { body: { site: asked.site }, parseAs: 'stream' }),
            'pages',
          ),
    onSuccess: async (id) => {
      await queries.invalidateQueries({ queryKey: ['link-reviews'] });
      onOpen(id);
    },
    onSettled: () => setProgress(null),
  });

  return (
    <UploadList
      parts={parts}
      state={
        reviews.data && `${count(reviews.data.length)} ${reviews.data.length === 1 ? 'link review' : 'link reviews'}`
      }
      mayWrite={usePerson().role !== 'viewer'}
      file={{
        label: 'Links in use',
        accept: '.csv,.tsv,.txt,.xlsx',
        says: 'Review links in use',
        pending: judge.isPending,
      }}
      hint="Drop a list or a sheet with links, paste one link per line, or crawl a site:"
      paste={{ label: 'Pasted links', asFile: (text) => new File([text], 'Pasted links', { type: 'text/plain' }) }}
      onFile={(file) => judge.mutate(file)}
      error={judge.error}
      progress={
        progress && (
          <p role="status" className="flex items-center gap-2 border-b border-line px-5 py-2 text-quiet">
            <progress className="h-2 w-40" aria-label="Progress" max={progress.total} value={progress.done} />
            {count(progress.done)} of {count(progress.total)} {progress.what}
          </p>
        )
      }
      more={pages.data?.sites.map((site) => (
        <button
          key={site.id}
          type="button"
          className="button"
          disabled={judge.isPending}
          onClick={() => judge.mutate({ site: site.id })}
        >
          Crawl {site.name}
        </button>
      ))}
      empty="No link reviews yet. Upload the links you already use: each is checked against the convention and repaired where possible, and the rest is listed with the reason."
      samples={['old-links.csv']}
      heads={[
        { name: 'Source' },
        { name: 'Links', number: true },
        { name: 'Right', number: true },
        { name: 'Repaired', number: true },
        { name: 'To decide', number: true },
        { name: 'When' },
      ]}
      rows={reviews.data?.map((a) => ({
        id: a.id,
        cells: [
          a.pages === null ? a.name : `${a.name} · ${count(a.pages)} pages`,
          ...[a.right + a.mended + a.stuck, a.right, a.mended, a.stuck].map(count),
          <When key="when" at={a.createdAt} by={a.createdBy} />,
        ],
      }))}
      onOpen={onOpen}
    />
  );
}
