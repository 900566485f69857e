import { useQuery } from '@tanstack/react-query';
import { addMonths } from 'date-fns';
import { ChevronLeft, ChevronRight, Plus } from 'lucide-react';
import { useState, type KeyboardEvent, type ReactNode } from 'react';
import { type CampaignAnswer } from '../../api/client';
import { count } from '../../parts/format';
import { useSearchParams } from 'react-router';
import { Inspector } from '../../parts/Inspector';
import { Head } from '../../parts/Head';
import { usePerson } from '../../parts/person';
import { AttributeEditor } from './AttributeEditor';
import { CampaignForm } from './CampaignForm';
import { stateNames } from './states';
import { datesOf, TimeLine } from './TimeLine';
import { spanAround } from './timeScale';
import { Select } from '../../parts/Select';
import { allCampaignsQuery } from '../../api/queries';
import { campaignBudgetsQuery } from './queries';

const zooms = [6, 12, 24] as const;
type Column = 'name' | 'dates' | 'state' | 'owner' | 'budget' | 'links' | 'missing';
const columns: [Column, string, string][] = [
  ['name', 'Campaign', ''],
  ['dates', 'Dates', ''],
  ['state', 'State', ''],
  ['owner', 'Owner', ''],
  ['budget', 'Budget', 'text-right'],
  ['links', 'Links', 'text-right'],
  ['missing', 'To create', 'text-right'],
];

/** A written value as people would say it. */
const asName = (value: string): string => value.replace(/[_+-]+/g, ' ').replace(/^./, (c) => c.toUpperCase());

/** Campaigns as a time line above a sheet. */
export function CampaignList({ parts, onOpen }: { parts: ReactNode; onOpen: (id: string) => void }) {
  const person = usePerson();
  const [months, setMonths] = useState<number>(12);
  const [shift, setShift] = useState(0);
  const [text, setText] = useState('');
  const [state, setState] = useState<'' | CampaignAnswer['state'] | 'archived'>('');
  const [order, setOrder] = useState<{ column: Column; down: boolean }>({ column: 'dates', down: true });
  const [search] = useSearchParams();
  const unknown = search.get('new');
  const [side, setSide] = useState<'new' | 'attributes' | null>(unknown === null ? null : 'new');
  const mayWrite = person.role !== 'viewer';

  const campaigns = useQuery(allCampaignsQuery());
  const budgets = useQuery(campaignBudgetsQuery());
  const all = campaigns.data ?? [];
  const words = text.toLowerCase().split(/\s+/).filter(Boolean);
  const shown = all
    .filter((c) => (state === 'archived' ? c.archived : !c.archived && (state === '' || c.state === state)))
    .filter((c) => {
      const hay = [c.name, c.value, c.owner, c.goal, ...Object.values(c.attributes)].join(' ').toLowerCase();
      return words.every((w) => hay.includes(w));
    })
    .sort((a, b) => (order.down ? -1 : 1) * compare(a, b, order.column));
  const around = spanAround(person.today, months);
  const span = { ...around, from: addMonths(around.from, shift) };
  const living = all.filter((c) => !c.archived);
  const missing = living.reduce((sum, c) => sum + c.missing, 0);
  const money = new Intl.NumberFormat('en-IE', {
    style: 'currency',
    currency: person.currency,
    maximumFractionDigits: 0,
  });

  function move(event: KeyboardEvent<HTMLTableRowElement>, id: string) {
    const to =
      event.key === 'ArrowDown'
        ? event.currentTarget.nextElementSibling
        : event.key === 'ArrowUp'
          ? event.currentTarget.previousElementSibling
          : null;
    if (event.key === 'Enter') onOpen(id);
    else if (to) (to as HTMLElement).focus();
    else return;
    event.preventDefault();
  }

  return (
    <>
      <Head
        title="Plan"
        state={
          campaigns.data &&
          `${count(living.filter((c) => c.state === 'running').length)} running · ${count(living.filter((c) => c.state === 'ahead').length)} ahead · ${count(missing)} links still to create`
        }
      >
        {parts}
        {mayWrite && (
          <button type="button" className="button-main" onClick={() => setSide('new')}>
            <Plus size={14} strokeWidth={1.5} /> New campaign
          </button>
        )}
      </Head>
      <div className="flex min-h-0 flex-1">
        <div className="flex min-w-0 flex-1 flex-col">
          <div className="flex h-11 shrink-0 items-center gap-3 border-b border-line px-5">
            <input
              className="input w-56"
              aria-label="Search campaigns"
              placeholder="Name, owner, attribute"
              value={text}
              onChange={(e) => setText(e.target.value)}
            />
            <Select
              label="State"
              value={state}
              onChange={(value) => setState(value as typeof state)}
              options={[
                ['', 'Not archived'],
                ...Object.entries(stateNames).map(([value, says]) => [value, says] as const),
                ['archived', 'archived'],
              ]}
            />
            <span className="flex-1" />
            {mayWrite && (
              <button type="button" className="button-plain" onClick={() => setSide('attributes')}>
                Attributes
              </button>
            )}
            <Select
              label="Months shown"
              value={String(months)}
              onChange={(value) => {
                setMonths(Number(value));
                setShift(0);
              }}
              options={zooms.map((zoom) => [String(zoom), `${zoom} months`] as const)}
            />
            <span className="flex items-center gap-1">
              <button
                type="button"
                className="button px-2"
                aria-label="Previous"
                onClick={() => setShift(shift - months / 3)}
              >
                <ChevronLeft size={14} strokeWidth={1.5} />
              </button>
              <button type="button" className="button" disabled={shift === 0} onClick={() => setShift(0)}>
                Today
              </button>
              <button
                type="button"
                className="button px-2"
                aria-label="Next"
                onClick={() => setShift(shift + months / 3)}
              >
                <ChevronRight size={14} strokeWidth={1.5} />
              </button>
            </span>
          </div>
          <TimeLine campaigns={shown} budgets={budgets.data ?? {}} span={span} today={person.today} onOpen={onOpen} />
          <div className="min-h-0 flex-1 overflow-auto bg-sheet">
            <table className="w-full table-fixed">
              <colgroup>
                <col />
                <col className="w-[12.5rem]" />
                <col className="w-24" />
                <col className="w-32" />
                <col className="w-24" />
                <col className="w-16" />
                <col className="w-24" />
              </colgroup>
              <thead className="sticky top-0 z-10 bg-sheet">
                <tr className="h-[34px] border-b border-line text-left text-xs text-quiet">
                  {columns.map(([column, says, align]) => (
                    <th
                      key={column}
                      className={`px-3 font-medium first:pl-5 last:pr-5 ${align}`}
                      aria-sort={order.column === column ? (order.down ? 'descending' : 'ascending') : undefined}
                    >
                      <button
                        type="button"
                        className="hover:text-ink"
                        onClick={() => setOrder({ column, down: order.column === column ? !order.down : false })}
                      >
                        {says}
                        {order.column === column && (order.down ? ' ↓' : ' ↑')}
                      </button>
                    </th>
                  ))}
                </tr>
              </thead>
              <tbody>
                {shown.map((c) => (
                  <tr
                    key={c.id}
                    tabIndex={0}
                    className="h-[34px] cursor-pointer border-b border-line hover:bg-accent-wash focus-visible:outline-offset-[-2px]"
                    onClick={() => onOpen(c.id)}
                    onKeyDown={(e) => move(e, c.id)}
                  >
                    <td className="truncate px-3 pl-5">
                      {c.name} <span className="caption ml-1.5 font-mono">{c.value}</span>
                    </td>
                    <td className="px-3 whitespace-nowrap">{datesOf(c)}</td>
                    <td className="px-3 whitespace-nowrap">{c.archived ? 'archived' : stateNames[c.state]}</td>
                    <td className="truncate px-3">{c.owner}</td>
                    <td className="px-3 text-right tabular-nums">{c.budget !== null && money.format(c.budget)}</td>
                    <td className="px-3 text-right tabular-nums">{count(c.links)}</td>
                    <td className="px-3 pr-5 text-right tabular-nums">{c.missing > 0 && count(c.missing)}</td>
                  </tr>
                ))}
              </tbody>
            </table>
            {campaigns.data && shown.length === 0 && (
              <p className="p-8 text-quiet">
                {all.length === 0
                  ? 'No campaigns yet. Add the first one: a name and dates are enough.'
                  : 'No campaigns match. Change the search or the state.'}
              </p>
            )}
            {campaigns.isError && <p className="p-8">{campaigns.error.message}</p>}
          </div>
        </div>
        {side === 'new' && (
          <Inspector title="New campaign" onClose={() => setSide(null)}>
            <CampaignForm
              name={unknown ? asName(unknown) : undefined}
              value={unknown ?? undefined}
              onSaved={(saved) => {
                setSide(null);
                onOpen(saved.id);
              }}
            />
          </Inspector>
        )}
        {side === 'attributes' && <AttributeEditor onClose={() => setSide(null)} />}
      </div>
    </>
  );
}

function compare(a: CampaignAnswer, b: CampaignAnswer, column: Column): number {
  switch (column) {
    case 'dates':
      return (a.startsOn ?? '9999').localeCompare(b.startsOn ?? '9999') || a.name.localeCompare(b.name);
    case 'budget':
    case 'links':
    case 'missing':
      return (a[column] ?? -1) - (b[column] ?? -1) || a.name.localeCompare(b.name);
    default:
      return (a[column] ?? '').localeCompare(b[column] ?? '') || a.name.localeCompare(b.name);
  }
}
