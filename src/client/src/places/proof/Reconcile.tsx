import { useMutation, useQuery } from '@tanstack/react-query';
import { useState, type ReactNode } from 'react';
import { useSearchParams } from 'react-router';
import type { Schema } from '../../api/client';
import { FileInput } from '../../parts/FileInput';
import { count, rate, shared } from '../../parts/format';
import { Head } from '../../parts/Head';
import { usePerson } from '../../parts/person';
import { SeverityMark } from '../../parts/SeverityMark';
import { FigureImports } from './FigureImports';
import { FigureInspector } from './FigureInspector';
import { FigureNames } from './FigureNames';
import { FigurePreview } from './FigurePreview';
import { besideOf, causeNames, kindNames, verdictNames, type Figure } from './figures';
import { GapBar, GapScale } from './GapScale';
import { rowsOf } from '../../parts/importing/RefusedRows';
import { figureImportsQuery, figuresQuery, figuresTake } from './queries';

/** What a finding most likely comes from, or what is to be said of any other gap. */
const nameOf = ({ verdict, likeliest }: Figure): string =>
  verdict === 'finding' && likeliest ? causeNames[likeliest] : verdictNames[verdict];

/** Other systems' figures beside ours: the gaps, their causes, and what could not be matched. */
export function Reconcile({ tabs }: { tabs: ReactNode }) {
  const mayWrite = usePerson().role !== 'viewer';
  const read = useQuery(figuresQuery());
  const imports = useQuery(figureImportsQuery());
  const [search] = useSearchParams();
  const [chosen, choose] = useState<string | undefined>(() => search.get('at') ?? undefined);
  const [file, setFile] = useState<File | null>(null);
  const [system, setSystem] = useState('');
  const [shown, setShown] = useState<Schema['FigureImportAnswer'] | null>(null);
  const [said, setSaid] = useState('');
  const look = useMutation({
    ...figuresTake(true),
    onSuccess: (answer) => {
      setShown(answer);
      setSaid('');
    },
  });
  const take = useMutation({
    ...figuresTake(false),
    onSuccess: (answer) => {
      setSaid(
        `${rowsOf(answer.kept)} imported${answer.read > answer.kept ? `, ${rowsOf(answer.read - answer.kept)} left out` : ''}.`,
      );
      setShown(null);
      setFile(null);
    },
  });
  const data = read.data;
  const figure = data?.figures.find((f) => f.key === chosen);
  const error = look.error ?? take.error ?? read.error;
  const toLookInto = data?.figures.filter((f) => f.verdict === 'finding').length ?? 0;

  return (
    <>
      <Head
        title="Reconcile"
        state={data && data.count > 0 && `${count(data.count)} compared, ${count(toLookInto)} to look into`}
      >
        {tabs}
        {mayWrite && (
          <FileInput
            label="Table of figures"
            accept=".csv,.txt,.tsv,.xlsx"
            says="Choose a table …"
            look="main"
            pending={look.isPending}
            onFile={(brought) => {
              setFile(brought);
              choose(undefined);
              take.reset();
              look.mutate({ file: brought, system, recipe: null });
            }}
          />
        )}
      </Head>
      <div className="flex min-h-0 flex-1">
        <div className="min-w-0 flex-1 overflow-auto bg-sheet pb-5">
          <p role="status" className={said ? 'px-5 pt-4' : ''}>
            {said}
          </p>
          {error && (
            <p role="alert" className="px-5 pt-4 text-error">
              {error.message}
            </p>
          )}
          {shown && file && (
            <FigurePreview
              answer={shown}
              name={file.name}
              system={system}
              systems={[...new Set((imports.data ?? []).map((i) => i.system))]}
              pending={look.isPending || take.isPending}
              onSystem={setSystem}
              onRecipe={(recipe) => look.mutate({ file, system, recipe })}
              onTake={() => take.mutate({ file, system, recipe: shown.recipe })}
              onLeave={() => {
                setShown(null);
                setFile(null);
              }}
            />
          )}
          {read.isPending && <p className="p-5 text-quiet">Comparing figures …</p>}
          {data?.count === 0 && data.unmatchedCount === 0 && !shown && (
            <div className="flex max-w-xl flex-col gap-3 p-5">
              <p>
                What another system counts stands here beside what you count: clicks beside clicks, visits beside
                visits. Choose a table it gives you, with a column for the day and one for the link, campaign or
                placement.
              </p>
              <a className="text-accent underline" href="/api/v1/samples/figures.csv" download>
                Download a sample table
              </a>
            </div>
          )}
          {data && !shown && <FigureNames data={data} mayWrite={mayWrite} />}
          {data && data.figures.length > 0 && !shown && (
            <table aria-label="Figures compared" className="w-full border-collapse whitespace-nowrap">
              <thead className="sticky top-0 z-10 bg-sheet">
                <tr className="border-b border-line text-left text-xs text-quiet">
                  <th className="py-2 pr-4 pl-5 font-medium">What it is about</th>
                  {!figure && <th className="w-36 py-2 pr-4 font-medium max-lg:hidden">System</th>}
                  <th className="w-28 py-2 pr-4 text-right font-medium">Theirs</th>
                  <th className="w-40 py-2 pr-4 text-right font-medium">Ours</th>
                  <th className={`${figure ? 'w-[22%]' : 'w-[16%]'} py-2 pr-4 font-medium max-sm:hidden`}>
                    <GapScale />
                  </th>
                  <th className="w-20 py-2 pr-4 text-right font-medium">Missing</th>
                  {!figure && <th className="w-44 py-2 pr-5 font-medium max-lg:hidden">Most likely</th>}
                </tr>
              </thead>
              <tbody>
                {data.figures.map((f) => (
                  <tr
                    key={f.key}
                    aria-selected={f.key === chosen}
                    className="h-[34px] cursor-pointer border-b border-line hover:bg-accent-wash aria-selected:bg-accent-wash"
                    onClick={() => choose(f.key)}
                  >
                    <td className="max-w-0 pr-4 pl-5">
                      <button
                        type="button"
                        className="flex w-full items-center gap-2 text-left"
                        aria-label={`${f.called.join(', ')}, ${kindNames[f.kind]} of ${f.system}: ${verdictNames[f.verdict]}`}
                      >
                        <span className="w-3.5 shrink-0">
                          {f.verdict === 'finding' && <SeverityMark severity="warning" size={13} />}
                        </span>
                        <span className="truncate" title={f.called.join(', ')}>
                          {f.called.join(', ')}
                        </span>
                      </button>
                    </td>
                    {!figure && <td className="truncate pr-4 max-lg:hidden">{f.system}</td>}
                    <td className="pr-4 text-right tabular-nums">
                      {shared(f.theirs)} <span className="caption">{kindNames[f.kind]}</span>
                    </td>
                    <td className="pr-4 text-right tabular-nums">
                      {shared(f.ours)} <span className="caption">{besideOf(f)}</span>
                    </td>
                    <td className="pr-4 max-sm:hidden">
                      <GapBar gap={f.gap} isFinding={f.verdict === 'finding'} isFaint={f.verdict === 'tooFew'} />
                    </td>
                    <td className={`pr-4 text-right tabular-nums ${f.verdict === 'tooFew' ? 'text-quiet' : ''}`}>
                      {rate(f.gap)}
                    </td>
                    {!figure && <td className="truncate pr-5 text-quiet max-lg:hidden">{nameOf(f)}</td>}
                  </tr>
                ))}
              </tbody>
            </table>
          )}
          {data && data.count > data.figures.length && (
            <p className="px-5 pt-3 text-quiet">
              and {count(data.count - data.figures.length)} more with smaller gaps or too few to tell
            </p>
          )}
          {!shown && imports.data && imports.data.length > 0 && (
            <FigureImports imports={imports.data} mayWrite={mayWrite} />
          )}
        </div>
        {figure && <FigureInspector figure={figure} onClose={() => choose(undefined)} />}
      </div>
    </>
  );
}
