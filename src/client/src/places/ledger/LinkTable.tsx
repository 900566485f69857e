import { keepPreviousData, useMutation, useQuery } from '@tanstack/react-query';
import { Search } from 'lucide-react';
import { useEffect, useState, type KeyboardEvent } from 'react';
import { Link, useSearchParams } from 'react-router';
import { useFields } from '../../api/known';
import { count } from '../../parts/format';
import { Head } from '../../parts/Head';
import { LinkStrip } from '../../parts/LinkStrip';
import { SeverityMark } from '../../parts/SeverityMark';
import { usePerson } from '../../parts/person';
import { useDebounced } from '../../parts/useDebounced';
import { useTick } from '../../parts/useTick';
import { BulkActions } from './BulkActions';
import { chosenColumns, columns, nextOrder } from './columns';
import { GroupTable } from './GroupTable';
import { LedgerBar } from './LedgerBar';
import { LinkInspector } from './LinkInspector';
import { Select } from '../../parts/Select';
import { linksQuery, ledgerColumnsChange, hostApprove, linkIds } from './queries';

interface LinkTableProps {
  chosen: ReadonlySet<string>;
  onChoose: (chosen: ReadonlySet<string>) => void;
}

/** The links, newest first, with what came of them. */
export function LinkTable({ chosen, onChoose }: LinkTableProps) {
  useTick(30_000);
  const person = usePerson();
  const [search, setSearch] = useSearchParams();
  const [text, setText] = useState(search.get('search') ?? '');
  const settledText = useDebounced(text, 200);
  const page = Number(search.get('page') ?? '1') || 1;
  const order = search.get('order') ?? '-made';
  const size = Number(search.get('size') ?? '50') || 50;
  const asked = {
    search: search.get('search') ?? undefined,
    campaign: search.get('campaign') ?? undefined,
    placement: search.get('placement') ?? undefined,
    channel: search.get('channel') ?? undefined,
    state: search.get('state') ?? undefined,
    topic: search.get('topic') ?? undefined,
    order,
  };
  const by = search.get('by');
  const [kept, setKept] = useState(person.ledgerColumns);
  const shown = chosenColumns(kept);
  const selected = search.get('link');

  useEffect(() => {
    if (settledText === (search.get('search') ?? '')) return;
    const next = new URLSearchParams(search);
    next.delete('page');
    if (settledText) next.set('search', settledText);
    else next.delete('search');
    setSearch(next, { replace: true });
  }, [settledText, search, setSearch]);

  const links = useQuery({
    ...linksQuery(asked, page, size),
    placeholderData: keepPreviousData,
    refetchInterval: 5_000,
  });
  const fields = useFields();
  const keep = useMutation(ledgerColumnsChange());
  const approve = useMutation(hostApprove());

  function set(key: string, value: string | null) {
    const next = new URLSearchParams(search);
    if (value) next.set(key, value);
    else next.delete(key);
    if (!['page', 'link', 'open', 'codes', 'slugs'].includes(key)) next.delete('page');
    setSearch(next, { replace: key === 'link' });
  }

  function move(event: KeyboardEvent<HTMLTableRowElement>, id: string) {
    const to =
      event.key === 'ArrowDown'
        ? event.currentTarget.nextElementSibling
        : event.key === 'ArrowUp'
          ? event.currentTarget.previousElementSibling
          : null;
    if (event.target !== event.currentTarget) return;
    if (event.key === 'Enter') set('link', id);
    else if (to) (to as HTMLElement).focus();
    else return;
    event.preventDefault();
  }

  function choose(ids: string[], on: boolean) {
    const next = new Set(chosen);
    for (const id of ids) {
      if (on) next.add(id);
      else next.delete(id);
    }
    onChoose(next);
  }

  const labels = Object.fromEntries((fields.data ?? []).map((f) => [f.key, f.label]));
  const total = links.data?.total ?? 0;
  const pages = Math.max(1, Math.ceil(total / (links.data?.pageSize ?? 50)));
  const row = links.data?.links.find((l) => l.id === selected);
  // Beside the inspector there is room for figures only.
  const visible = columns.filter((c) => shown.includes(c.key) && (!row || c.right));

  return (
    <>
      <Head
        title="Ledger"
        state={
          links.data ? `${links.data.andMore ? 'more than ' : ''}${count(total)} ${total === 1 ? 'link' : 'links'}` : ''
        }
      >
        <label className="relative">
          <Search size={14} strokeWidth={1.5} className="absolute top-2 left-2 text-quiet" />
          <input
            className="input w-64 pl-7"
            placeholder="Title, slug, campaign, maker …"
            aria-label="Search links"
            value={text}
            onChange={(e) => setText(e.target.value)}
          />
        </label>
        {person.role !== 'viewer' && (
          <button type="button" className="button" onClick={() => set('slugs', '1')}>
            Import short links
          </button>
        )}
        <Link to="/compose" className="button-main">
          Compose links
        </Link>
      </Head>
      <LedgerBar
        value={(key) => search.get(key) ?? ''}
        onChange={set}
        shown={shown}
        onShow={(keys) => {
          setKept(keys);
          keep.mutate(keys);
        }}
        query={`?${new URLSearchParams(Object.entries(asked).filter((e): e is [string, string] => !!e[1]))}`}
      />
      {links.data?.waitingHosts.map((host) => (
        <div key={host.id} className="flex items-center gap-3 border-b border-line px-5 py-2">
          <SeverityMark severity="warning" />
          <span>
            <span className="font-mono">{host.host}</span> waits for approval: {host.askedBy} asked for links to this
            host. Until approved, their short links answer “no such link”.
          </span>
          {person.role === 'owner' && (
            <button
              type="button"
              className="button"
              disabled={approve.isPending}
              onClick={() => approve.mutate(host.id)}
            >
              Approve {host.host}
            </button>
          )}
        </div>
      ))}
      <div className="flex min-h-0 flex-1">
        <div className="min-w-0 flex-1 overflow-auto bg-sheet">
          {links.isError && <p className="p-5 text-error">{links.error.message}</p>}
          {links.data && total === 0 && (
            <EmptyLedger
              filtered={['search', 'campaign', 'placement', 'channel', 'state', 'topic'].some((key) => search.get(key))}
            />
          )}
          {links.data && total > 0 && by && (
            <GroupTable
              by={by}
              asked={asked}
              onOpen={(key) => {
                const next = new URLSearchParams(search);
                next.delete('by');
                next.delete('page');
                next.set(by, key);
                setSearch(next);
              }}
            />
          )}
          {links.data && total > 0 && !by && (
            <table className="w-full border-separate border-spacing-0 tabular-nums">
              <thead className="sticky top-0 z-10 bg-sheet text-left text-xs text-quiet">
                <tr className="[&>th]:border-b [&>th]:border-line [&>th]:px-2 [&>th]:py-2 [&>th]:font-medium">
                  <th scope="col" className="w-8 !pr-0 !pl-5">
                    <input
                      type="checkbox"
                      aria-label="Choose all on this page"
                      checked={links.data.links.every((l) => chosen.has(l.id))}
                      onChange={(e) =>
                        choose(
                          links.data.links.map((l) => l.id),
                          e.target.checked,
                        )
                      }
                    />
                  </th>
                  <th scope="col">
                    <button
                      type="button"
                      className="hover:text-ink"
                      onClick={() => set('order', order === 'title' ? '-title' : 'title')}
                    >
                      Link{order === 'title' ? ' ↓' : order === '-title' ? ' ↑' : ''}
                    </button>
                  </th>
                  {visible.map((column) => (
                    <th
                      key={column.key}
                      scope="col"
                      title={column.more}
                      aria-sort={
                        column.order && order.endsWith(column.order)
                          ? order.startsWith('-')
                            ? 'descending'
                            : 'ascending'
                          : undefined
                      }
                      className={`whitespace-nowrap last:!pr-5 ${column.right ? 'text-right' : ''}`}
                    >
                      {column.order ? (
                        <button
                          type="button"
                          className="hover:text-ink"
                          onClick={() => set('order', nextOrder(order, column.order!))}
                        >
                          {column.title}
                          {order === `-${column.order}` ? ' ↓' : order === column.order ? ' ↑' : ''}
                        </button>
                      ) : (
                        column.title
                      )}
                    </th>
                  ))}
                </tr>
              </thead>
              <tbody>
                {links.data.links.map((link, i) => (
                  <tr
                    key={link.id}
                    tabIndex={selected === link.id || (!row && i === 0) ? 0 : -1}
                    aria-selected={selected === link.id}
                    onClick={() => set('link', link.id)}
                    onKeyDown={(e) => move(e, link.id)}
                    className="h-[34px] cursor-pointer hover:bg-accent-wash aria-selected:bg-accent-wash [&>td]:border-b [&>td]:border-line [&>td]:px-2 [&>td]:py-1.5"
                  >
                    <td className="!pr-0 !pl-5" onClick={(e) => e.stopPropagation()}>
                      <input
                        type="checkbox"
                        aria-label={`Choose ${link.title ?? link.url}`}
                        checked={chosen.has(link.id)}
                        onChange={(e) => choose([link.id], e.target.checked)}
                      />
                    </td>
                    <td className="w-full max-w-0 min-w-64">
                      <span className="block truncate font-medium">{link.title}</span>
                      <LinkStrip segments={link.strip} labels={labels} />
                    </td>
                    {visible.map((column) => (
                      <td
                        key={column.key}
                        title={column.hover?.(link)}
                        className={`max-w-56 truncate whitespace-nowrap last:!pr-5 ${column.right ? 'text-right' : ''} ${column.mono ? 'font-mono text-xs' : ''} ${column.key === 'state' && link.state === 'waiting' ? 'text-warning' : ''}`}
                      >
                        {column.cell(link)}
                      </td>
                    ))}
                  </tr>
                ))}
              </tbody>
            </table>
          )}
        </div>
        {row && <LinkInspector link={row} onClose={() => set('link', null)} onOpen={() => set('open', row.id)} />}
      </div>
      <BulkActions
        chosen={chosen}
        found={total}
        retired={search.get('state') === 'retired'}
        onCodes={() => set('codes', '1')}
        onChooseNone={() => onChoose(new Set())}
        onChooseFound={async () => onChoose(new Set(await linkIds(asked)))}
      />
      {total > 25 && !by && (
        <footer className="flex h-12 shrink-0 items-center justify-end gap-3 border-t border-line px-5">
          <Select
            className="mr-auto"
            label="Links on a page"
            value={String(size)}
            onChange={(value) => set('size', value)}
            options={[25, 50, 100, 200, 500].map((n) => [String(n), `${n} on a page`] as const)}
          />
          <button type="button" className="button" disabled={page <= 1} onClick={() => set('page', String(page - 1))}>
            Previous
          </button>
          <span className="tabular-nums">
            Page {page} of {pages}
          </span>
          <button
            type="button"
            className="button"
            disabled={page >= pages}
            onClick={() => set('page', String(page + 1))}
          >
            Next
          </button>
        </footer>
      )}
    </>
  );
}

function EmptyLedger({ filtered }: { filtered: boolean }) {
  return (
    <div className="flex h-full items-center justify-center p-8">
      <div className="max-w-md">
        <h2 className="mb-2 font-semibold">{filtered ? 'No links match' : 'No links yet'}</h2>
        <p className="text-quiet">
          {filtered
            ? 'Search for less, or reset the filters.'
            : 'Every saved link appears here with its short link, QR code and counts.'}
        </p>
      </div>
    </div>
  );
}
