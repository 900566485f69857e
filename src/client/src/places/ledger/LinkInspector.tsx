import { useMutation, useQueryClient } from '@tanstack/react-query';
import { Link, useNavigate } from 'react-router';
import { type LedgerRow } from '../../api/client';
import { arrivalsAddress } from '../../parts/arrivalsAddress';
import { CodePreview } from '../../parts/CodePreview';
import { CopyButton } from '../../parts/CopyButton';
import { ago, count, exact, money, rate } from '../../parts/format';
import { Inspector, InspectorPart } from '../../parts/Inspector';
import { NoticeList } from '../../parts/NoticeList';
import { usePerson } from '../../parts/person';
import { composeAddress } from '../../parts/composeAddress';
import { TryLink } from '../../parts/TryLink';
import { LinkRoute } from './LinkRoute';
import { linkRouteOverwrite, linkRouteQuery } from './queries';

interface LinkInspectorProps {
  link: LedgerRow;
  onClose: () => void;
  onOpen: () => void;
}

/** A link's own page: where it leads, its code, and the way from click to visit to revenue. */
export function LinkInspector({ link, onClose, onOpen }: LinkInspectorProps) {
  const navigate = useNavigate();
  return (
    <Inspector title={link.title ?? 'Link'} onClose={onClose}>
      <span className="flex shrink-0 items-center gap-2">
        <button type="button" className="button" onClick={onOpen}>
          Open link page
        </button>
        <Link
          className="button-plain"
          to={arrivalsAddress({ where: [['link', link.id]], rows: ['source', 'content', 'country'], span: '365d' })}
        >
          Show in Arrivals
        </Link>
      </span>
      <TryLink linkId={link.id} />
      <InspectorPart title="From click to revenue">
        <ol className="flex flex-col gap-1 tabular-nums">
          <Step
            name="Clicks and scans"
            figure={count(link.clicks + link.scans)}
            more={link.others ? `${count(link.others)} more were crawlers, prefetches or double taps` : undefined}
          />
          <Step
            name="Visits with these tags"
            figure={count(link.visits)}
            more={link.visits ? `${count(link.visitors)} visitors, ${rate(link.bounceRate)} bounced` : undefined}
          />
          <Step
            name="Conversions"
            figure={count(link.conversions)}
            more={link.visits ? `${rate(link.conversionRate)} of visits` : undefined}
          />
          <Step name="Revenue" figure={money(link.revenue)} more={link.cost ? `cost ${money(link.cost)}` : undefined} />
        </ol>
      </InspectorPart>
      {link.shortUrl && (
        <InspectorPart title={link.waiting ? 'Short link and code, waiting for approval' : 'Short link and code'}>
          <div className="flex items-start gap-3">
            <CodePreview linkId={link.id} says={link.codeShortUrl ?? ''} />
            <div className="flex min-w-0 flex-col items-start gap-1">
              <span className="caption">Text link</span>
              <span className="font-mono text-xs break-all">{shortOf(link)}</span>
              <CopyButton text={shortOf(link)} label="Copy" className="button-plain -ml-1.5" />
              <span className="caption">QR link</span>
              <span className="font-mono text-xs break-all">{link.codeShortUrl}</span>
            </div>
          </div>
        </InspectorPart>
      )}
      {link.shortUrl && <LinkRoute linkId={link.id} />}
      <InspectorPart title="Long link">
        <p className="font-mono text-xs break-all">{link.url}</p>
        <CopyButton text={link.url} label="Copy" className="button-plain -ml-1.5" />
      </InspectorPart>
      <InspectorPart title="Fields">
        <dl className="grid grid-cols-[auto_1fr] gap-x-3 gap-y-1">
          {link.values.map((tag) => (
            <div key={tag.key} className="contents">
              <dt className="text-quiet">{tag.label}</dt>
              <dd className="font-mono text-xs leading-5 break-all">{tag.value}</dd>
            </div>
          ))}
        </dl>
      </InspectorPart>
      {link.notices.length > 0 && (
        <InspectorPart title="Under the current convention">
          <NoticeList
            notices={link.notices}
            wayOut={(notice) => notice.rule === 'placeholder-on-short-link' && <CarryThrough link={link} />}
          />
          <button type="button" className="button mt-2" onClick={() => navigate(anew(link))}>
            Rebuild in Compose
          </button>
        </InspectorPart>
      )}
      <InspectorPart title="Created">
        <p>
          by {link.createdBy}, <span title={exact(link.createdAt)}>{ago(link.createdAt)}</span>
          {link.campaign && <> for {link.campaign}</>}
          {link.placement && <> in {link.placement}</>}
        </p>
      </InspectorPart>
    </Inspector>
  );
}

function Step({ name, figure, more }: { name: string; figure: string; more?: string }) {
  return (
    <li className="border-l-2 border-line-strong pl-3">
      <span className="flex justify-between gap-2">
        <span>{name}</span> <span className="font-medium">{figure}</span>
      </span>
      {more && <span className="caption">{more}</span>}
    </li>
  );
}

/** The short link, with what a platform fills in behind it where that is carried through. */
function shortOf(link: LedgerRow): string {
  return link.copyUrl.startsWith(link.shortUrl!) ? link.copyUrl : link.shortUrl!;
}

/** Lets what a platform puts behind the short link take the place of its placeholders; or gives the long link to be copied. */
function CarryThrough({ link }: { link: LedgerRow }) {
  const person = usePerson();
  const queries = useQueryClient();
  const carry = useMutation({
    ...linkRouteOverwrite(link.id),
    onSuccess: (next) => queries.setQueryData(linkRouteQuery(link.id).queryKey, next),
  });
  return (
    <>
      <CopyButton text={link.url} label="Copy long link" className="button-plain -ml-1.5" />
      {person.role !== 'viewer' && (
        <button type="button" className="button-plain" disabled={carry.isPending} onClick={() => carry.mutate()}>
          Carry parameters through
        </button>
      )}
      {carry.isError && (
        <span role="alert" className="block text-error">
          {carry.error.message}
        </span>
      )}
    </>
  );
}

/**
 * The address of Compose with the link's page, campaign and placement. What the convention finds fault with is taken
 * along as it stands, so that its repair is one stroke; all else follows from the convention.
 */
function anew(link: LedgerRow): string {
  const faulty = new Set(link.notices.map((n) => n.field));
  const values = link.values.filter((v) => faulty.has(v.key)).map((v) => [v.key, v.value] as const);
  return composeAddress(link.destination, link.placementId, link.campaignId, Object.fromEntries(values));
}
