import { useMutation, useQuery } from '@tanstack/react-query';
import { useState, type ReactNode } from 'react';
import { count } from '../../../parts/format';
import { usePerson } from '../../../parts/person';
import { UploadList } from '../UploadList';
import { When } from '../When';
import { linkReviewsQuery, linkReviewMake, type ReviewProgress } from './queries';
import { pagesQuery } from '../../../api/queries';

/** Looks at links in use, newest first. */
export function LinkReviewList({ parts, onOpen }: { parts: ReactNode; onOpen: (id: string) => void }) {
  const [progress, setProgress] = useState<ReviewProgress | null>(null);
  const reviews = useQuery(linkReviewsQuery());
  const pages = useQuery(pagesQuery('', 1));

  const judge = useMutation({ ...linkReviewMake(setProgress), onSuccess: onOpen, onSettled: () => setProgress(null) });

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
