import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import { api, dataOf, type Schema } from '../../../api/client';
import { ago, count, exact } from '../../../parts/format';
import { Head } from '../../../parts/Head';
import { usePerson } from '../../../parts/person';
import { DropArea } from '../DropArea';
import { FileButton } from '../FileButton';

/** HTML mails that were brought, newest first. */
export function MailList({ parts, onOpen }: { parts: ReactNode; onOpen: (id: string) => void }) {
  const person = usePerson();
  const queries = useQueryClient();
  const mayWrite = person.role !== 'Viewer';
  const mails = useQuery({
    queryKey: ['mails'],
    queryFn: async () => dataOf(await api.GET('/api/v1/mails')),
  });
  const bring = useMutation({
    mutationFn: async (file: File) =>
      dataOf<Schema['MailMade']>(
        await api.POST('/api/v1/mails', {
          params: { query: { name: file.name } },
          body: file as never,
          bodySerializer: (body: unknown) => body as Blob,
        } as never),
      ),
    onSuccess: async (made) => {
      await queries.invalidateQueries({ queryKey: ['mails'] });
      onOpen(made.id);
    },
  });

  return (
    <>
      <Head
        title="Batches"
        state={mails.data && `${count(mails.data.length)} ${mails.data.length === 1 ? 'mail' : 'mails'}`}
      >
        {parts}
        {mayWrite && (
          <FileButton
            label="Mail"
            accept=".html,.htm,.eml"
            pending={bring.isPending}
            says="Bring a mail"
            onFile={(file) => bring.mutate(file)}
          />
        )}
      </Head>
      <DropArea disabled={!mayWrite} onFile={(file) => bring.mutate(file)}>
        {mayWrite && (
          <div className="flex items-center gap-4 border-b border-line px-5 py-3">
            <p className="text-quiet">Drop an HTML file or a saved mail (.eml) here, up to 10 MB, or paste its HTML:</p>
            <textarea
              aria-label="Pasted HTML"
              className="input h-8 w-64 resize-none py-1"
              placeholder="paste here"
              value=""
              onChange={() => undefined}
              onPaste={(e) => {
                e.preventDefault();
                const text = e.clipboardData.getData('text/plain');
                if (text.trim() !== '') bring.mutate(new File([text], 'Pasted mail.html', { type: 'text/html' }));
              }}
            />
          </div>
        )}
        {bring.isError && (
          <p role="alert" className="border-b border-line px-5 py-2 text-stop">
            {bring.error.message}
          </p>
        )}
        <div className="min-h-0 flex-1 overflow-auto bg-sheet">
          {mails.data?.length === 0 ? (
            <p className="max-w-xl p-8 text-quiet">
              No mail was brought yet. Bring the HTML of a newsletter: every link to your sites is tagged in one go,
              told apart by its place; unsubscribing, mail addresses and other people’s sites are left alone, and
              nothing else in the mail changes. Try it with samples/newsletter.html.
            </p>
          ) : (
            <table className="w-full">
              <thead className="sticky top-0 bg-sheet">
                <tr className="h-[34px] border-b border-line text-left text-xs text-quiet">
                  {['Mail', 'Subject', 'Links written', 'Brought', 'Links made'].map((head) => (
                    <th
                      key={head}
                      className={`px-3 font-medium first:pl-5 ${head === 'Links written' ? 'text-right' : ''}`}
                    >
                      {head}
                    </th>
                  ))}
                </tr>
              </thead>
              <tbody>
                {mails.data?.map((mail) => (
                  <tr
                    key={mail.id}
                    tabIndex={0}
                    className="h-[34px] cursor-pointer border-b border-line hover:bg-accent-wash focus-visible:outline-offset-[-2px]"
                    onClick={() => onOpen(mail.id)}
                    onKeyDown={(e) => e.key === 'Enter' && onOpen(mail.id)}
                  >
                    <td className="px-3 pl-5">{mail.name}</td>
                    <td className="max-w-80 truncate px-3">{mail.subject}</td>
                    <td className="px-3 text-right tabular-nums">{count(mail.written)}</td>
                    <td className="px-3" title={exact(mail.createdAt)}>
                      {ago(mail.createdAt)} by {mail.createdBy}
                    </td>
                    <td className="px-3" title={mail.madeAt ? exact(mail.madeAt) : undefined}>
                      {mail.madeAt ? ago(mail.madeAt) : 'not yet'}
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
