import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { type Schema } from '../../api/client';
import { ago, exact } from '../../parts/format';
import { SeverityMark } from '../../parts/SeverityMark';
import { usePerson } from '../../parts/person';
import { SiteSettings } from './SiteSettings';
import { SiteSnippets } from './SiteSnippets';
import { siteChange } from './queries';

type Site = Schema['MeasuredSiteAnswer'];

/** A site: whether it is measured, the tag for its pages, and its settings. */
export function SiteCard({ site }: { site: Site }) {
  const owner = usePerson().role === 'owner';
  const [open, setOpen] = useState<'tag' | 'settings' | null>(
    site.lastMeasuredAt || site.stoppedAt || !owner ? null : 'tag',
  );
  const toggle = (part: 'tag' | 'settings') => setOpen(open === part ? null : part);
  return (
    <section aria-label={site.name} className="flex flex-col gap-3 rounded border border-line p-4">
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <h2 className="font-medium">{site.name}</h2>
        <Measured site={site} />
        <span className="ml-auto flex gap-1">
          <button type="button" className="button-plain" aria-expanded={open === 'tag'} onClick={() => toggle('tag')}>
            Tag for its pages
          </button>
          <button
            type="button"
            className="button-plain"
            aria-expanded={open === 'settings'}
            onClick={() => toggle('settings')}
          >
            Settings
          </button>
        </span>
      </div>
      <p className="font-mono text-xs leading-5">{site.hosts.join(', ')}</p>
      <Foreign site={site} />
      {open === 'tag' && <SiteSnippets site={site} />}
      {open === 'settings' && <SiteSettings site={site} />}
    </section>
  );
}

/** Whether its pages report. */
function Measured({ site }: { site: Site }) {
  if (site.stoppedAt)
    return (
      <span className="text-quiet" title={exact(site.stoppedAt)}>
        Not measured since {ago(site.stoppedAt)}
      </span>
    );
  if (!site.lastMeasuredAt) return <span className="text-quiet">Nothing measured yet</span>;
  return (
    <span role="status" title={exact(site.lastMeasuredAt)}>
      Last measured {ago(site.lastMeasuredAt)}
      {site.lastMeasuredPage && (
        <>
          {' '}
          on <span className="font-mono text-xs">{placeOf(site.lastMeasuredPage, site.hosts)}</span>
        </>
      )}
    </span>
  );
}

/** The path alone where the site has one host. */
function placeOf(page: string, hosts: readonly string[]): string {
  const url = URL.canParse(page) ? new URL(page) : null;
  return !url ? page : hosts.length > 1 ? url.host + url.pathname : url.pathname;
}

/** Somebody uses the key on a host that is not listed: most often one of the site's own. */
function Foreign({ site }: { site: Site }) {
  const owner = usePerson().role === 'owner';
  const change = useMutation(siteChange(site.id));
  if (!site.foreignHost || !site.foreignAt || site.hosts.includes(site.foreignHost)) return null;
  const host = site.foreignHost;
  return (
    <p className="flex flex-wrap items-center gap-2">
      <SeverityMark severity="warning" />
      <span>
        A page on <span className="font-mono text-xs">{host}</span> used this site’s key {ago(site.foreignAt)}. It was
        not measured, because the host is not one of the site’s.
      </span>
      {owner && (
        <button
          type="button"
          className="button"
          disabled={change.isPending}
          onClick={() => change.mutate({ hosts: [...addressesOf(site), host] })}
        >
          Add {host}
        </button>
      )}
      {change.isError && (
        <span role="alert" className="w-full text-error">
          {change.error.message}
        </span>
      )}
    </p>
  );
}

/** A site's hosts as they are typed: with http:// in front where there is no https. */
export const addressesOf = (site: Site): string[] =>
  site.hosts.map((host) => (site.plainHosts.includes(host) ? `http://${host}` : host));
