import { useMutation } from '@tanstack/react-query';
import { useState, type FormEvent } from 'react';
import { Navigate } from 'react-router';
import { useAccount } from '../../api/useAccount';
import { firstOwnerChange } from './queries';

const questions = [
  { name: 'name', label: 'Your name', type: 'text', example: 'Orla Fenwick' },
  { name: 'mail', label: 'Mail address', type: 'email', example: 'orla@marrowmere.example' },
  { name: 'password', label: 'Password, 12 characters or more', type: 'password', example: '' },
  { name: 'workspace', label: 'Organisation', type: 'text', example: 'Marrowmere Botanic Garden' },
  { name: 'siteHost', label: 'Host of your website', type: 'text', example: 'marrowmere.example' },
  {
    name: 'shortHost',
    label: 'Your short domain (optional; it can be added later)',
    type: 'text',
    example: 'mmr.example',
  },
  { name: 'currency', label: 'Currency (ISO 4217)', type: 'text', example: 'EUR' },
  { name: 'timeZone', label: 'Time zone', type: 'text', example: 'Europe/Dublin' },
] as const;

type Answers = Record<(typeof questions)[number]['name'], string> & { start: string };

/** The first visit of an empty installation: makes its owner and their workspace. */
export function FirstOwner() {
  const [answers, setAnswers] = useState<Answers>({
    name: '',
    mail: '',
    password: '',
    workspace: '',
    siteHost: '',
    shortHost: '',
    currency: 'EUR',
    start: 'plain',
    timeZone: Intl.DateTimeFormat().resolvedOptions().timeZone,
  });
  const account = useAccount();

  const make = useMutation(firstOwnerChange());

  function submit(event: FormEvent) {
    event.preventDefault();
    // A second click while the first one works would be told that there is an owner already.
    if (!make.isPending) make.mutate(answers);
  }

  if (account.data?.person) return <Navigate to="/compose" replace />;
  if (account.data && !account.data.needsFirstOwner) return <Navigate to="/sign-in" replace />;
  return (
    <main className="flex min-h-full items-center justify-center p-6">
      <form onSubmit={submit} className="w-full max-w-md">
        <h1 className="mb-1 text-2xl font-semibold">Precise Beacon</h1>
        <p className="mb-6 text-quiet">
          Set up your workspace. You become its owner: you write the convention and decide who can do what.
        </p>
        <div className="flex flex-col gap-3">
          {questions.map(({ name, label, type, example }) => (
            <label key={name} className="flex flex-col gap-1">
              {label}
              <input
                className="input"
                type={type}
                required={name !== 'shortHost'}
                placeholder={example}
                autoComplete={type === 'password' ? 'new-password' : undefined}
                value={answers[name]}
                onChange={(e) => setAnswers({ ...answers, [name]: e.target.value })}
              />
            </label>
          ))}
          <fieldset className="flex flex-col gap-2">
            <legend className="mb-1">Starting convention; you can change all of it later</legend>
            {account.data?.starts.map((start) => (
              <label key={start.name} className="flex items-start gap-2 rounded border border-line p-2">
                <input
                  type="radio"
                  name="start"
                  className="mt-1"
                  checked={answers.start === start.name}
                  onChange={() => setAnswers({ ...answers, start: start.name })}
                />
                <span>
                  <span className="font-medium">{start.title}</span>
                  <span className="caption block">{start.suits}</span>
                </span>
              </label>
            ))}
          </fieldset>
          {make.error && (
            <p role="alert" className="text-error">
              {make.error.message}
            </p>
          )}
          <button type="submit" className="button-main justify-center" disabled={make.isPending}>
            {make.isPending ? 'Creating the workspace …' : 'Create workspace'}
          </button>
        </div>
      </form>
    </main>
  );
}
