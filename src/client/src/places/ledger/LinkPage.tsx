import { useQuery } from '@tanstack/react-query';
import { useSearchParams } from 'react-router';
import { useFields } from '../../api/known';
import { CopyButton } from '../../parts/CopyButton';
import { ago, exact } from '../../parts/format';
import { Head } from '../../parts/Head';
import { LinkStrip } from '../../parts/LinkStrip';
import { PartTabs } from '../../parts/PartTabs';
import { TryLink } from '../../parts/TryLink';
import { CodeDesigner } from './codes/CodeDesigner';
import { LinkCounts } from './LinkCounts';
import { LinkEvents } from './LinkEvents';
import { LinkNaming } from './LinkNaming';
import { LinkRates } from './LinkRates';
import { LinkRoute } from './LinkRoute';
import { linkQuery } from './queries';

const parts = [
  ['counts', 'Counts'],
  ['code', 'Code'],
  ['route', 'Destination'],
  ['cost', 'Cost'],
  ['history', 'History'],
] as const;
type Part = (typeof parts)[number][0];

/** A link's own page: what it says, its forms, its code, where it leads and what came of it. */
export function LinkPage({ id, onLeave }: { id: string; onLeave: () => void }) {
  const [search, setSearch] = useSearchParams();
  const part = (parts.find(([p]) => p === search.get('part'))?.[0] ?? 'counts') as Part;
  const fields = useFields();
  const link = useQuery({ ...linkQuery(id), retry: false });
  function go(next: Part) {
    const to = new URLSearchParams(search);
    to.set('part', next);
    setSearch(to, { replace: true });
  }
  const l = link.data;
  const labels = Object.fromEntries((fields.data ?? []).map((f) => [f.key, f.label]));
  return (
    <>
      <Head
        title={l?.title ?? 'Link'}
        state={
          l && (
            <>
              by {l.createdBy}, <span title={exact(l.createdAt)}>{ago(l.createdAt)}</span>
              {l.campaign && <> for {l.campaign}</>}
              {l.placement && <> in {l.placement}</>}
            </>
          )
        }
      >
        {l && <PartTabs label="Parts of the link" parts={parts} at={part} onGo={go} />}
        <button type="button" className="button" onClick={onLeave}>
          All links
        </button>
      </Head>
      <div className="min-h-0 flex-1 overflow-auto bg-sheet">
        {link.isError && <p className="p-5 text-error">{link.error.message}</p>}
        {l && (
          <>
            <div className="flex flex-col gap-2 border-b border-line px-5 py-3">
              <LinkStrip segments={l.strip} labels={labels} />
              <div className="flex flex-wrap items-center gap-x-5 gap-y-1">
                <Form says="Long link" text={l.url} />
                {l.shortUrl && (
                  <Form says={l.waiting ? 'Short link, waits for approval' : 'Text link'} text={l.shortUrl} shown />
                )}
                {l.codeShortUrl && <Form says="QR link" text={l.codeShortUrl} shown />}
                <TryLink linkId={id} className="button-plain -ml-1.5" />
              </div>
              <LinkNaming key={`${l.title} ${l.topics.join()}`} link={l} />
            </div>
            <div className="p-5">
              {part === 'cost' && <LinkRates linkId={id} />}
              {part === 'history' && <LinkEvents linkId={id} />}
              {!l.shortUrl && (part === 'code' || part === 'route') && (
                <p className="text-quiet">
                  This link has no short link, so it has no code, and where it leads can’t be changed.
                </p>
              )}
              {part === 'counts' && <LinkCounts linkId={id} />}
              {l.shortUrl && part === 'code' && (
                <CodeDesigner linkId={id} slug={l.codeShortUrl?.split('/').pop() ?? 'code'} />
              )}
              {l.shortUrl && part === 'route' && (
                <div className="max-w-xl">
                  <LinkRoute linkId={id} />
                </div>
              )}
            </div>
          </>
        )}
      </div>
    </>
  );
}

function Form({ says, text, shown }: { says: string; text: string; shown?: boolean }) {
  return (
    <span className="flex items-center gap-1.5">
      <span className="caption">{says}</span>
      {shown && <span className="font-mono text-xs">{text.replace(/^https?:\/\//, '')}</span>}
      <CopyButton text={text} label="Copy" />
    </span>
  );
}
