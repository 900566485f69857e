import { keepPreviousData, useMutation, useQuery } from '@tanstack/react-query';
import { Search } from 'lucide-react';
import { useEffect, useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { live } from '../../api/live';
import { count } from '../../parts/format';
import { Head } from '../../parts/Head';
import { usePerson } from '../../parts/person';
import { useDebounced } from '../../parts/useDebounced';
import { useTick } from '../../parts/useTick';
import { BehindVisits, withoutVisits } from './BehindVisits';
import { BulkActions } from './BulkActions';
import { chosenColumns, columns } from './columns';
import { GroupTable } from './GroupTable';
import { LedgerBar } from './LedgerBar';
import { LinkInspector } from './LinkInspector';
import { Select } from '../../parts/Select';
import { linksQuery, ledgerColumnsChange, linkIds } from './queries';
import { LinkRows } from './LinkRows';
import { WaitingHosts } from './WaitingHosts';

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
    visitsFrom: search.get('visitsFrom') ?? undefined,
    visitsTo: search.get('visitsTo') ?? undefined,
    ...(search.has('visitsWhere') && { visitsWhere: search.getAll('visitsWhere') }),
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
    ...live,
  });
  const keep = useMutation(ledgerColumnsChange());

  function set(key: string, value: string | null) {
    const next = new URLSearchParams(search);
    if (value) next.set(key, value);
    else next.delete(key);
    if (!['page', 'link', 'open', 'codes', 'slugs'].includes(key)) next.delete('page');
    setSearch(next, { replace: key === 'link' });
  }

  function choose(ids: string[], on: boolean) {
    const next = new Set(chosen);
    for (const id of ids) {
      if (on) next.add(id);
      else next.delete(id);
    }
    onChoose(next);
  }

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
        query={`?${new URLSearchParams(
          Object.entries(asked).flatMap(([key, value]) =>
            [value ?? []].flat().map((one): [string, string] => [key, one]),
          ),
        )}`}
      />
      <BehindVisits search={search} onLeave={() => setSearch(withoutVisits(search))} />
      <WaitingHosts hosts={links.data?.waitingHosts ?? []} />
      <div className="flex min-h-0 flex-1">
        <div className="min-w-0 flex-1 overflow-auto bg-sheet">
          {links.isError && <p className="p-5 text-error">{links.error.message}</p>}
          {links.data && total === 0 && (
            <EmptyLedger
              filtered={['search', 'campaign', 'placement', 'channel', 'state', 'topic', 'visitsFrom'].some((key) =>
                search.get(key),
              )}
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
            <LinkRows
              links={links.data.links}
              columns={visible}
              order={order}
              onOrder={(next) => set('order', next)}
              selected={selected}
              isFirstInReach={!row}
              onSelect={(id) => set('link', id)}
              chosen={chosen}
              onChoose={choose}
            />
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
