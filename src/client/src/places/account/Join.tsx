import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, Navigate, useLocation } from 'react-router';
import { useAccount } from '../../api/useAccount';
import { invitationQuery, invitationUse } from './queries';

const roles = {
  owner: 'an owner',
  editor: 'an editor',
  viewer: 'a viewer',
  shortener: 'a shortener',
  measuring: 'a measuring key',
} as const;

/** A link that was handed over: somebody joins, or chooses a new password. What stands behind the # never leaves for a server's log. */
export function Join() {
  const secret = useLocation().hash.slice(1);
  // Its answer has the token that goes along with everything sent.
  const account = useAccount();
  const seen = useQuery({ ...invitationQuery(secret), enabled: account.isSuccess });
  const [name, setName] = useState('');
  const [password, setPassword] = useState('');
  const use = useMutation(invitationUse());
  if (use.isSuccess) return <Navigate to="/compose" replace />;
  return (
    <main className="flex min-h-full items-center justify-center p-6">
      <div className="w-full max-w-sm">
        <h1 className="mb-1 text-2xl font-semibold">Precise Beacon</h1>
        {seen.isError && (
          <>
            <p role="alert" className="mb-4 text-error">
              {seen.error.message}
            </p>
            <Link to="/sign-in" className="button-plain">
              Sign in
            </Link>
          </>
        )}
        {seen.data && (
          <form
            className="flex flex-col gap-3"
            onSubmit={(e) => {
              e.preventDefault();
              use.mutate({ secret, name, password });
            }}
          >
            <p className="mb-3 text-quiet">
              {seen.data.isReset
                ? `Choose a new password for ${seen.data.mail}. You are signed out everywhere else.`
                : `${seen.data.invitedBy} invites you to ${seen.data.workspace}, as ${roles[seen.data.role]}. You sign in as ${seen.data.mail}.`}
            </p>
            {!seen.data.isReset && !seen.data.isKnown && (
              <label className="flex flex-col gap-1">
                Your name
                <input
                  className="input"
                  autoComplete="name"
                  maxLength={100}
                  required
                  value={name}
                  onChange={(e) => setName(e.target.value)}
                />
              </label>
            )}
            <label className="flex flex-col gap-1">
              {seen.data.isKnown ? 'Your password' : 'Password, 12 characters or more'}
              <input
                className="input"
                type="password"
                autoComplete={seen.data.isKnown ? 'current-password' : 'new-password'}
                maxLength={200}
                required
                value={password}
                onChange={(e) => setPassword(e.target.value)}
              />
            </label>
            {use.isError && (
              <p role="alert" className="text-error">
                {use.error.message}
              </p>
            )}
            <button type="submit" className="button-main justify-center" disabled={use.isPending}>
              {seen.data.isReset ? 'Set password' : 'Join'}
            </button>
          </form>
        )}
      </div>
    </main>
  );
}
