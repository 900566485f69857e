import { useQueries } from '@tanstack/react-query';
import { type PlacementAnswer } from '../../api/client';
import { CopyButton } from '../../parts/CopyButton';
import { NoticeList } from '../../parts/NoticeList';
import type { Composition } from './composition';
import { snippetQuery } from './queries';

interface SnippetListProps {
  composition: Composition;
  placements: PlacementAnswer[];
}

const mostShown = 20;

/** Without any page: the parameters alone, for tools that put them on links of their own. */
export function SnippetList({ composition, placements }: SnippetListProps) {
  const chosen = (composition.placements.length ? composition.placements : ['']).slice(0, mostShown);
  const fields = composition.common;
  const snippets = useQueries({
    queries: chosen.map((placement) => {
      return snippetQuery({ placement: placement || null, campaign: composition.campaign || null, fields });
    }),
  });
  return (
    <section aria-label="Parameters only" className="min-h-0 min-w-0 flex-1 overflow-auto bg-sheet p-5">
      <h2 className="font-semibold">Parameters only</h2>
      <p className="mb-4 text-quiet">
        For the parameter field of an ad platform or mail tool that adds them to every link. Placeholders stay as they
        are. Choose a page to get whole links.
      </p>
      <ul className="flex max-w-3xl flex-col gap-4">
        {snippets.map((snippet, i) => (
          <li key={chosen[i]} className="border-t border-line pt-3">
            <div className="flex items-baseline justify-between gap-3">
              <h3 className="font-medium">{placements.find((p) => p.id === chosen[i])?.name ?? 'No placement'}</h3>
              {snippet.data?.ready && (
                <span>
                  <CopyButton text={snippet.data.parameterText} label="Copy parameters" />
                  <CopyButton text={snippet.data.encoded} label="Copy encoded" />
                </span>
              )}
            </div>
            {snippet.data && (
              <>
                <p className="font-mono text-xs break-all">{snippet.data.parameterText || '–'}</p>
                {snippet.data.ready && (
                  <p className="mt-2 flex items-baseline gap-2">
                    <span className="caption shrink-0">pattern for tools that only shorten</span>
                    <span
                      className="min-w-0 flex-1 truncate font-mono text-xs text-quiet"
                      title={snippet.data.shortenPattern}
                    >
                      {snippet.data.shortenPattern}
                    </span>
                    <CopyButton text={snippet.data.shortenPattern} label="Copy pattern" />
                  </p>
                )}
                {snippet.data.notices.length > 0 && (
                  <div className="mt-2">
                    <NoticeList notices={snippet.data.notices} />
                  </div>
                )}
              </>
            )}
            {snippet.error && <p>{snippet.error.message}</p>}
          </li>
        ))}
      </ul>
      {composition.placements.length > mostShown && (
        <p className="caption mt-4">
          The first {mostShown} of {composition.placements.length} placements are shown.
        </p>
      )}
    </section>
  );
}
