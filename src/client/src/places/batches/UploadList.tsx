import { useMutation } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import { Head } from '../../parts/Head';
import { DropArea } from './DropArea';
import { FileInput } from '../../parts/FileInput';
import { sampleFetch } from './queries';

export interface BroughtRow {
  id: string;
  cells: ReactNode[];
}

interface BroughtListProps {
  parts: ReactNode;
  state: string | undefined;
  mayWrite: boolean;
  /** The button that brings a file. */
  file: { label: string; accept: string; says: string; pending: boolean };
  /** What can be dropped here, and the box that takes what is pasted. */
  hint: string;
  paste: { label: string; asFile: (text: string) => File };
  onFile: (file: File) => void;
  error: Error | null;
  /** How far the work is. */
  progress?: ReactNode;
  /** Other ways to bring something, or to begin. */
  more?: ReactNode;
  /** What is said while there is nothing yet. */
  empty: string;
  /** Names of sample files to try it with. */
  samples: string[];
  heads: { name: string; number?: boolean }[];
  rows: BroughtRow[] | undefined;
  onOpen: (id: string) => void;
}

/** Things that were uploaded, newest first, and the ways to bring another: by button, dropped, or pasted. */
export function UploadList(props: BroughtListProps) {
  const { mayWrite, file, onFile, rows, heads } = props;
  const trying = useMutation({ ...sampleFetch(), onSuccess: onFile });
  return (
    <>
      <Head title="Batches" state={props.state}>
        {props.parts}
        {mayWrite && <FileInput look="main" {...file} onFile={onFile} />}
      </Head>
      <DropArea disabled={!mayWrite} onFile={onFile}>
        {mayWrite && (
          <div className="flex flex-wrap items-center gap-4 border-b border-line px-5 py-3">
            <p className="text-quiet">{props.hint}</p>
            <textarea
              aria-label={props.paste.label}
              className="input h-8 w-48 resize-none py-1"
              placeholder="paste here"
              value=""
              onChange={() => undefined}
              onPaste={(e) => {
                e.preventDefault();
                const text = e.clipboardData.getData('text');
                if (text.trim() !== '') onFile(props.paste.asFile(text));
              }}
            />
            {props.more}
          </div>
        )}
        {props.progress}
        {props.error && (
          <p role="alert" className="border-b border-line px-5 py-2 text-error">
            {props.error.message}
          </p>
        )}
        <div className="min-h-0 flex-1 overflow-auto bg-sheet">
          {rows?.length === 0 ? (
            <div className="max-w-xl p-8">
              <p className="text-quiet">{props.empty}</p>
              {mayWrite && (
                <p className="mt-4 flex flex-wrap items-center gap-2">
                  {props.samples.map((name) => (
                    <button
                      key={name}
                      type="button"
                      className="button"
                      disabled={file.pending || trying.isPending}
                      onClick={() => trying.mutate(name)}
                    >
                      Try {name}
                    </button>
                  ))}
                </p>
              )}
              {trying.isError && <p className="mt-2 text-error">{trying.error.message}</p>}
            </div>
          ) : (
            <table className="w-full">
              <thead className="sticky top-0 bg-sheet">
                <tr className="h-[34px] border-b border-line text-left text-xs text-quiet">
                  {heads.map((head) => (
                    <th key={head.name} className={`px-3 font-medium first:pl-5 ${head.number ? 'text-right' : ''}`}>
                      {head.name}
                    </th>
                  ))}
                </tr>
              </thead>
              <tbody>
                {rows?.map((row) => (
                  <tr
                    key={row.id}
                    tabIndex={0}
                    className="h-[34px] cursor-pointer border-b border-line hover:bg-accent-wash focus-visible:outline-offset-[-2px]"
                    onClick={() => props.onOpen(row.id)}
                    onKeyDown={(e) => e.key === 'Enter' && props.onOpen(row.id)}
                  >
                    {row.cells.map((cell, i) => (
                      <td
                        key={i}
                        className={`max-w-80 truncate px-3 first:pl-5 ${heads[i]!.number ? 'text-right tabular-nums' : ''}`}
                      >
                        {cell}
                      </td>
                    ))}
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
