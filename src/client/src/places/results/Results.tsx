import { useQuery } from '@tanstack/react-query';
import { useEffect, type ReactNode } from 'react';
import { PictureMenu } from '../../parts/picture/PictureMenu';
import { LinkResults } from './LinkResults';
import { resultsQuery } from './queries';
import { ViewResults } from './ViewResults';

/** Figures for somebody without an account: a view of Arrivals, or one link's. */
export function Results({ token }: { token: string }) {
  const about = useQuery(resultsQuery(token));
  useEffect(() => {
    if (about.data) document.title = `${about.data.title} · ${about.data.workspace}`;
  }, [about.data]);
  if (about.isError)
    return (
      <main className="mx-auto max-w-lg p-8">
        <h1 className="mb-2 text-lg font-semibold">There is nothing here</h1>
        <p>{about.error.message}</p>
      </main>
    );
  if (!about.data) return null;
  return about.data.address === null ? (
    <LinkResults token={token} about={about.data} />
  ) : (
    <ViewResults token={token} about={about.data} address={about.data.address} />
  );
}

/** The head of a results page. */
export const ResultsHead = ({
  title,
  workspace,
  children,
}: {
  title: string;
  workspace: string;
  children?: ReactNode;
}) => (
  <header className="border-b border-line px-5 pt-4 pb-3 max-sm:px-3">
    <div className="flex items-start justify-between gap-3">
      <div>
        <p className="caption">{workspace}</p>
        <h1 className="text-xl font-semibold">{title}</h1>
      </div>
      <PictureMenu title={title} />
    </div>
    <p className="text-quiet">{children}</p>
  </header>
);
