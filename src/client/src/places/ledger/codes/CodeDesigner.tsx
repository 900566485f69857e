import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { Download } from 'lucide-react';
import { useEffect, useState } from 'react';
import { useDebounced } from '../../../parts/useDebounced';
import { CodeStyleForm } from './CodeStyleForm';
import { Verdict } from './Verdict';
import { lastLook, queryOf, rememberLook, usual, type Look } from './look';
import { codeQuery } from './queries';

const formats = ['svg', 'png', 'jpg', 'pdf', 'eps'] as const;

/** One link's code: how it looks, whether it will scan, and its files. */
export function CodeDesigner({ linkId, slug }: { linkId: string; slug: string }) {
  const [look, setLook] = useState<Look>(lastLook);
  const settled = useDebounced(look, 250);
  useEffect(() => rememberLook(settled), [settled]);
  const code = useQuery({ ...codeQuery(linkId, settled), placeholderData: keepPreviousData, retry: false });
  const change = (part: Partial<Look>) => setLook({ ...look, ...part });
  const query = queryOf(settled);
  const offered = code.data && code.data.verdict !== 'unreadable' && !code.isError;
  return (
    <div className="grid grid-cols-[300px_minmax(0,1fr)] gap-8">
      <form className="flex flex-col gap-4" aria-label="Design" onSubmit={(e) => e.preventDefault()}>
        <CodeStyleForm look={look} onChange={change} facts={code.data?.facts} />
        <label className="flex items-center gap-2">
          <input type="checkbox" checked={look.long ?? false} onChange={(e) => change({ long: e.target.checked })} />
          Encode the long link instead of the short link
        </label>
        {look.long && (
          <p className="caption">
            The code gets larger, its scans can’t be counted, and its destination can’t be changed.
          </p>
        )}
        <button type="button" className="button-plain -ml-1.5 self-start" onClick={() => setLook(usual)}>
          Reset
        </button>
      </form>
      <div className="flex min-w-0 flex-col gap-5">
        {code.isError && (
          <p role="alert" className="text-error">
            {code.error.message}
          </p>
        )}
        {code.data && !code.isError && (
          <>
            <div className="flex flex-wrap items-start gap-6">
              <img
                src={`data:image/svg+xml,${encodeURIComponent(code.data.preview)}`}
                alt={`Code that says ${code.data.facts.says}`}
                className="w-60 border border-line bg-white"
              />
              <div className="min-w-64 flex-1">
                <Verdict code={code.data} />
              </div>
            </div>
            <div className="flex flex-wrap gap-2" aria-label="Files">
              {formats.map((format) =>
                offered ? (
                  <a
                    key={format}
                    className={format === 'svg' ? 'button-main' : 'button'}
                    href={`/api/v1/links/${linkId}/code.${format}${query && `?${query}`}`}
                    download={`${slug}.${format}`}
                  >
                    <Download size={14} strokeWidth={1.5} /> {format.toUpperCase()}
                  </a>
                ) : (
                  <button key={format} type="button" className="button" disabled>
                    {format.toUpperCase()}
                  </button>
                ),
              )}
            </div>
            {!offered && <p className="caption">Codes that don’t scan can’t be downloaded.</p>}
          </>
        )}
      </div>
    </div>
  );
}
