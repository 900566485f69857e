import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { ago, exact } from '../../parts/format';
import { Head } from '../../parts/Head';
import { usePerson } from '../../parts/person';
import { FormField } from '../../parts/FormField';
import {
  ownMailChoice,
  ownMailsQuery,
  sessionsQuery,
  nameChange,
  passwordChange,
  sessionEnd,
  otherSessionsEnd,
} from './queries';

/** What belongs to the person who is signed in: their password, and where they are signed in. */
export function Account() {
  const person = usePerson();
  return (
    <>
      <Head title="Your account" state={person.mail} />
      <div className="min-h-0 flex-1 overflow-auto bg-sheet p-5">
        <div className="flex max-w-4xl flex-col gap-10">
          <Name />
          <Password />
          <Mails />
          <Sessions />
        </div>
      </div>
    </>
  );
}

/** Which mails the person gets. */
function Mails() {
  const mails = useQuery(ownMailsQuery());
  const choose = useMutation(ownMailChoice());
  const problem = mails.error ?? choose.error;
  return (
    <section aria-labelledby="mails" className="flex flex-col gap-3">
      <h2 id="mails" className="font-medium">
        Mails to you
      </h2>
      {mails.data && (
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            checked={mails.data.kinds.includes('page-findings')}
            disabled={choose.isPending}
            onChange={(e) => choose.mutate({ kind: 'page-findings', wanted: e.target.checked })}
          />
          New findings of page checks, at most one mail an hour
        </label>
      )}
      {mails.data && !mails.data.sendsMail && <p className="text-quiet">No mails are sent from here yet.</p>}
      {problem && (
        <p role="alert" className="text-error">
          {problem.message}
        </p>
      )}
    </section>
  );
}

function Name() {
  const person = usePerson();
  const [name, setName] = useState(person.name);
  const change = useMutation(nameChange());
  return (
    <section aria-labelledby="name" className="flex flex-col gap-3">
      <h2 id="name" className="font-medium">
        Name
      </h2>
      <form
        className="flex flex-wrap items-end gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          change.mutate({ name });
        }}
      >
        <FormField label="Your name">
          <input
            className="input w-72"
            autoComplete="name"
            maxLength={100}
            value={name}
            onChange={(e) => setName(e.target.value)}
          />
        </FormField>
        <button
          type="submit"
          className="button"
          disabled={change.isPending || !name.trim() || name.trim() === person.name}
        >
          Save name
        </button>
        {change.isError && (
          <p role="alert" className="w-full text-error">
            {change.error.message}
          </p>
        )}
      </form>
    </section>
  );
}

function Password() {
  const [current, setCurrent] = useState('');
  const [next, setNext] = useState('');
  const change = useMutation({
    ...passwordChange(),
    onSuccess: () => {
      setCurrent('');
      setNext('');
    },
  });
  return (
    <section aria-labelledby="password" className="flex flex-col gap-3">
      <h2 id="password" className="font-medium">
        Password
      </h2>
      <p className="text-quiet">
        At least 12 characters. A few words in a row are strong and easy to remember. All your other sessions end when
        you change it.
      </p>
      <form
        className="flex flex-wrap items-end gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          change.mutate({ current, next });
        }}
      >
        <FormField label="Current password">
          <input
            className="input w-72"
            type="password"
            autoComplete="current-password"
            value={current}
            onChange={(e) => setCurrent(e.target.value)}
          />
        </FormField>
        <FormField label="New password">
          <input
            className="input w-72"
            type="password"
            autoComplete="new-password"
            maxLength={200}
            value={next}
            onChange={(e) => setNext(e.target.value)}
          />
        </FormField>
        <button type="submit" className="button-main" disabled={change.isPending || !current || !next}>
          Change password
        </button>
        {change.isError && (
          <p role="alert" className="w-full text-error">
            {change.error.message}
          </p>
        )}
        {change.isSuccess && !current && !next && (
          <p role="status" className="w-full">
            Your password is changed. Your other sessions have ended.
          </p>
        )}
      </form>
    </section>
  );
}

function Sessions() {
  const sessions = useQuery(sessionsQuery());
  const end = useMutation(sessionEnd());
  const endOthers = useMutation(otherSessionsEnd());
  const others = sessions.data?.filter((s) => !s.own).length ?? 0;
  const problem = sessions.error ?? end.error ?? endOthers.error;
  return (
    <section aria-labelledby="sessions" className="flex flex-col gap-3">
      <div className="flex items-baseline gap-4">
        <h2 id="sessions" className="font-medium">
          Sessions
        </h2>
        {others > 0 && (
          <button
            type="button"
            className="button-plain"
            disabled={endOthers.isPending}
            onClick={() => endOthers.mutate()}
          >
            End all others
          </button>
        )}
      </div>
      <p className="text-quiet">
        Every browser you are signed in with. A session ends after 12 hours without use, and after 14 days at the
        latest.
      </p>
      {problem && (
        <p role="alert" className="text-error">
          {problem.message}
        </p>
      )}
      <table className="w-full border-separate border-spacing-0">
        <thead className="text-left text-xs text-quiet">
          <tr className="[&>th]:border-b [&>th]:border-line [&>th]:py-2 [&>th]:pr-4 [&>th]:font-medium">
            <th scope="col">Device</th>
            <th scope="col">Browser</th>
            <th scope="col">Signed in</th>
            <th scope="col">Last used</th>
            <th scope="col" />
          </tr>
        </thead>
        <tbody>
          {sessions.data?.map((session) => (
            <tr key={session.id} className="[&>td]:border-b [&>td]:border-line [&>td]:py-1.5 [&>td]:pr-4">
              <td className="first-letter:uppercase">{session.device}</td>
              <td className="max-w-80 truncate text-quiet" title={session.userAgent}>
                {session.userAgent || 'unknown'}
              </td>
              <td title={exact(session.startedAt)} className="whitespace-nowrap">
                {ago(session.startedAt)}
              </td>
              <td title={exact(session.seenAt)} className="whitespace-nowrap">
                {ago(session.seenAt)}
              </td>
              <td className="text-right whitespace-nowrap">
                {session.own ? (
                  <span className="text-quiet">this browser</span>
                ) : (
                  <button
                    type="button"
                    className="button-plain"
                    aria-label={`End the session of ${ago(session.startedAt)} on a ${session.device}`}
                    onClick={() => end.mutate(session.id)}
                  >
                    End
                  </button>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
