import { useMutation, useQuery } from '@tanstack/react-query';
import { Pencil } from 'lucide-react';
import { useState } from 'react';
import type { Schema } from '../../api/client';
import { CopyButton } from '../../parts/CopyButton';
import { DateField } from '../../parts/DateField';
import { dayOf } from '../../parts/days';
import { FormDialog } from '../../parts/FormDialog';
import { FormField } from '../../parts/FormField';
import { ago, count } from '../../parts/format';
import { usePerson } from '../../parts/person';
import { ShareButton } from '../../parts/ShareButton';
import { resultsPageSave, resultsPagesQuery, resultsPageWithdraw } from './queries';

interface ShareDialogProps {
  /** The view's settings, as the address has them. */
  address: string;
  /** What the view is called to begin with. */
  name: string;
  onClose: () => void;
}

type Page = Schema['ResultPageAnswer'];

/** Hands a view on: its address to colleagues, and results pages to people without an account. */
export function ShareDialog({ address, name, onClose }: ShareDialogProps) {
  const person = usePerson();
  const mayWrite = person.role === 'owner' || person.role === 'editor';
  const pages = useQuery(resultsPagesQuery());
  const withdraw = useMutation(resultsPageWithdraw());
  const [edited, setEdited] = useState<Page | null>(null);
  const here = `${window.location.origin}/arrivals?${address}`;
  return (
    <FormDialog title="Share this view" onClose={onClose}>
      <section className="mb-5">
        <h3 className="mb-1 font-medium">With people who have an account</h3>
        <p className="mb-1 text-quiet">They see the view as it is, and can change it for themselves.</p>
        <span className="-ml-1.5 flex">
          <CopyButton text={here} label="Copy address" />
          <ShareButton title={name} url={here} />
        </span>
      </section>
      <section>
        <h3 className="mb-1 font-medium">With people who have none</h3>
        {mayWrite && (
          <PageForm
            key={edited?.id ?? 'new'}
            page={edited}
            address={address}
            name={name}
            onDone={() => setEdited(null)}
          />
        )}
        {withdraw.isError && <p className="mt-2 text-error">{withdraw.error.message}</p>}
        {pages.data && pages.data.length > 0 && (
          <ul aria-label="Results pages" className="mt-4 flex flex-col gap-3 border-t border-line pt-3">
            {pages.data.map((page) => (
              <li key={page.id}>
                <a href={page.url} target="_blank" rel="noreferrer" className="text-accent hover:underline">
                  {page.name}
                </a>
                <p className="caption">
                  {[
                    page.withMoney ? 'with money' : 'without money',
                    page.ended ? 'has ended' : page.endsOn ? `until ${dayOf(page.endsOn)}` : null,
                    page.openings === 0
                      ? 'not opened yet'
                      : `opened ${count(page.openings)} ${page.openings === 1 ? 'time' : 'times'}, last ${ago(page.lastOpenedAt!)}`,
                    page.createdBy,
                  ]
                    .filter(Boolean)
                    .join(' · ')}
                </p>
                <span className="-ml-1.5 flex flex-wrap">
                  <CopyButton text={page.url} label="Copy address" />
                  <ShareButton title={page.name} url={page.url} />
                  {mayWrite && (
                    <>
                      <button type="button" className="button-plain" onClick={() => setEdited(page)}>
                        <Pencil size={13} strokeWidth={1.5} /> Edit
                      </button>
                      <button type="button" className="button-plain" onClick={() => withdraw.mutate(page.id)}>
                        Withdraw
                      </button>
                    </>
                  )}
                </span>
              </li>
            ))}
          </ul>
        )}
      </section>
    </FormDialog>
  );
}

interface PageFormProps {
  /** The page to change; null for a new one. */
  page: Page | null;
  address: string;
  name: string;
  onDone: () => void;
}

function PageForm({ page, address, name, onDone }: PageFormProps) {
  const { today } = usePerson();
  const [written, setWritten] = useState({
    name: page?.name ?? name,
    withMoney: page?.withMoney ?? false,
    endsOn: page?.endsOn ?? '',
  });
  const save = useMutation(resultsPageSave());
  return (
    <form
      className="flex flex-col gap-3"
      onSubmit={(e) => {
        e.preventDefault();
        save.mutate(
          { id: page?.id, name: written.name, withMoney: written.withMoney, endsOn: written.endsOn || null, address },
          { onSuccess: onDone },
        );
      }}
    >
      <p className="text-quiet">
        A results page shows this view’s rows to whoever has its address, and nothing else, until you withdraw it.
      </p>
      <FormField label="Name, as its readers see it">
        <input
          className="input"
          value={written.name}
          maxLength={100}
          onChange={(e) => setWritten({ ...written, name: e.target.value })}
        />
      </FormField>
      <FormField label="Last day (optional)">
        <DateField
          label="Last day"
          value={written.endsOn}
          min={today}
          onChange={(endsOn) => setWritten({ ...written, endsOn })}
        />
      </FormField>
      <label className="flex items-center gap-2">
        <input
          type="checkbox"
          checked={written.withMoney}
          onChange={(e) => setWritten({ ...written, withMoney: e.target.checked })}
        />
        Show revenue
      </label>
      {save.isError && (
        <p role="alert" className="text-error">
          {save.error.message}
        </p>
      )}
      <span className="flex gap-2">
        <button type="submit" className="button-main" disabled={save.isPending || written.name.trim() === ''}>
          {page ? 'Save' : 'Create results page'}
        </button>
        {page && (
          <button type="button" className="button" onClick={onDone}>
            Cancel
          </button>
        )}
      </span>
      {save.data && !page && (
        <p role="status" className="flex items-center gap-2">
          Created. <CopyButton text={save.data.url} label="Copy its address" />
        </p>
      )}
    </form>
  );
}
