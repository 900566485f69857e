import { Redo2, Undo2 } from 'lucide-react';
import type { Schema } from '../../api/client';
import { count } from '../../parts/format';
import { BatchDownload } from './BatchDownload';
import type { RowView } from './useRows';
import { Select } from '../../parts/Select';

interface RowsBarProps {
  batch: Schema['BatchAnswer'];
  view: RowView;
  onView: (view: RowView) => void;
  mayType: boolean;
  onStep: (back: boolean) => void;
  progress: { done: number; total: number } | null;
  message: string;
}

/** Which rows are shown, what was just done with its way back, how far the work is, and the way out. */
export function RowsBar({ batch: b, view, onView, mayType, onStep, progress, message }: RowsBarProps) {
  const running = b.state === 'running';
  return (
    <div className="flex min-h-11 shrink-0 flex-wrap items-center gap-3 border-b border-line px-5 py-1.5">
      <Select
        label="Rows shown"
        value={view.outcome ? `o:${view.outcome}` : view.rule ? `r:${view.rule}` : ''}
        onChange={(chosen) => {
          const [kind, value] = chosen.split(':');
          const { sort, descending } = view;
          const order = { ...(sort === undefined ? {} : { sort }), ...(descending ? { descending } : {}) };
          onView(kind === 'o' ? { ...order, outcome: value } : kind === 'r' ? { ...order, rule: value } : order);
        }}
        options={[
          ['', 'All rows'],
          ...Object.entries(b.outcomes)
            .filter(([outcome]) => outcome !== '')
            .map(([outcome, n]) => [`o:${outcome}`, `${outcome} (${count(n)})`] as const),
          ...Object.entries(b.notices).map(
            ([rule, n]) => [`r:${rule}`, `${rule.replaceAll('-', ' ')} (${count(n)})`] as const,
          ),
        ]}
      />
      {mayType && (
        <span className="flex gap-1">
          <button
            type="button"
            className="button px-2"
            aria-label="Undo"
            title={b.undo ? `Undo: ${b.undo} (Ctrl+Z)` : 'Nothing to undo'}
            disabled={!b.undo}
            onClick={() => onStep(true)}
          >
            <Undo2 size={14} strokeWidth={1.5} />
          </button>
          <button
            type="button"
            className="button px-2"
            aria-label="Redo"
            title={b.redo ? `Redo: ${b.redo} (Ctrl+Y)` : 'Nothing to redo'}
            disabled={!b.redo}
            onClick={() => onStep(false)}
          >
            <Redo2 size={14} strokeWidth={1.5} />
          </button>
        </span>
      )}
      <p role="status" className="min-w-0 flex-1 truncate text-quiet" title={message}>
        {running || progress ? (
          <span className="flex items-center gap-2">
            <progress
              className="h-2 w-40"
              aria-label="Progress"
              max={progress?.total ?? b.total}
              value={progress?.done ?? b.done}
            />
            {count(progress?.done ?? b.done)} of {count(progress?.total ?? b.total)}
            {running && '; you can leave this page, it continues.'}
          </span>
        ) : (
          ((message || b.runs[0]?.problem) ?? '')
        )}
      </p>
      {b.runs.length > 0 && !running && (
        <BatchDownload batch={b.id} withCodes={b.runs.some((r) => r.recipe.shorten === true)} />
      )}
    </div>
  );
}
