import type { Schema } from '../../api/client';
import { ago, count, exact } from '../../parts/format';
import { Inspector, InspectorPart } from '../../parts/Inspector';
import { partsOf, sourceOf, targetsOf, type Recipe } from './recipe';
import { stateNames } from './states';

interface RunHistoryProps {
  batch: Schema['BatchAnswer'];
  fields: Parameters<typeof targetsOf>[0];
  onClose: () => void;
}

/** Every run with who, when, what came of it, and the recipe it was made by. */
export function RunHistory({ batch, fields, onClose }: RunHistoryProps) {
  return (
    <Inspector title="Runs" onClose={onClose}>
      {batch.runs.map((run) => (
        <InspectorPart key={run.number} title={`Run ${run.number} · ${stateNames[run.state] ?? run.state}`}>
          <p title={exact(run.startedAt)}>
            {ago(run.startedAt)} by {run.startedBy}
          </p>
          <p className="tabular-nums">
            {count(run.made)} created, {run.used > 0 && `${count(run.used)} existing used, `}
            {count(run.changed)} changed, {count(run.unchanged)} unchanged, {count(run.stopped)} stopped
          </p>
          {run.problem && <p className="text-error">{run.problem}</p>}
          <ul className="mt-1 text-xs text-quiet">{linesOf(run.recipe, fields)}</ul>
        </InspectorPart>
      ))}
    </Inspector>
  );
}

function linesOf(recipe: Recipe, fields: RunHistoryProps['fields']) {
  const says = { none: '', column: 'the column ', value: '', text: 'the text ' } as const;
  return [
    ...targetsOf(fields)
      .filter((t) => sourceOf(recipe, t.key) !== null)
      .map((t) => {
        const { kind, text } = partsOf(sourceOf(recipe, t.key));
        return (
          <li key={t.key}>
            {t.label} from {says[kind]}“{text}”
          </li>
        );
      }),
    <li key="output">
      {recipe.output?.column ? `written into “${recipe.output.column}”` : 'written into a new column'}
    </li>,
    <li key="results">{recipe.results === 'afresh' ? 'new links created' : 'earlier links kept'}</li>,
  ];
}
