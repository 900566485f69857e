import { Download } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useState } from 'react';
import { Link } from 'react-router';

/** The ways out: the sheet as CSV or XLSX, with what is wanted in it, and codes as single files. */
export function BatchDownload({ batch, withCodes }: { batch: string; withCodes: boolean }) {
  const [original, setOriginal] = useState(false);
  const [changed, setChanged] = useState(false);
  const [pictures, setPictures] = useState(false);
  const path = `/api/v1/batches/${batch}`;
  const query = `?original=${original}&changed=${changed}`;
  const link = 'button w-full';
  return (
    <Popover.Root>
      <Popover.Trigger className="button">
        <Download size={14} strokeWidth={1.5} /> Download
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content align="end" sideOffset={6} className="floating z-40 flex w-72 flex-col gap-2 p-3">
          <label className="flex items-center gap-2">
            <input type="checkbox" checked={original} onChange={(e) => setOriginal(e.target.checked)} /> original
            columns only
          </label>
          <label className="flex items-center gap-2">
            <input type="checkbox" checked={changed} onChange={(e) => setChanged(e.target.checked)} /> rows with links
            only
          </label>
          {withCodes && (
            <label className="flex items-center gap-2">
              <input type="checkbox" checked={pictures} onChange={(e) => setPictures(e.target.checked)} /> codes as
              pictures in the XLSX
            </label>
          )}
          <div className="grid grid-cols-2 gap-2">
            <a className={link} href={`${path}/result.csv${query}`} download>
              CSV
            </a>
            <a className={link} href={`${path}/result.xlsx${query}&codes=${pictures}`} download>
              XLSX
            </a>
            {withCodes && (
              <>
                <Link className={`${link} col-span-2`} to={`/ledger?codesOf=${batch}`}>
                  Print sheet, or codes with captions
                </Link>
                <a className={link} href={`${path}/codes.zip`} download>
                  Codes as SVG
                </a>
                <a className={link} href={`${path}/codes.zip?png=true`} download>
                  Codes as PNG
                </a>
              </>
            )}
          </div>
          <p className="text-xs text-quiet">
            All columns keep their content and order. Codes are 30 mm wide at 300 dpi.
          </p>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
