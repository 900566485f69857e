import { useMutation } from '@tanstack/react-query';
import type { Schema } from '../../api/client';
import { dayOf } from '../../parts/days';
import { ago, count, exact } from '../../parts/format';
import { rowsOf } from '../../parts/importing/RefusedRows';
import { figureImportUndo } from './queries';

type Import = Schema['FigureImportRow'];

interface FigureImportsProps {
  imports: Import[];
  mayWrite: boolean;
}

/** Imports of other systems' figures, with how far those are that go on. */
export const FigureImports = ({ imports, mayWrite }: FigureImportsProps) => (
  <section className="px-5 pt-6">
    <h2 className="font-medium">Imports</h2>
    <ul aria-label="Imports of figures" className="max-w-3xl">
      {imports.map((i) => (
        <ImportRow key={i.id} made={i} mayWrite={mayWrite} />
      ))}
    </ul>
  </section>
);

function ImportRow({ made, mayWrite }: { made: Import; mayWrite: boolean }) {
  const undo = useMutation(figureImportUndo());
  return (
    <li className="flex items-center gap-4 border-b border-line py-2">
      <span className={`min-w-0 flex-1 ${made.undoneAt ? 'text-quiet line-through' : ''}`}>
        <span className="block truncate">
          {made.system}: <span className="font-mono">{made.name}</span>
        </span>
        {made.finishedAt && made.firstDay && made.lastDay ? (
          <span className="caption block">
            {dayOf(made.firstDay)} to {dayOf(made.lastDay)}, {count(made.kept)} of {rowsOf(made.read)}
          </span>
        ) : (
          <span className="caption flex items-center gap-2">
            <progress aria-label={`Import of ${made.name}`} max={made.read} value={made.done} className="h-1.5 w-40" />
            {count(made.done)} of {rowsOf(made.read)}
          </span>
        )}
      </span>
      <span className="text-quiet">
        {made.undoneAt ? (
          <>
            undone by {made.undoneBy}, <span title={exact(made.undoneAt)}>{ago(made.undoneAt)}</span>
          </>
        ) : (
          <>
            by {made.madeBy}, <span title={exact(made.madeAt)}>{ago(made.madeAt)}</span>
          </>
        )}
      </span>
      {mayWrite && made.finishedAt && (
        <button
          type="button"
          className="button-plain"
          aria-label={`${made.undoneAt ? 'Redo' : 'Undo'} ${made.name}`}
          disabled={undo.isPending}
          onClick={() => undo.mutate({ id: made.id, undo: !made.undoneAt })}
        >
          {made.undoneAt ? 'Redo' : 'Undo'}
        </button>
      )}
    </li>
  );
}
