import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import { api, dataOf } from '../../api/client';
import { ago, count, exact } from '../../parts/format';
import { Head } from '../../parts/Head';
import { usePerson } from '../../parts/person';
import { bringSheet } from './bringSheet';
import { DropArea } from './DropArea';
import { FileButton } from './FileButton';
import { stateNames } from './states';

/** Sheets that were brought, newest first. */
export function SheetList({ parts, onOpen }: { parts: ReactNode; onOpen: (id: string) => void }) {
  const person = usePerson();
  const queries = useQueryClient();
  const mayWrite = person.role !== 'Viewer';
  const batches = useQuery({
    queryKey: ['batches'],
    queryFn: async () => dataOf(await api.GET('/api/v1/batches')),
  });
  const bring = useMutation({
    mutationFn: (sheet: File) => bringSheet(sheet),
    onSuccess: async (made) => {
      await queries.invalidateQueries({ queryKey: ['batches'] });
      onOpen(made.id);
    },
  });

  function paste(text: string) {
    if (text.trim() !== '') bring.mutate(new File([text], 'Pasted cells.tsv', { type: 'text/plain' }));
  }

  return (
    <>
      <Head
        title="Batches"
        state={batches.data && `${count(batches.data.length)} ${batches.data.length === 1 ? 'sheet' : 'sheets'}`}
      >
        {parts}
        {mayWrite && (
          <FileButton
            label="Sheet"
            accept=".csv,.tsv,.txt,.xlsx"
            pending={bring.isPending}
            says="Bring a sheet"
            onFile={(file) => bring.mutate(file)}
          />
        )}
      </Head>
      <DropArea disabled={!mayWrite} onFile={(file) => bring.mutate(file)}>
        {mayWrite && (
          <div className="flex items-center gap-4 border-b border-line px-5 py-3">
            <p className="text-quiet">
              Drop a CSV, TSV or XLSX file here, up to 50 MB and 200,000 rows, or paste cells with their headings:
            </p>
            <textarea
              aria-label="Pasted cells"
              className="input h-8 w-48 resize-none py-1"
              placeholder="paste here"
              value=""
              onChange={() => undefined}
              onPaste={(e) => {
                e.preventDefault();
                paste(e.clipboardData.getData('text'));
              }}
            />
            <a className="button ml-auto" href="/api/v1/batches/workbook-to-fill" download>
              Workbook to fill
            </a>
          </div>
        )}
        {bring.isError && (
          <p role="alert" className="border-b border-line px-5 py-2 text-stop">
            {bring.error.message}
          </p>
        )}
        <div className="min-h-0 flex-1 overflow-auto bg-sheet">
          {batches.data?.length === 0 ? (
            <p className="max-w-xl p-8 text-quiet">
              No sheet was brought yet. Bring the export of an ad account, a list of groups or of plant labels: each row
              gets its link, and the sheet goes back with all its columns as they were.
            </p>
          ) : (
            <table className="w-full">
              <thead className="sticky top-0 bg-sheet">
                <tr className="h-[34px] border-b border-line text-left text-xs text-quiet">
                  {['Sheet', 'Rows', 'State', 'Brought', 'Last run'].map((head) => (
                    <th key={head} className={`px-3 font-medium first:pl-5 ${head === 'Rows' ? 'text-right' : ''}`}>
                      {head}
                    </th>
                  ))}
                </tr>
              </thead>
              <tbody>
                {batches.data?.map((b) => (
                  <tr
                    key={b.id}
                    tabIndex={0}
                    className="h-[34px] cursor-pointer border-b border-line hover:bg-accent-wash focus-visible:outline-offset-[-2px]"
                    onClick={() => onOpen(b.id)}
                    onKeyDown={(e) => e.key === 'Enter' && onOpen(b.id)}
                  >
                    <td className="px-3 pl-5">{b.name}</td>
                    <td className="px-3 text-right tabular-nums">{count(b.total)}</td>
                    <td className="px-3">
                      {stateNames[b.state] ?? b.state}
                      {b.state === 'running' && ` · ${count(b.done)}`}
                    </td>
                    <td className="px-3" title={exact(b.createdAt)}>
                      {ago(b.createdAt)} by {b.createdBy}
                    </td>
                    <td className="px-3" title={b.runAt ? exact(b.runAt) : undefined}>
                      {b.runAt ? ago(b.runAt) : 'not yet'}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          )}
        </div>
      </DropArea>
    </>
  );
}
