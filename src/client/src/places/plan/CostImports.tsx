import { useMutation, useQuery } from '@tanstack/react-query';
import { useState, type ReactNode } from 'react';
import { useFields } from '../../api/known';
import { type Schema } from '../../api/client';
import { dayOf } from '../../parts/days';
import { FileInput } from '../../parts/FileInput';
import { ago, count, exact, money } from '../../parts/format';
import { Head } from '../../parts/Head';
import { ColumnChoices, DayChoice, DecimalChoice } from '../../parts/importing/ColumnChoices';
import { RefusedRows, rowsOf } from '../../parts/importing/RefusedRows';
import { usePerson } from '../../parts/person';
import { costImportsQuery, costImportUndo, costsTake } from './queries';

type Answer = Schema['CostImportAnswer'];
type Recipe = Schema['CostRecipe'];
type Import = Schema['CostImportRow'];

const parts: [keyof Recipe & ('day' | 'amount' | 'currency' | 'link' | 'campaign' | 'placement'), string][] = [
  ['day', 'Day'],
  ['amount', 'Amount'],
  ['currency', 'Currency'],
  ['link', 'Link'],
  ['campaign', 'Campaign'],
  ['placement', 'Placement'],
];

/** Costs from files: what other systems say was paid, day by day. */
export function CostImports({ parts: tabs }: { parts: ReactNode }) {
  const mayWrite = usePerson().role !== 'viewer';
  const imports = useQuery(costImportsQuery());
  const [file, setFile] = useState<File | null>(null);
  const [shown, setShown] = useState<Answer | null>(null);
  const [said, setSaid] = useState('');
  const look = useMutation({
    ...costsTake(true),
    onSuccess: (answer) => {
      setShown(answer);
      setSaid('');
    },
  });
  const take = useMutation({
    ...costsTake(false),
    onSuccess: (answer) => {
      setSaid(
        `${rowsOf(answer.kept)} imported${answer.read > answer.kept ? `, ${rowsOf(answer.read - answer.kept)} left out` : ''}.`,
      );
      setShown(null);
      setFile(null);
    },
  });
  const error = look.error ?? take.error;

  return (
    <>
      <Head
        title="Plan"
        state={
          imports.data && `${count(imports.data.length)} ${imports.data.length === 1 ? 'import' : 'imports'} of costs`
        }
      >
        {tabs}
        {mayWrite && (
          <FileInput
            label="Table of costs"
            accept=".csv,.txt,.tsv,.xlsx"
            says="Choose a table of costs …"
            look="main"
            pending={look.isPending}
            onFile={(chosen) => {
              setFile(chosen);
              take.reset();
              look.mutate({ file: chosen, recipe: null });
            }}
          />
        )}
      </Head>
      <div className="min-h-0 flex-1 overflow-auto bg-sheet p-5">
        <div className="flex max-w-3xl flex-col gap-5">
          <p className="text-quiet">
            What another system says a day cost replaces the rates of the links it covers on that day. A finer row wins:
            what a link cost is a part of what its campaign cost. The same day again replaces what was imported before.{' '}
            <a className="text-accent underline" href="/api/v1/samples/costs.csv" download>
              Download a sample table
            </a>
          </p>
          <p role="status">{said}</p>
          {error && (
            <p role="alert" className="text-error">
              {error.message}
            </p>
          )}
          {shown && file && (
            <Preview
              answer={shown}
              name={file.name}
              pending={look.isPending || take.isPending}
              onRecipe={(recipe) => look.mutate({ file, recipe })}
              onTake={() => take.mutate({ file, recipe: shown.recipe })}
              onLeave={() => {
                setShown(null);
                setFile(null);
              }}
            />
          )}
          {imports.data?.length === 0 && !shown && (
            <p className="text-quiet">No costs were imported yet. Rates and fixed costs stand with each placement.</p>
          )}
          <ul aria-label="Imports of costs">
            {imports.data?.map((i) => (
              <ImportRow key={i.id} made={i} mayWrite={mayWrite} />
            ))}
          </ul>
        </div>
      </div>
    </>
  );
}

interface PreviewProps {
  answer: Answer;
  name: string;
  pending: boolean;
  onRecipe: (recipe: Recipe) => void;
  onTake: () => void;
  onLeave: () => void;
}

/** What a file says, before any of it counts. */
function Preview({ answer, name, pending, onRecipe, onTake, onLeave }: PreviewProps) {
  const fields = useFields();
  const { recipe } = answer;
  const values = Object.entries(recipe.values ?? {});
  const unclear = answer.rows.some((r) => r.problem === 'amountAmbiguous') || recipe.decimal;
  const unclearDays = answer.rows.some((r) => r.problem === 'dayAmbiguous') || recipe.dayFirst !== null;
  return (
    <section aria-label={`What ${name} says`} className="flex flex-col gap-3 rounded border border-line-strong p-4">
      <h2 className="font-medium">{name}</h2>
      <div className="grid grid-cols-3 gap-3">
        <ColumnChoices
          parts={parts}
          columns={answer.columns}
          columnOf={(part) => recipe[part]}
          onChoose={(part, column) => onRecipe({ ...recipe, [part]: column })}
        />
        {unclear && <DecimalChoice decimal={recipe.decimal} onChange={(decimal) => onRecipe({ ...recipe, decimal })} />}
        {unclearDays && (
          <DayChoice dayFirst={recipe.dayFirst} onChange={(dayFirst) => onRecipe({ ...recipe, dayFirst })} />
        )}
      </div>
      {values.length > 0 && (
        <p className="text-quiet">
          Also read:{' '}
          {values
            .map(([key, column]) => `${fields.data?.find((f) => f.key === key)?.label ?? key} from “${column}”`)
            .join(', ')}
          .
        </p>
      )}
      <p>
        {count(answer.kept)} of {rowsOf(answer.read)} can be imported
        {answer.totals.length > 0 && <>: {answer.totals.map((m) => money(m)).join(', ')}</>}
        {answer.firstDay &&
          answer.lastDay &&
          (answer.firstDay === answer.lastDay
            ? ` on ${dayOf(answer.firstDay)}`
            : ` from ${dayOf(answer.firstDay)} to ${dayOf(answer.lastDay)}`)}
        .
      </p>
      <RefusedRows rows={answer.rows} all={answer.read - answer.kept} />
      <div className="flex gap-2">
        <button type="button" className="button-main" disabled={pending || answer.kept === 0} onClick={onTake}>
          Import {rowsOf(answer.kept)}
        </button>
        <button type="button" className="button-plain" onClick={onLeave}>
          Cancel
        </button>
      </div>
    </section>
  );
}

function ImportRow({ made, mayWrite }: { made: Import; mayWrite: boolean }) {
  const undo = useMutation(costImportUndo());
  return (
    <li className="flex items-center gap-4 border-b border-line py-2">
      <span className={`min-w-0 flex-1 ${made.undoneAt ? 'text-quiet line-through' : ''}`}>
        <span className="block truncate">
          <span className="font-mono">{made.name}</span>: {made.totals.map((m) => money(m)).join(', ')}
        </span>
        <span className="caption block">
          {dayOf(made.firstDay)} to {dayOf(made.lastDay)}, {count(made.kept)} of {rowsOf(made.read)}
        </span>
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
      {mayWrite && (
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
