import { useMutation, useQuery } from '@tanstack/react-query';
import { type ReactNode } from 'react';
import { type Schema } from '../../api/client';
import { ago, exact } from '../../parts/format';
import { Head } from '../../parts/Head';
import { usePerson } from '../../parts/person';
import { outgoingMailsQuery, ownTestMail } from './queries';

type Mail = Schema['MailState'];

const kinds: Record<string, string> = {
  invitation: 'Invitation',
  reset: 'New password',
  forgotten: 'Forgotten password',
  test: 'Test',
  'page-findings': 'Page findings',
};

/** Whether mails go out, and what became of each. */
export function OutgoingMails({ tabs }: { tabs: ReactNode }) {
  const person = usePerson();
  const owner = person.role === 'owner';
  const sent = useQuery({ ...outgoingMailsQuery(), enabled: owner });
  const test = useMutation(ownTestMail());
  const problem = sent.error ?? test.error;
  return (
    <>
      <Head title="Outgoing mail">{tabs}</Head>
      <div className="min-h-0 flex-1 overflow-auto bg-sheet p-5">
        <div className="flex max-w-5xl flex-col gap-5">
          {!owner && <p className="text-quiet">Owners see here which mails go out.</p>}
          {problem && (
            <p role="alert" className="text-error">
              {problem.message}
            </p>
          )}
          {sent.data &&
            (sent.data.from ? (
              <div className="flex flex-wrap items-center gap-4">
                <p>
                  Mails are sent from <span className="font-medium">{sent.data.from}</span>.
                </p>
                <button type="button" className="button" disabled={test.isPending} onClick={() => test.mutate()}>
                  Send a test mail to {person.mail}
                </button>
              </div>
            ) : (
              <p>
                No mails are sent from here. The person who runs the application sets a mail server; docs/mail.md says
                how. Until then, copy each link and send it yourself.
              </p>
            ))}
          {sent.data?.from && sent.data.mails.length === 0 && <p className="text-quiet">No mail was sent yet.</p>}
          {sent.data && sent.data.mails.length > 0 && (
            <table aria-label="Outgoing mails" className="w-full border-separate border-spacing-0">
              <thead className="text-left text-xs text-quiet">
                <tr className="[&>th]:border-b [&>th]:border-line [&>th]:py-2 [&>th]:pr-4 [&>th]:font-medium">
                  <th scope="col">For</th>
                  <th scope="col">Kind</th>
                  <th scope="col">Subject</th>
                  <th scope="col">Written</th>
                  <th scope="col">State</th>
                </tr>
              </thead>
              <tbody>
                {sent.data.mails.map((mail) => (
                  <tr key={mail.id} className="align-top [&>td]:border-b [&>td]:border-line [&>td]:py-1.5 [&>td]:pr-4">
                    <td className="break-all">{mail.recipient}</td>
                    <td className="whitespace-nowrap">{kinds[mail.kind] ?? mail.kind}</td>
                    <td>{mail.subject}</td>
                    <td className="whitespace-nowrap" title={exact(mail.madeAt)}>
                      {ago(mail.madeAt)}
                    </td>
                    <td>
                      <State mail={mail} />
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          )}
        </div>
      </div>
    </>
  );
}

function State({ mail }: { mail: Mail }) {
  if (mail.sentAt) return <span title={mail.answer ?? undefined}>sent {ago(mail.sentAt)}</span>;
  if (mail.givenUpAt) return <span className="text-error">not sent: {mail.answer}</span>;
  if (!mail.nextTryAt) return <span className="text-quiet">waits</span>;
  return (
    <span>
      tried {mail.tries === 1 ? 'once' : `${mail.tries} times`}, again at {exact(mail.nextTryAt)}
      <span className="block text-quiet">{mail.answer}</span>
    </span>
  );
}
