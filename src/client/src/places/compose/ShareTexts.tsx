import { keepPreviousData, useMutation, useQuery } from '@tanstack/react-query';
import { Check } from 'lucide-react';
import { useRef, useState, type KeyboardEvent, type ReactNode } from 'react';
import { Link, useSearchParams } from 'react-router';
import { Refused, type CampaignAnswer, type Schema } from '../../api/client';
import { usePlacements } from '../../api/known';
import { copyText } from '../../parts/CopyButton';
import { count } from '../../parts/format';
import { Head } from '../../parts/Head';
import { usePerson } from '../../parts/person';
import { Picker } from '../../parts/Picker';
import { useDebounced } from '../../parts/useDebounced';
import { dayOf } from '../../parts/days';
import { Select } from '../../parts/Select';
import { FormField } from '../../parts/FormField';
import { filledTextQuery, sharePagesQuery, shareTextKeep, linkPlaced } from './queries';
import { placementSetsQuery } from '../../api/queries';

interface ShareTextsProps {
  parts: ReactNode;
  campaigns: CampaignAnswer[];
  campaign: string;
  onCampaign: (campaign: string) => void;
}

const fillIns = ['link', 'placement', 'publisher', 'campaign', 'page'];

/** A text written once for a page and repeated with each placement's own link, to be worked through from the keyboard. */
export function ShareTexts({ parts, campaigns, campaign, onCampaign }: ShareTextsProps) {
  const [search, setSearch] = useSearchParams();
  const pages = useQuery({ ...sharePagesQuery(campaign), enabled: campaign !== '' });
  const page = pages.data?.find((p) => p.page === search.get('of')) ?? pages.data?.[0];

  return (
    <>
      <Head
        title="Compose"
        state={
          page ? `${count(page.placed)} of ${count(page.links)} links placed` : 'Write one text and post it everywhere'
        }
      >
        {parts}
      </Head>
      <div className="flex flex-wrap items-center gap-2 border-b border-line px-5 py-3">
        <span>Texts of</span>
        <Picker
          label="Campaigns"
          empty="choose a campaign"
          options={campaigns.map((c) => ({ value: c.id, label: c.name, detail: `${c.links} links` }))}
          chosen={campaign ? [campaign] : []}
          onChange={([chosen]) => onCampaign(chosen ?? '')}
        />
        {pages.data && pages.data.length > 0 && (
          <>
            <span>for the page</span>
            <Select
              className="max-w-96"
              label="Page"
              value={page?.page ?? ''}
              onChange={(value) => {
                const next = new URLSearchParams(search);
                next.set('of', value);
                setSearch(next, { replace: true });
              }}
              options={pages.data.map((p) => [p.page, `${p.title ?? p.page} (${p.links})`] as const)}
            />
          </>
        )}
      </div>
      {page ? (
        <TextAndPlacements key={`${campaign} ${page.page}`} campaign={campaign} page={page} />
      ) : (
        <div className="flex flex-1 items-center justify-center bg-sheet p-8">
          <p className="max-w-md text-quiet">
            {campaign === ''
              ? 'Choose the campaign whose links you want to post.'
              : pages.isError
                ? pages.error.message
                : pages.data &&
                  'This campaign has no links with a placement yet. Save its links first; their texts appear here.'}
          </p>
        </div>
      )}
    </>
  );
}

function TextAndPlacements({ campaign, page }: { campaign: string; page: Schema['SharePageAnswer'] }) {
  const person = usePerson();
  const list = useRef<HTMLUListElement>(null);
  const [text, setText] = useState(page.text);
  const [kept, setKept] = useState({ text: page.text, revision: page.revision });
  const [onlyOpen, setOnlyOpen] = useState(false);
  const [message, setMessage] = useState('');
  const mayWrite = person.role !== 'viewer';
  const asked = useDebounced(text, 120);
  const filled = useQuery({ ...filledTextQuery(campaign, page.page, asked), placeholderData: keepPreviousData });
  const keep = useMutation({
    ...shareTextKeep(),
    onSuccess: ({ revision }) => {
      setKept({ text, revision });
      setMessage('Text saved.');
    },
    onError: (error) => {
      setMessage(error.message);
      if (error instanceof Refused && error.rule === 'changed-meanwhile') setKept(error.theirs as typeof kept);
    },
  });
  const placements = usePlacements();
  const sets = useQuery(placementSetsQuery());
  const [set, setSet] = useState('');
  const place = useMutation({ ...linkPlaced(), onError: (error) => setMessage(error.message) });

  const all = filled.data?.texts ?? [];
  const names = new Set(
    placements.data?.filter((p) => sets.data?.find((s) => s.id === set)?.placements.includes(p.id)).map((p) => p.name),
  );
  const rows = all.filter((row) => (!onlyOpen || row.placedAt === null) && (!set || names.has(row.placement)));
  const missing = [...new Set(all.flatMap((row) => row.missing))];

  function copyAndGoOn(row: Schema['FilledText']) {
    if (mayWrite && row.placedAt === null) place.mutate({ linkId: row.linkId, placed: true });
    const at = rows.indexOf(row);
    const open = [...rows.slice(at + 1), ...rows.slice(0, at)].filter((r) => r.placedAt === null);
    const next = open.find((r) => r.mayUseToday);
    const early = open.slice(0, next ? open.indexOf(next) : undefined).length;
    const skipped = early > 0 ? ` ${count(early)} not yet due ${early === 1 ? 'was' : 'were'} skipped.` : '';
    void copyText(row.text).then(() => setMessage(`Copied for ${row.placement}.${skipped}`));
    if (next) requestAnimationFrame(() => focus(next.linkId));
  }
  const focus = (linkId: string) => list.current?.querySelector<HTMLElement>(`[data-link="${linkId}"]`)?.focus();

  function onKey(event: KeyboardEvent, row: Schema['FilledText']) {
    if (event.target !== event.currentTarget) return;
    const at = rows.indexOf(row);
    if (event.key === 'Enter' || event.key === 'c') copyAndGoOn(row);
    else if (event.key === ' ' && mayWrite) place.mutate({ linkId: row.linkId, placed: row.placedAt === null });
    else if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
      const next = rows[at + (event.key === 'ArrowDown' ? 1 : -1)];
      if (next) focus(next.linkId);
    } else return;
    event.preventDefault();
  }

  return (
    <div className="flex min-h-0 flex-1">
      <section aria-label="The text" className="flex w-[360px] shrink-0 flex-col gap-2 border-r border-line p-5">
        <FormField label="Text for all placements" className="min-h-0 flex-1">
          <textarea
            className="input min-h-40 flex-1 resize-none py-2 leading-relaxed"
            readOnly={!mayWrite}
            placeholder={'Come along to …\n@{link}'}
            value={text}
            onChange={(e) => setText(e.target.value)}
          />
        </FormField>
        <p className="caption">
          Fills in {fillIns.map((name) => `@{${name}}`).join(', ')}. Without @{'{link}'} the link is added at the end.
        </p>
        {missing.length > 0 && (
          <p className="text-xs text-warning">Nothing gives a value for {missing.map((m) => `@{${m}}`).join(', ')}.</p>
        )}
        {kept.text !== text && kept.revision !== page.revision && (
          <p className="text-xs">
            Theirs: “{kept.text}”{' '}
            <button type="button" className="button-plain" onClick={() => setText(kept.text)}>
              Use theirs
            </button>
          </p>
        )}
        {mayWrite && (
          <button
            type="button"
            className="button-main self-start"
            disabled={text === kept.text || keep.isPending}
            onClick={() => keep.mutate({ campaign, page: page.page, text, revision: kept.revision })}
          >
            Save text
          </button>
        )}
      </section>
      <section aria-label="Placements" className="flex min-h-0 min-w-0 flex-1 flex-col bg-sheet">
        <div className="flex items-center gap-3 border-b border-line px-5 py-2">
          <p role="status" className="min-w-0 flex-1 truncate text-quiet">
            {message || (
              <>
                <kbd className="kbd">Enter</kbd> copies and moves on · <kbd className="kbd">Space</kbd> marks as placed
              </>
            )}
          </p>
          {(sets.data?.length ?? 0) > 0 && (
            <Select
              label="Set"
              value={set}
              onChange={setSet}
              options={[['', 'All placements'], ...sets.data!.map((s) => [s.id, s.name] as const)]}
            />
          )}
          <label className="flex items-center gap-1.5">
            <input type="checkbox" checked={onlyOpen} onChange={(e) => setOnlyOpen(e.target.checked)} /> only not yet
            placed
          </label>
        </div>
        <ul ref={list} aria-label="Texts to post" className="min-h-0 flex-1 overflow-auto">
          {rows.map((row, i) => (
            <li
              key={row.linkId}
              data-link={row.linkId}
              tabIndex={i === 0 || row.placedAt === null ? 0 : -1}
              aria-label={`${row.placement}${row.content ? `, ${row.content}` : ''}${row.placedAt ? ', done' : ''}`}
              className={`flex gap-4 border-b border-line px-5 py-3 focus-visible:bg-accent-wash focus-visible:outline-offset-[-2px] ${row.placedAt ? 'text-quiet' : ''}`}
              onKeyDown={(e) => onKey(e, row)}
            >
              <span className="w-5 pt-0.5">
                {row.placedAt && <Check size={16} strokeWidth={1.5} className="text-good" aria-label="done" />}
              </span>
              <span className="w-52 shrink-0">
                <span className="block font-medium">{row.placement}</span>
                <span className="caption block">
                  {[row.publisher, row.content, row.useForm].filter(Boolean).join(' · ')}
                </span>
                {!row.mayUseToday && (
                  <span className="block text-xs text-warning">not before {dayOf(row.nextDay)}</span>
                )}
                {row.waiting && <span className="block text-xs text-warning">waits for an owner’s approval</span>}
              </span>
              <span className="min-w-0 flex-1 break-words whitespace-pre-wrap">{row.text}</span>
              <span className="flex shrink-0 flex-col items-end gap-1">
                <button type="button" className="button" tabIndex={-1} onClick={() => copyAndGoOn(row)}>
                  {row.placedAt ? 'Copy again' : 'Copy'}
                </button>
                <span className="caption tabular-nums">{count(row.characters)} characters</span>
                {row.placedAt && row.placedBy && mayWrite && (
                  <button
                    type="button"
                    className="button-plain text-xs"
                    tabIndex={-1}
                    onClick={() => place.mutate({ linkId: row.linkId, placed: false })}
                  >
                    Mark as not placed
                  </button>
                )}
              </span>
            </li>
          ))}
          {filled.data && rows.length === 0 && (
            <li className="p-8 text-quiet">
              All texts are placed. <Link to="/arrivals">See arrivals.</Link>
            </li>
          )}
        </ul>
      </section>
    </div>
  );
}
