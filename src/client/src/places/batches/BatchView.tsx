import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { ArrowLeft, Download } from 'lucide-react';
import { useState } from 'react';
import { api, dataOf, type Notice, type Schema } from '../../api/client';
import { lastLineOf } from '../../api/lines';
import { ago, count } from '../../parts/format';
import { Head } from '../../parts/Head';
import { usePerson } from '../../parts/person';
import { BatchGrid } from './BatchGrid';
import { CountPanel } from './CountPanel';
import type { Recipe } from './recipe';
import { RecipeRow } from './RecipeRow';
import { ReadingBar } from './ReadingBar';
import { RowInspector } from './RowInspector';
import { stateNames } from './states';

/** One sheet: its recipe, its rows with what comes of them, counting, running, and the way out. */
export function BatchView({ id, onLeave }: { id: string; onLeave: () => void }) {
  const person = usePerson();
  const queries = useQueryClient();
  const [selected, setSelected] = useState<number | null>(null);
  const [row, setRow] = useState<Schema['BatchRowAnswer'] | null>(null);
  const [counted, setCounted] = useState<Schema['CountAnswer'] | null>(null);
  const [progress, setProgress] = useState<{ done: number; total: number } | null>(null);
  const [filter, setFilter] = useState<{ outcome?: string; rule?: string }>({});
  const [original, setOriginal] = useState(false);
  const [onlyChanged, setOnlyChanged] = useState(false);
  const [typed, setTyped] = useState(0);
  const [recipeName, setRecipeName] = useState('');
  const [message, setMessage] = useState('');
  const mayWrite = person.role !== 'Viewer';
  const path = { id };

  const batch = useQuery({
    queryKey: ['batch', id],
    queryFn: async () => dataOf(await api.GET('/api/v1/batches/{id}', { params: { path } })),
    refetchInterval: (query) => (query.state.data?.state === 'running' ? 700 : false),
  });
  const fields = useQuery({
    queryKey: ['fields'],
    queryFn: async () => dataOf(await api.GET('/api/v1/convention/fields')),
  });
  const placements = useQuery({
    queryKey: ['placements'],
    queryFn: async () => dataOf(await api.GET('/api/v1/placements')),
  });
  const campaigns = useQuery({
    queryKey: ['campaigns'],
    queryFn: async () => dataOf(await api.GET('/api/v1/campaigns')),
  });
  const recipes = useQuery({
    queryKey: ['recipes', id],
    queryFn: async () => dataOf(await api.GET('/api/v1/recipes', { params: { query: { batch: id } } })),
  });

  const say = (error: Error) => setMessage(error.message);
  const refresh = () => queries.invalidateQueries({ queryKey: ['batch', id] });
  const changeRecipe = useMutation({
    mutationFn: async (recipe: Recipe) =>
      dataOf(
        await api.PUT('/api/v1/batches/{id}/recipe', {
          params: { path },
          body: { recipe, revision: batch.data!.revision },
        }),
      ),
    onSuccess: (next) => {
      queries.setQueryData(['batch', id], next);
      setCounted(null);
      setMessage('');
    },
    onError: (error) => {
      say(error);
      void refresh();
    },
  });
  const type = useMutation({
    mutationFn: async (rows: { number: number; values: Record<string, string | null> }[]) =>
      dataOf(
        await api.PUT('/api/v1/batches/{id}/overrides', {
          params: { path },
          body: { rows: rows as Schema['RowOverride'][] },
        }),
      ),
    onSuccess: async (_, rows) => {
      setTyped((n) => n + 1);
      setCounted(null);
      setMessage(`${count(rows.length)} ${rows.length === 1 ? 'row' : 'rows'} changed.`);
      await refresh();
      if (selected !== null) await show(selected);
    },
    onError: say,
  });
  const countRun = useMutation({
    mutationFn: async () => {
      const stream = await api.POST('/api/v1/batches/{id}/count', { params: { path }, parseAs: 'stream' });
      const last = await lastLineOf<Schema['CountProgress']>(stream, setProgress);
      return last.answer!;
    },
    onSuccess: async (answer) => {
      setCounted(answer);
      setRow(null);
      await refresh();
    },
    onError: say,
    onSettled: () => setProgress(null),
  });
  const run = useMutation({
    mutationFn: async () => dataOf(await api.POST('/api/v1/batches/{id}/run', { params: { path } })),
    onSuccess: (next) => {
      queries.setQueryData(['batch', id], next);
      setCounted(null);
    },
    onError: say,
  });
  const cancel = useMutation({
    mutationFn: async () => dataOf(await api.DELETE('/api/v1/batches/{id}', { params: { path } })),
    onSuccess: refresh,
    onError: say,
  });
  const keepRecipe = useMutation({
    mutationFn: async () => dataOf(await api.POST('/api/v1/recipes', { body: { name: recipeName, batch: id } })),
    onSuccess: async () => {
      setMessage(`The recipe is kept as “${recipeName}”; sheets with the same headings get it by themselves.`);
      setRecipeName('');
      await queries.invalidateQueries({ queryKey: ['recipes'] });
    },
    onError: say,
  });

  async function show(number: number) {
    const found = dataOf(
      await api.GET('/api/v1/batches/{id}/rows', { params: { path, query: { skip: number - 1, most: 1 } } }),
    );
    setRow(found.rows[0] ?? null);
    setSelected(number);
  }

  /** The same repair for every row that has the same notice with the same value. */
  async function repairAll(notice: Notice) {
    const alike = dataOf(
      await api.GET('/api/v1/batches/{id}/rows', { params: { path, query: { rule: notice.rule, most: 500 } } }),
    ).rows.filter((r) =>
      r.notices.some(
        (n) => n.rule === notice.rule && n.field === notice.field && n.repair?.value === notice.repair?.value,
      ),
    );
    const rows = alike.length ? alike : row ? [row] : [];
    type.mutate(
      rows.map((r) => ({
        number: r.number,
        values: { [notice.repair!.field ?? 'destination']: notice.repair!.value },
      })),
    );
  }

  if (batch.isError)
    return (
      <>
        <Head title="Batches" />
        <p className="p-8">
          {batch.error.message}{' '}
          <button type="button" className="button-plain" onClick={onLeave}>
            All sheets
          </button>
        </p>
      </>
    );
  if (!batch.data) return <Head title="Batches" />;
  const b = batch.data;
  const running = b.state === 'running';
  const newest = b.runs[0];
  const labels = Object.fromEntries((fields.data ?? []).map((f) => [f.key, f.label]));
  const total = filter.outcome
    ? (b.outcomes[filter.outcome] ?? 0)
    : filter.rule
      ? (b.notices[filter.rule] ?? 0)
      : b.total;
  const fitting = recipes.data?.filter((r) => r.fits) ?? [];
  const query = `?original=${original}&changed=${onlyChanged}`;

  return (
    <>
      <Head
        title={b.name}
        state={
          <>
            {count(b.total)} {b.total === 1 ? 'row' : 'rows'} · {stateNames[b.state]}
            {newest &&
              ` · ${count(newest.made)} made${newest.changed ? `, ${count(newest.changed)} changed` : ''}, ${count(newest.stopped)} stopped ${ago(newest.startedAt)}`}
          </>
        }
      >
        <button type="button" className="button" onClick={onLeave}>
          <ArrowLeft size={14} strokeWidth={1.5} /> All sheets
        </button>
        {mayWrite &&
          (running ? (
            <button type="button" className="button" onClick={() => cancel.mutate()}>
              Cancel the run
            </button>
          ) : (
            <button
              type="button"
              className="button-main"
              disabled={countRun.isPending}
              onClick={() => countRun.mutate()}
            >
              {countRun.isPending ? 'Counting …' : 'Count what it would do'}
            </button>
          ))}
      </Head>
      {b.runs.length === 0 && mayWrite && (
        <ReadingBar batch={b} onRead={(next) => queries.setQueryData(['batch', id], next)} />
      )}
      {b.isGuess && (
        <p className="flex items-center gap-3 border-b border-line bg-accent-wash px-5 py-2">
          This recipe is a guess from the headings and the first rows; look it over.
          {mayWrite && (
            <button type="button" className="button" onClick={() => changeRecipe.mutate(b.recipe)}>
              It is right
            </button>
          )}
        </p>
      )}
      <RecipeRow
        key={b.revision}
        recipe={b.recipe}
        columns={b.columns}
        fields={fields.data ?? []}
        placements={placements.data ?? []}
        campaigns={campaigns.data ?? []}
        readOnly={!mayWrite || running}
        onChange={(recipe) => changeRecipe.mutate(recipe)}
      />
      <div className="flex min-h-11 shrink-0 flex-wrap items-center gap-3 border-b border-line px-5 py-1.5">
        <select
          className="input"
          aria-label="Rows shown"
          value={filter.outcome ? `o:${filter.outcome}` : filter.rule ? `r:${filter.rule}` : ''}
          onChange={(e) => {
            const [kind, value] = e.target.value.split(':');
            setFilter(kind === 'o' ? { outcome: value } : kind === 'r' ? { rule: value } : {});
          }}
        >
          <option value="">All rows</option>
          {Object.entries(b.outcomes)
            .filter(([outcome]) => outcome !== '')
            .map(([outcome, n]) => (
              <option key={outcome} value={`o:${outcome}`}>
                {outcome} ({count(n)})
              </option>
            ))}
          {Object.entries(b.notices).map(([rule, n]) => (
            <option key={rule} value={`r:${rule}`}>
              {rule.replaceAll('-', ' ')} ({count(n)})
            </option>
          ))}
        </select>
        {mayWrite && (
          <form
            className="flex items-center gap-2"
            onSubmit={(e) => {
              e.preventDefault();
              if (recipeName.trim()) keepRecipe.mutate();
            }}
          >
            <input
              className="input w-40"
              aria-label="Name of the recipe"
              placeholder="keep the recipe as …"
              value={recipeName}
              onChange={(e) => setRecipeName(e.target.value)}
            />
            {fitting.length > 0 && (
              <select
                className="input"
                aria-label="Kept recipes"
                value=""
                disabled={running}
                onChange={(e) => {
                  const kept = fitting.find((r) => r.id === e.target.value);
                  if (kept) changeRecipe.mutate(kept.recipe);
                }}
              >
                <option value="">kept recipes …</option>
                {fitting.map((r) => (
                  <option key={r.id} value={r.id}>
                    {r.name}
                  </option>
                ))}
              </select>
            )}
          </form>
        )}
        <p role="status" className="min-w-0 flex-1 truncate text-quiet">
          {running || progress ? (
            <span className="flex items-center gap-2">
              <progress
                className="h-2 w-40"
                aria-label="Progress"
                max={progress?.total ?? b.total}
                value={progress?.done ?? b.done}
              />
              {count(progress?.done ?? b.done)} of {count(progress?.total ?? b.total)}
              {running && '; you may leave, it goes on.'}
            </span>
          ) : (
            ((message || newest?.problem) ?? '')
          )}
        </p>
        {b.runs.length > 0 && !running && (
          <>
            <label className="flex items-center gap-1.5 text-xs">
              <input type="checkbox" checked={original} onChange={(e) => setOriginal(e.target.checked)} /> original
              columns only
            </label>
            <label className="flex items-center gap-1.5 text-xs">
              <input type="checkbox" checked={onlyChanged} onChange={(e) => setOnlyChanged(e.target.checked)} /> rows
              with links only
            </label>
            <a className="button" href={`/api/v1/batches/${id}/result.csv${query}`} download>
              <Download size={14} strokeWidth={1.5} /> CSV
            </a>
            <a className="button" href={`/api/v1/batches/${id}/result.xlsx${query}`} download>
              <Download size={14} strokeWidth={1.5} /> XLSX
            </a>
          </>
        )}
      </div>
      <div className="flex min-h-0 flex-1">
        <BatchGrid
          batch={b}
          filter={filter}
          total={total}
          labels={labels}
          selected={selected}
          version={`${b.revision} ${typed} ${b.state} ${b.runs.length}`}
          onSelect={(chosen) => {
            setCounted(null);
            setRow(chosen);
            setSelected(chosen.number);
          }}
        />
        {counted ? (
          <CountPanel
            counted={counted}
            onRun={() => run.mutate()}
            onFilter={(rule) => setFilter({ rule })}
            onClose={() => setCounted(null)}
          />
        ) : (
          row && (
            <RowInspector
              row={row}
              columns={b.columns}
              fields={fields.data ?? []}
              mayWrite={mayWrite && !running}
              onType={(values) => type.mutate([{ number: row.number, values }])}
              onRepairAll={(notice) => void repairAll(notice).catch(say)}
              onClose={() => {
                setRow(null);
                setSelected(null);
              }}
            />
          )
        )}
      </div>
    </>
  );
}
