import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { lazy, Suspense } from 'react';
import { useSearchParams } from 'react-router';
import { live } from '../../api/live';
import { count, duration, money, rate } from '../../parts/format';
import { Head } from '../../parts/Head';
import { dayOf } from '../../parts/days';
import { DateField } from '../../parts/DateField';
import { SeverityMark } from '../../parts/SeverityMark';
import { usePerson } from '../../parts/person';
import { BreakdownTree } from './BreakdownTree';
import { dimensions, mostLevels, rowsOf } from './dimensions';
import { lastDays, presets, rangeOf, isOpen } from './range';
import { RowInspector } from './RowInspector';
import { Select } from '../../parts/Select';
import { arrivalsQuery } from './queries';

const VisitsChart = lazy(() => import('./VisitsChart').then((m) => ({ default: m.VisitsChart })));

/** The reports of tagged traffic: figures, one chart, and an expanding tree of rows. */
export function Arrivals() {
  const person = usePerson();
  const [search, setSearch] = useSearchParams();
  const range = rangeOf(search, person.today);
  const rows = rowsOf(search);
  const picked = search.getAll('pick');

  const total = useQuery({
    ...arrivalsQuery(range, ''),
    placeholderData: keepPreviousData,
    ...(isOpen(range, person.today) && live),
  });

  function set(changes: Record<string, string | string[] | null>) {
    const next = new URLSearchParams(search);
    for (const [key, value] of Object.entries(changes)) {
      next.delete(key);
      for (const one of value === null ? [] : [value].flat()) next.append(key, one);
    }
    setSearch(next, { replace: true });
  }

  const figures = total.data?.total;
  const untilToday = range.to === person.today;
  const presetName = presets.find((p) => untilToday && lastDays(p.days, person.today).from === range.from)?.name ?? '';

  return (
    <>
      <Head
        title="Arrivals"
        state={
          total.data
            ? `${dayOf(range.from)} to ${dayOf(range.to)} · ${count(total.data.total.visits)} visits${
                isOpen(range, person.today) ? freshness(total.data.freshness) : ''
              }`
            : ''
        }
      >
        <Select
          label="Range"
          value={presetName}
          onChange={(value) => {
            const preset = presets.find((p) => p.name === value);
            if (preset) set({ ...lastDays(preset.days, person.today) });
          }}
          options={[
            ...(!presetName ? [['', 'Custom range'] as const] : []),
            ...presets.map((p) => [p.name, p.name] as const),
          ]}
        />
        <DateField
          required
          className="w-36"
          label="From"
          value={range.from}
          max={range.to}
          onChange={(from) => set({ from, to: range.to })}
        />
        <DateField
          required
          className="w-36"
          label="To"
          value={range.to}
          min={range.from}
          max={person.today}
          onChange={(to) => set({ from: range.from, to })}
        />
      </Head>
      <div className="flex min-h-0 flex-1">
        <div className="flex min-w-0 flex-1 flex-col overflow-auto bg-sheet">
          {total.isError && <p className="p-5 text-error">{total.error.message}</p>}
          {!!total.data?.lost && (
            <p className="flex items-center gap-2 border-b border-line px-5 py-2">
              <SeverityMark severity="warning" /> {count(total.data.lost)} events in this range could not be stored:
              neither the disk nor the database accepted them.
            </p>
          )}
          {total.data?.manyValues.map((many) => (
            <p key={many.of + many.key} className="flex items-center gap-2 border-b border-line px-5 py-2">
              <SeverityMark severity="warning" /> {manyValues(many)}
            </p>
          ))}
          {figures && (
            <dl className="grid grid-cols-[repeat(6,minmax(0,1fr))_minmax(max-content,1fr)] border-b border-line">
              <Figure name="Visits" figure={count(figures.visits)} />
              <Figure name="Visitors" figure={count(figures.visitors ?? 0)} />
              <Figure name="Bounce rate" figure={rate(figures.bounceRate)} />
              <Figure name="Time per visit" figure={duration(figures.secondsPerVisit)} />
              <Figure
                name="Conversions"
                figure={count(figures.conversions)}
                note={figures.conversions > 0 ? verified(figures) : undefined}
              />
              <Figure name="Conversion rate" figure={rate(figures.conversionRate)} />
              <Figure
                name="Revenue"
                figure={money(figures.revenue)}
                note={
                  total.data?.revenueElsewhere.length
                    ? `and, apart, ${total.data.revenueElsewhere.map((m) => money(m)).join(', ')}`
                    : undefined
                }
              />
            </dl>
          )}
          {total.data && figures && figures.visits > 0 && (
            <Suspense fallback={<div className="h-40" />}>
              <VisitsChart days={total.data.series} per={total.data.per} from={range.from} to={range.to} />
            </Suspense>
          )}
          <div className="flex items-center gap-2 flex-wrap whitespace-nowrap border-y border-line px-5 py-2">
            <span>Rows by</span>
            {Array.from({ length: Math.min(rows.length + 1, mostLevels) }, (_, level) => (
              <span key={level} className="contents">
                {level > 0 && <span className="text-quiet">then by</span>}
                <Select
                  label={`Rows, level ${level + 1}`}
                  value={rows[level] ?? ''}
                  onChange={(value) => {
                    const next = [...rows];
                    if (value) next[level] = value;
                    else next.splice(level);
                    set({ rows: next.filter((r, i) => next.indexOf(r) === i).join(','), pick: null });
                  }}
                  options={[
                    ...(level > 0 ? [['', 'no further level'] as const] : []),
                    ...Object.entries(dimensions).map(
                      ([name, { label }]) => [name, label, rows.includes(name) && rows[level] !== name] as const,
                    ),
                  ]}
                />
              </span>
            ))}
            {total.data?.dailyVisitors && total.data.shareWithId !== null && (
              <span className="caption ml-auto text-right whitespace-normal">
                {rate(total.data.shareWithId)} of visits carry a visitor id; other visitors are counted once per day
              </span>
            )}
          </div>
          {figures && figures.visits === 0 ? (
            <div className="p-8">
              <h2 className="mb-2 font-semibold">No visits in this range</h2>
              <p className="max-w-lg text-quiet">
                Choose a longer range, or open one of your links: its visit appears here within seconds. A site is
                measured once its pages include the measuring script.
              </p>
            </div>
          ) : (
            <BreakdownTree
              key={`${rows.join()}`}
              range={range}
              rows={rows}
              picked={picked}
              onPick={(pick) => set({ pick })}
            />
          )}
        </div>
        {picked.length > 0 && <RowInspector range={range} conditions={picked} onClose={() => set({ pick: null })} />}
      </div>
    </>
  );
}

/** A page's own report can be forged by whoever reads the page; one signed by the shop's server can't. */
const verified = (figures: { conversions: number; verifiedConversions: number }): string =>
  figures.verifiedConversions === figures.conversions
    ? 'all verified by the shop’s server'
    : `${count(figures.conversions - figures.verifiedConversions)} unverified: reported by pages only`;

/** How far the figures go, in the reader's own time. */
const freshness = ({ upTo, waiting }: { upTo: string | null; waiting: number }): string =>
  (upTo ? ` · up to ${new Date(upTo).toLocaleTimeString('en-IE', { timeStyle: 'medium' })}` : '') +
  (waiting > 0 ? ` · events of ${waiting < 1_000 ? count(waiting) : '1,000 or more'} visitors are being added` : '');

/** What brought more values than are told apart. Something fills it in or forges it; who can, takes it out at its source. */
const manyValues = ({ of, key }: { of: string; key: string | null }): string =>
  `${
    of === 'tag'
      ? `${key} brings very many different values, such as an id for each recipient`
      : of === 'keys'
        ? 'Visits bring very many different tags'
        : of === 'referrers'
          ? 'Visits come from very many different sites'
          : of === 'pages'
            ? 'Visits are on very many different pages'
            : of === 'typed'
              ? 'Very many different things are typed behind short links'
              : `Visits name very many different ${of}`
  }; new ones stand together as “(many values)”.`;

function Figure({ name, figure, note }: { name: string; figure: string; note?: string }) {
  return (
    <div className="border-r border-line px-4 py-3 last:border-r-0">
      <dt className="text-xs text-quiet">{name}</dt>
      <dd className="text-lg font-medium tabular-nums" title={note}>
        {figure}
        {note && <span className="caption block text-2xs leading-3 font-normal">{note}</span>}
      </dd>
    </div>
  );
}
