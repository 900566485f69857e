import { useMutation, useQuery } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import { count } from '../../parts/format';
import { usePerson } from '../../parts/person';
import { UploadList } from './UploadList';
import { stateNames } from './states';
import { When } from './When';
import { batchesQuery, sheetUpload } from './queries';

/** Sheets that were uploaded, newest first. */
export function SheetList({ parts, onOpen }: { parts: ReactNode; onOpen: (id: string) => void }) {
  const batches = useQuery(batchesQuery());
  const bring = useMutation({ ...sheetUpload(), onSuccess: (made) => onOpen(made.id) });
  return (
    <UploadList
      parts={parts}
      state={batches.data && `${count(batches.data.length)} ${batches.data.length === 1 ? 'sheet' : 'sheets'}`}
      mayWrite={usePerson().role !== 'viewer'}
      file={{ label: 'Sheet', accept: '.csv,.tsv,.txt,.xlsx', says: 'Upload a sheet', pending: bring.isPending }}
      hint="Drop a CSV, TSV or XLSX file here (up to 50 MB and 200,000 rows), or paste cells with their headings:"
      paste={{ label: 'Pasted cells', asFile: (text) => new File([text], 'Pasted cells.tsv', { type: 'text/plain' }) }}
      onFile={(file) => bring.mutate(file)}
      error={bring.error}
      more={
        <a className="button ml-auto" href="/api/v1/batches/workbook-to-fill" download>
          Template to fill in
        </a>
      }
      empty="No sheets yet. Upload an export from an ad account, or a list of groups or labels: each row gets its link, and you download the sheet with all its other columns unchanged."
      samples={['community-groups.csv', 'ad-export.xlsx']}
      heads={[
        { name: 'Sheet' },
        { name: 'Rows', number: true },
        { name: 'State' },
        { name: 'Uploaded' },
        { name: 'Last run' },
      ]}
      rows={batches.data?.map((b) => ({
        id: b.id,
        cells: [
          b.name,
          count(b.total),
          `${stateNames[b.state] ?? b.state}${b.state === 'running' ? ` · ${count(b.done)}` : ''}`,
          <When key="brought" at={b.createdAt} by={b.createdBy} />,
          <When key="run" at={b.runAt} otherwise="not yet" />,
        ],
      }))}
      onOpen={onOpen}
    />
  );
}
