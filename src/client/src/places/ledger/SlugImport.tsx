import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { type Schema } from '../../api/client';
import { useShortDomains } from '../../api/known';
import { count } from '../../parts/format';
import { Head } from '../../parts/Head';
import { SeverityMark } from '../../parts/SeverityMark';
import { FileInput } from '../../parts/FileInput';
import { Select } from '../../parts/Select';
import { FormField } from '../../parts/FormField';
import { slugsRead, slugsImport } from './queries';

const outcomes = {
  ready: ['good', 'ready'],
  waits: ['warning', 'waits for an owner'],
  clash: ['error', 'clash'],
  refused: ['error', 'can’t be imported'],
} as const;

/** Slugs and destinations of a shortener that closes: uploaded as a sheet, looked at with their clashes, then imported. */
export function SlugImport({ onLeave }: { onLeave: () => void }) {
  const [text, setText] = useState('');
  const [printed, setPrinted] = useState(false);
  const [domain, setDomain] = useState('');
  const domains = useShortDomains();
  const [list, setList] = useState<Schema['SlugImportAnswer'] | null>(null);
  const read = useMutation({ ...slugsRead(), onSuccess: setList });
  const bring = useMutation({ ...slugsImport(), onSuccess: setList });
  const problem = read.error ?? bring.error;
  const against = list ? list.rows.length - list.takes : 0;
  return (
    <>
      <Head
        title="Import short links"
        state={
          list &&
          (list.imported
            ? `${count(list.imported)} imported`
            : `${count(list.takes)} can be imported${against ? ` · ${count(against)} can’t` : ''}`)
        }
      >
        <button type="button" className="button" onClick={onLeave}>
          All links
        </button>
        {list && !list.imported ? (
          <>
            <button type="button" className="button" onClick={() => setList(null)}>
              Another list
            </button>
            <button
              type="button"
              className="button-main"
              disabled={list.takes === 0 || bring.isPending}
              onClick={() => bring.mutate({ rows: list!.rows, printed, domain })}
            >
              {bring.isPending ? 'Importing …' : `Import ${count(list.takes)}`}
            </button>
          </>
        ) : (
          <FileInput
            look="main"
            label="Sheet of short links"
            accept=".csv,.tsv,.txt,.xlsx"
            pending={read.isPending}
            says="Upload a sheet"
            onFile={(file) => read.mutate({ file, domain })}
          />
        )}
      </Head>
      <div className="min-h-0 flex-1 overflow-auto bg-sheet">
        {problem && (
          <p role="alert" className="p-5 text-error">
            {problem.message}
          </p>
        )}
        {!list && (
          <form
            className="flex max-w-2xl flex-col gap-3 p-5"
            onSubmit={(e) => {
              e.preventDefault();
              read.mutate({ file: new Blob([text]), domain });
            }}
          >
            <p>
              If another shortener closes, printed links keep working once its domain leads here and its slugs are
              imported. Upload its list: a column of slugs or short addresses, a column of destinations, and an optional
              title. Destinations stay exactly as they are, including tags.
            </p>
            {(domains.data?.length ?? 0) > 1 && (
              <FormField label="Short domain of these links">
                <Select
                  className="w-72"
                  value={domain}
                  onChange={setDomain}
                  options={domains.data!.map((d) => [d.first ? '' : d.host, d.host] as const)}
                />
              </FormField>
            )}
            <FormField label="Or paste the list with its headings">
              <textarea
                className="input h-40 py-2 font-mono text-xs"
                value={text}
                onChange={(e) => setText(e.target.value)}
                placeholder={'slug,destination,title'}
              />
            </FormField>
            <button type="submit" className="button self-start" disabled={!text.trim() || read.isPending}>
              Check list
            </button>
          </form>
        )}
        {list && (
          <>
            {!list.imported && (
              <label className="flex items-center gap-2 border-b border-line px-5 py-3">
                <input type="checkbox" checked={printed} onChange={(e) => setPrinted(e.target.checked)} />
                Printed as QR codes: count their visits as scans
              </label>
            )}
            <table className="w-full border-separate border-spacing-0">
              <thead className="sticky top-0 bg-sheet text-left text-xs text-quiet">
                <tr className="[&>th]:border-b [&>th]:border-line [&>th]:px-2 [&>th]:py-2 [&>th]:font-medium">
                  <th scope="col" className="!pl-5">
                    Slug
                  </th>
                  <th scope="col">Leads to</th>
                  <th scope="col">Title</th>
                  <th scope="col">Result</th>
                </tr>
              </thead>
              <tbody>
                {list.rows.map((row, i) => {
                  const [mark, says] = outcomes[row.outcome];
                  return (
                    <tr key={i} className="align-top [&>td]:border-b [&>td]:border-line [&>td]:px-2 [&>td]:py-1.5">
                      <td className="!pl-5 font-mono text-xs leading-5 whitespace-nowrap">{row.slug}</td>
                      <td className="max-w-md truncate font-mono text-xs leading-5" title={row.page}>
                        {row.page}
                      </td>
                      <td>{row.title}</td>
                      <td>
                        <span className="flex gap-2">
                          <span className="mt-0.5">
                            <SeverityMark severity={row.outcome === 'ready' && row.says ? 'warning' : mark} />
                          </span>
                          <span>{row.says ?? says}</span>
                        </span>
                      </td>
                    </tr>
                  );
                })}
              </tbody>
            </table>
          </>
        )}
      </div>
    </>
  );
}
