import { useQuery, useQueryClient } from '@tanstack/react-query';
import { ArrowLeft, History } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import { type Schema } from '../../api/client';
import { useCampaigns, useFields, usePlacements } from '../../api/known';
import { ago, count } from '../../parts/format';
import { Head } from '../../parts/Head';
import { FileInput } from '../../parts/FileInput';
import { usePerson } from '../../parts/person';
import { BatchGrid } from './BatchGrid';
import { CountPanel } from './CountPanel';
import { DifferencePanel } from './DifferencePanel';
import { KeptRecipes } from './KeptRecipes';
import { NotThere } from './NotThere';
import { NewCampaign } from '../plan/NewCampaign';
import { shownTargets, withSource } from './recipe';
import { RecipeRow } from './RecipeRow';
import { ReadingBar } from './ReadingBar';
import { RowInspector } from './RowInspector';
import { RowsBar } from './RowsBar';
import { RunHistory } from './RunHistory';
import { stateNames } from './states';
import type { Row, RowView } from './useRows';
import { batchQuery, batchRow } from './queries';
import { useBatchChanges } from './useBatchChanges';

/** What the panel at the right is about. */
type Panel =
  | { kind: 'row'; row: Row }
  | { kind: 'count'; counted: Schema['CountAnswer'] }
  | { kind: 'difference' }
  | { kind: 'runs' };

interface BatchViewProps {
  id: string;
  onLeave: () => void;
  onOpen: (id: string) => void;
}

/** One sheet: its recipe, its rows with what comes of them, counting, running, and the way out. */
export function BatchView({ id, onLeave, onOpen }: BatchViewProps) {
  const person = usePerson();
  const queries = useQueryClient();
  const [panel, setPanel] = useState<Panel | null>(null);
  const [progress, setProgress] = useState<{ done: number; total: number } | null>(null);
  const [view, setView] = useState<RowView>({});
  const [edits, setEdits] = useState(0);
  const [message, setMessage] = useState('');
  const [naming, setNaming] = useState(false);
  const mayWrite = person.role !== 'viewer';

  const batch = useQuery(batchQuery(id));
  const fields = useFields();
  const placements = usePlacements();
  const campaigns = useCampaigns();

  const closeCount = () => setPanel((now) => (now?.kind === 'count' ? null : now));
  async function show(number: number) {
    const row = await batchRow(id, number);
    if (row) setPanel({ kind: 'row', row });
  }
  const { say, changeRecipe, type, repair, step, countRun, run, cancel, bring } = useBatchChanges(id, {
    onSay: setMessage,
    onProgress: setProgress,
    onRecipe: closeCount,
    onEdited: async () => {
      setEdits((n) => n + 1);
      closeCount();
      if (panel?.kind === 'row') await show(panel.row.number);
    },
    onCounted: (counted) => setPanel({ kind: 'count', counted }),
    onBegun: () => setPanel(null),
    onFollowed: onOpen,
  });

  if (batch.isError) return <NotThere error={batch.error} back="All sheets" onBack={onLeave} />;
  if (!batch.data) return <Head title="Batches" />;
  const b = batch.data;
  const running = b.state === 'running';
  const newest = b.runs[0];
  const labels = Object.fromEntries((fields.data ?? []).map((f) => [f.key, f.label]));
  const known: Record<string, string[]> = {
    placement: (placements.data ?? []).map((p) => p.name),
    campaign: (campaigns.data ?? []).map((c) => c.name),
    ...Object.fromEntries((fields.data ?? []).map((f) => [f.key, f.words.map((w) => w.written)])),
  };
  const total = view.outcome ? (b.outcomes[view.outcome] ?? 0) : view.rule ? (b.notices[view.rule] ?? 0) : b.total;

  return (
    <>
      <Head
        title={b.name}
        state={
          <>
            {count(b.total)} {b.total === 1 ? 'row' : 'rows'} · {stateNames[b.state]}
            {newest &&
              ` · ${count(newest.made)} created${newest.used ? `, ${count(newest.used)} existing used` : ''}${newest.changed ? `, ${count(newest.changed)} changed` : ''}, ${count(newest.stopped)} stopped ${ago(newest.startedAt)}`}
          </>
        }
      >
        <button type="button" className="button" onClick={onLeave}>
          <ArrowLeft size={14} strokeWidth={1.5} /> All sheets
        </button>
        {b.follows && (
          <button type="button" className="button" onClick={() => setPanel({ kind: 'difference' })}>
            Compared with the earlier file
          </button>
        )}
        {b.runs.length > 0 && (
          <button type="button" className="button" onClick={() => setPanel({ kind: 'runs' })}>
            <History size={14} strokeWidth={1.5} /> Runs
          </button>
        )}
        {newest?.state === 'finished' && (
          <Link className="button" to={`/proof?part=pages&sheet=${id}`}>
            Check its pages
          </Link>
        )}
        {mayWrite && newest?.state === 'finished' && (
          <>
            <FileInput
              label="Later file"
              accept=".csv,.tsv,.txt,.xlsx"
              says="Upload a later file"
              title="Upload a newer version of this file: same recipe, existing links kept, differences listed"
              pending={bring.isPending}
              onFile={bring.mutate}
            />
          </>
        )}
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
              {countRun.isPending ? 'Counting …' : 'Preview run'}
            </button>
          ))}
      </Head>
      {b.runs.length === 0 && mayWrite && (
        <ReadingBar
          batch={b}
          onRead={(next) => {
            queries.setQueryData(batchQuery(id).queryKey, next);
            setView({});
            setPanel(null);
          }}
        />
      )}
      {b.isGuess && (
        <p className="flex items-center gap-3 border-b border-line bg-accent-wash px-5 py-2">
          This recipe was guessed from the headings and the first rows. Check it.
          {mayWrite && (
            <button type="button" className="button" onClick={() => changeRecipe.mutate(b.recipe)}>
              Looks right
            </button>
          )}
        </p>
      )}
      <RecipeRow
        recipe={b.recipe}
        columns={b.columns}
        fields={fields.data ?? []}
        known={known}
        readOnly={!mayWrite || running}
        onChange={(recipe) => changeRecipe.mutate(recipe)}
        onNewCampaign={mayWrite ? () => setNaming(true) : undefined}
      >
        {mayWrite && !running && (
          <KeptRecipes batch={id} onTake={(recipe) => changeRecipe.mutate(recipe)} onSay={setMessage} />
        )}
      </RecipeRow>
      {naming && (
        <NewCampaign
          onClose={() => setNaming(false)}
          onMade={(made) => {
            setNaming(false);
            changeRecipe.mutate(withSource(b.recipe, 'campaign', { column: null, value: made.name, text: null }));
          }}
        />
      )}
      <RowsBar
        batch={b}
        view={view}
        onView={setView}
        mayType={mayWrite && !running}
        onStep={(back) => step.mutate(back)}
        progress={progress}
        message={message}
      />
      <div className="flex min-h-0 flex-1">
        <BatchGrid
          batch={b}
          view={view}
          total={total}
          labels={labels}
          targets={shownTargets(b.recipe, fields.data ?? [])}
          known={known}
          selected={panel?.kind === 'row' ? panel.row.number : null}
          mayType={mayWrite && !running}
          version={`${b.revision} ${edits} ${b.state} ${b.runs.length}`}
          onOpen={(row) => setPanel({ kind: 'row', row })}
          onSort={(column) =>
            setView(({ sort, descending, ...rows }) =>
              sort !== column
                ? { ...rows, sort: column }
                : descending
                  ? rows
                  : { ...rows, sort: column, descending: true },
            )
          }
          onType={(rows, says) => type.mutate({ rows, says })}
          onStep={(back) => step.mutate(back)}
          onSay={setMessage}
        />
        {panel?.kind === 'count' && (
          <CountPanel
            counted={panel.counted}
            onRun={() => run.mutate()}
            onAnew={() =>
              changeRecipe.mutate({ ...b.recipe, results: 'afresh' }, { onSuccess: () => countRun.mutate() })
            }
            onAgain={() =>
              changeRecipe.mutate({ ...b.recipe, existing: 'again' }, { onSuccess: () => countRun.mutate() })
            }
            onFilter={(rule) => setView({ rule })}
            onClose={() => setPanel(null)}
          />
        )}
        {panel?.kind === 'difference' && (
          <DifferencePanel batch={b} onRow={(n) => void show(n).catch(say)} onClose={() => setPanel(null)} />
        )}
        {panel?.kind === 'runs' && <RunHistory batch={b} fields={fields.data ?? []} onClose={() => setPanel(null)} />}
        {panel?.kind === 'row' && (
          <RowInspector
            row={panel.row}
            columns={b.columns}
            fields={fields.data ?? []}
            mayWrite={mayWrite && !running}
            onType={(values) => type.mutate({ rows: [{ number: panel.row.number, values }] })}
            onRepairAll={(notice) => repair.mutate(notice)}
            onClose={() => setPanel(null)}
          />
        )}
      </div>
    </>
  );
}
