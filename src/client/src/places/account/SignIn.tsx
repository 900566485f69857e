import { useMutation } from '@tanstack/react-query';
import { useState, type FormEvent } from 'react';
import { Navigate, useSearchParams } from 'react-router';
import { useAccount } from '../../api/useAccount';
import { roleNames } from '../../parts/person';
import { passwordForgotten, signInChange } from './queries';

/** Signing in; in the demo, its people by name. */
export function SignIn() {
  const [search] = useSearchParams();
  const [mail, setMail] = useState('');
  const [password, setPassword] = useState('');
  const [forgot, setForgot] = useState(false);
  const signIn = useMutation(signInChange());
  const ask = useMutation(passwordForgotten());
  const account = useAccount();

  // Only an address of our own is gone back to.
  const asked = search.get('to') ?? '/compose';
  const to = /^\/(?![/\\])/.test(asked) ? asked : '/compose';

  function submit(event: FormEvent) {
    event.preventDefault();
    if (forgot) ask.mutate(mail);
    else signIn.mutate({ mail, password });
  }

  if (account.data?.person) return <Navigate to={to} replace />;
  if (account.data?.needsFirstOwner) return <Navigate to="/welcome" replace />;
  const people = account.data?.demoPeople ?? [];
  const problem = forgot ? ask.error : signIn.error;
  return (
    <main className="flex h-full items-center justify-center p-6">
      <div className="w-full max-w-sm">
        <h1 className="mb-1 text-2xl font-semibold">Precise Beacon</h1>
        <p className="mb-6 text-quiet">Links that say where their visitors came from, in the same words every time.</p>
        {people.length > 0 && (
          <section className="mb-6">
            <h2 className="mb-2 font-medium">Marrowmere Botanic Garden, the demo</h2>
            <ul className="flex flex-col gap-2">
              {people.map((person) => (
                <li key={person.mail}>
                  <button
                    type="button"
                    disabled={signIn.isPending}
                    className="button h-11 w-full justify-between"
                    onClick={() => signIn.mutate({ mail: person.mail, password: null })}
                  >
                    <span className="font-medium">{person.name}</span>
                    <span className="caption">{roleNames[person.role]}</span>
                  </button>
                </li>
              ))}
            </ul>
          </section>
        )}
        <form onSubmit={submit} className="flex flex-col gap-3">
          {people.length > 0 && <h2 className="font-medium">{forgot ? 'A new password' : 'With a password'}</h2>}
          <label className="flex flex-col gap-1">
            Mail address
            <input
              className="input"
              type="email"
              autoComplete="username"
              required
              value={mail}
              onChange={(e) => setMail(e.target.value)}
            />
          </label>
          {!forgot && (
            <label className="flex flex-col gap-1">
              Password
              <input
                className="input"
                type="password"
                autoComplete="current-password"
                required
                value={password}
                onChange={(e) => setPassword(e.target.value)}
              />
            </label>
          )}
          {problem && (
            <p role="alert" className="text-error">
              {problem.message}
            </p>
          )}
          <button type="submit" disabled={signIn.isPending || ask.isPending} className="button-main justify-center">
            {forgot ? 'Send a link for a new password' : 'Sign in'}
          </button>
          {forgot && ask.isSuccess && (
            <p role="status">
              If {ask.variables} has an account here, a mail with a link is on its way. The link works for 24 hours.
            </p>
          )}
        </form>
        {account.data?.sendsMail ? (
          <button
            type="button"
            className="button-plain mt-4 -ml-2"
            onClick={() => {
              setForgot(!forgot);
              signIn.reset();
              ask.reset();
            }}
          >
            {forgot ? 'Sign in with a password' : 'Forgot your password?'}
          </button>
        ) : (
          <p className="mt-4 text-quiet">
            Forgot your password? An owner of your workspace makes you a link for a new one.
          </p>
        )}
      </div>
    </main>
  );
}
