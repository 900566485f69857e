import { useMutation, useQuery } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import { count } from '../../../parts/format';
import { usePerson } from '../../../parts/person';
import { UploadList } from '../UploadList';
import { When } from '../When';
import { mailsQuery, mailUpload } from './queries';

/** HTML mails that were uploaded, newest first. */
export function MailList({ parts, onOpen }: { parts: ReactNode; onOpen: (id: string) => void }) {
  const mails = useQuery(mailsQuery());
  const bring = useMutation({ ...mailUpload(), onSuccess: (made) => onOpen(made.id) });
  return (
    <UploadList
      parts={parts}
      state={mails.data && `${count(mails.data.length)} ${mails.data.length === 1 ? 'mail' : 'mails'}`}
      mayWrite={usePerson().role !== 'viewer'}
      file={{ label: 'Mail', accept: '.html,.htm,.eml', says: 'Upload a mail', pending: bring.isPending }}
      hint="Drop an HTML file or a saved mail (.eml) here, up to 10 MB, or paste its HTML:"
      paste={{ label: 'Pasted HTML', asFile: (text) => new File([text], 'Pasted mail.html', { type: 'text/html' }) }}
      onFile={(file) => bring.mutate(file)}
      error={bring.error}
      empty="No mails yet. Upload the HTML of a newsletter: every link to your sites is tagged in one step and told apart by its position. Unsubscribe links, mail addresses and other sites stay as they are, and nothing else in the mail changes."
      samples={['newsletter.html']}
      heads={[
        { name: 'Mail' },
        { name: 'Subject' },
        { name: 'Links written', number: true },
        { name: 'Uploaded' },
        { name: 'Links created' },
      ]}
      rows={mails.data?.map((mail) => ({
        id: mail.id,
        cells: [
          mail.name,
          mail.subject,
          count(mail.written),
          <When key="brought" at={mail.createdAt} by={mail.createdBy} />,
          <When key="made" at={mail.madeAt} otherwise="not yet" />,
        ],
      }))}
      onOpen={onOpen}
    />
  );
}
