import { useQueryClient } from '@tanstack/react-query';
import { useState, type FormEvent } from 'react';
import { Navigate, useSearchParams } from 'react-router';
import { api, dataOf } from '../../api/client';
import { useAccount } from '../../api/useAccount';
import { roleNames } from '../../parts/person';

/** Signing in; in the demo, its people by name. */
export function SignIn() {
  const [search] = useSearchParams();
  const queries = useQueryClient();
  const [mail, setMail] = useState('');
  const [password, setPassword] = useState('');
  const [refusal, setRefusal] = useState('');
  const [busy, setBusy] = useState(false);
  const account = useAccount();

  // Only an address of our own is gone back to.
  const asked = search.get('to') ?? '/compose';
  const to = /^\/(?![/\\])/.test(asked) ? asked : '/compose';

  async function signIn(mail: string, password: string | null) {
    setBusy(true);
    setRefusal('');
    try {
      dataOf(await api.POST('/api/account/sign-in', { body: { mail, password } }));
      await queries.invalidateQueries({ queryKey: ['account'] });
    } catch (error) {
      setRefusal((error as Error).message);
    } finally {
      setBusy(false);
    }
  }

  function submit(event: FormEvent) {
    event.preventDefault();
    void signIn(mail, password);
  }

  if (account.data?.person) return <Navigate to={to} replace />;
  if (account.data?.needsFirstOwner) return <Navigate to="/welcome" replace />;
  const people = account.data?.demoPeople ?? [];
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
                    disabled={busy}
                    className="button h-11 w-full justify-between"
                    onClick={() => void signIn(person.mail, null)}
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
          {people.length > 0 && <h2 className="font-medium">With a password</h2>}
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
          {refusal && (
            <p role="alert" className="text-error">
              {refusal}
            </p>
          )}
          <button type="submit" disabled={busy} className="button-main justify-center">
            Sign in
          </button>
        </form>
      </div>
    </main>
  );
}
