import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { api, dataOf, type Schema } from '../../api/client';
import { useShortDomains } from '../../api/known';
import { count } from '../../parts/format';
import { Head } from '../../parts/Head';
import { SeverityMark } from '../../parts/SeverityMark';
import { FileButton } from '../batches/FileButton';

const outcomes = {
  ready: ['good', 'ready'],
  waits: ['look', 'waits for an owner'],
  clash: ['stop', 'clash'],
  refused: ['stop', 'can’t be taken over'],
} as const;

/** Slugs and destinations of a shortener that closes: brought as a sheet, looked at with their clashes, then taken over. */
export function SlugImport({ onLeave }: { onLeave: () => void }) {
  const queries = useQueryClient();
  const [text, setText] = useState('');
  const [printed, setPrinted] = useState(false);
  const [domain, setDomain] = useState('');
  const domains = useShortDomains();
  const [list, setList] = useState<Schema['SlugImportAnswer'] | null>(null);
  const read = useMutation({
    mutationFn: async (file: Blob) =>
      dataOf(
        await api.POST('/api/v1/slugs/read', {
          params: { query: { domain: domain || undefined } },
          body: file as never,
          bodySerializer: (body) => body,
          headers: { 'Content-Type': 'application/octet-stream' },
        }),
      ) as Schema['SlugImportAnswer'],
    onSuccess: setList,
  });
  const bring = useMutation({
    mutationFn: async () =>
      dataOf(await api.POST('/api/v1/slugs/bring', { body: { rows: list!.rows, printed, domain } })),
    onSuccess: (answer) => {
      setList(answer);
      return queries.invalidateQueries({ queryKey: ['links'] });
    },
  });
  const problem = read.error ?? bring.error;
  const against = list ? list.rows.length - list.takes : 0;
  return (
    <>
      <Head
        title="Take over slugs"
        state={
          list &&
          (list.brought
            ? `${count(list.brought)} taken over`
            : `${count(list.takes)} can be taken over${against ? ` · ${count(against)} can’t` : ''}`)
        }
      >
        <button type="button" className="button" onClick={onLeave}>
          All links
        </button>
        {list && !list.brought ? (
          <>
            <button type="button" className="button" onClick={() => setList(null)}>
              Another list
            </button>
            <button
              type="button"
              className="button-main"
              disabled={list.takes === 0 || bring.isPending}
              onClick={() => bring.mutate()}
            >
              {bring.isPending ? 'Taking over …' : `Take over ${count(list.takes)}`}
            </button>
          </>
        ) : (
          <FileButton
            label="Sheet of slugs"
            accept=".csv,.tsv,.txt,.xlsx"
            pending={read.isPending}
            says="Bring a sheet"
            onFile={(file) => read.mutate(file)}
          />
        )}
      </Head>
      <div className="min-h-0 flex-1 overflow-auto bg-sheet">
        {problem && (
          <p role="alert" className="p-5 text-stop">
            {problem.message}
          </p>
        )}
        {!list && (
          <form
            className="flex max-w-2xl flex-col gap-3 p-5"
            onSubmit={(e) => {
              e.preventDefault();
              read.mutate(new Blob([text]));
            }}
          >
            <p>
              When a shortener closes, what is printed keeps working if its domain leads here and its slugs are known
              here. Bring its list: one column of slugs or whole short addresses, one of destinations, and a title where
              there is one. Destinations stay as they are, tags and all.
            </p>
            {(domains.data?.length ?? 0) > 1 && (
              <label className="flex flex-col gap-1">
                <span className="caption">The short domain they stand on</span>
                <select className="input w-72" value={domain} onChange={(e) => setDomain(e.target.value)}>
                  {domains.data!.map((d) => (
                    <option key={d.id} value={d.first ? '' : d.host}>
                      {d.host}
                    </option>
                  ))}
                </select>
              </label>
            )}
            <label className="flex flex-col gap-1">
              <span className="caption">Or paste it, with its headings</span>
              <textarea
                className="input h-40 py-2 font-mono text-xs"
                value={text}
                onChange={(e) => setText(e.target.value)}
                placeholder={'slug,destination,title'}
              />
            </label>
            <button type="submit" className="button self-start" disabled={!text.trim() || read.isPending}>
              Look at it
            </button>
          </form>
        )}
        {list && (
          <>
            {!list.brought && (
              <label className="flex items-center gap-2 border-b border-line px-5 py-3">
                <input type="checkbox" checked={printed} onChange={(e) => setPrinted(e.target.checked)} />
                They stand on paper as codes: what comes by them is counted as scans
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
                  <th scope="col">What comes of it</th>
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
                            <SeverityMark severity={row.outcome === 'ready' && row.says ? 'look' : mark} />
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
