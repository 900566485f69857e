import { fireEvent, screen, waitFor } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { show } from '../../test/show';
import { FirstOwner } from './FirstOwner';
import { SignIn } from './SignIn';

const state = (more: object = {}) => ({
  data: { person: null, needsFirstOwner: false, demoPeople: [], sendsMail: false, token: 't', starts: [], ...more },
});
const account = 'GET /api/account';
const people = [{ name: 'Tomas Birch', mail: 'tomas@marrowmere.example', role: 'editor' }];

describe('signing in', () => {
  it('takes one stroke for people of the demo', async () => {
    const sent = show(<SignIn />, { [account]: state({ demoPeople: people }) });
    fireEvent.click(await screen.findByRole('button', { name: /Tomas Birch/ }));
    await waitFor(() => expect(sent[0]?.body).toEqual({ mail: 'tomas@marrowmere.example', password: null }));
  });

  it('is by mail address and password elsewhere, and a refusal keeps both', async () => {
    show(<SignIn />, {
      [account]: state(),
      'POST /api/account/sign-in': { refused: 'Mail address and password don’t go together; check both.' },
    });
    fireEvent.change(await screen.findByLabelText('Mail address'), { target: { value: 'orla@marrowmere.example' } });
    fireEvent.change(screen.getByLabelText('Password'), { target: { value: 'wrong' } });
    fireEvent.click(screen.getByRole('button', { name: 'Sign in' }));
    expect((await screen.findByRole('alert')).textContent).toContain('don’t go together');
    expect(screen.getByLabelText<HTMLInputElement>('Password').value).toBe('wrong');
    expect(screen.queryByText(/the demo/)).toBeNull();
  });
});

describe('a forgotten password', () => {
  it('is helped by a mail, whoever asks', async () => {
    const sent = show(<SignIn />, {
      [account]: state({ sendsMail: true }),
      'POST /api/account/forgotten': { data: undefined },
    });
    fireEvent.change(await screen.findByLabelText('Mail address'), { target: { value: 'orla@marrowmere.example' } });
    fireEvent.click(await screen.findByRole('button', { name: 'Forgot your password?' }));
    expect(screen.queryByLabelText('Password')).toBeNull();
    fireEvent.click(screen.getByRole('button', { name: 'Send a link for a new password' }));
    expect((await screen.findByRole('status')).textContent).toContain('If orla@marrowmere.example has an account');
    expect(sent[0]).toMatchObject({ call: 'POST /api/account/forgotten', body: { mail: 'orla@marrowmere.example' } });
    fireEvent.click(screen.getByRole('button', { name: 'Sign in with a password' }));
    expect(screen.getByLabelText('Password')).toBeTruthy();
  });

  it('is helped by an owner where no mails are sent', async () => {
    show(<SignIn />, { [account]: state() });
    expect(await screen.findByText(/An owner of your workspace makes you a link/)).toBeTruthy();
    expect(screen.queryByRole('button', { name: 'Forgot your password?' })).toBeNull();
  });
});

describe('the first visit', () => {
  it('makes the owner with a convention to begin with', async () => {
    const sent = show(<FirstOwner />, {
      [account]: state({
        needsFirstOwner: true,
        starts: [
          { name: 'plain', title: 'Plain', suits: 'most' },
          { name: 'sealed', title: 'Sealed', suits: 'partners' },
        ],
      }),
    });
    fireEvent.click(await screen.findByLabelText(/Sealed/));
    const answers: Record<string, string> = {
      'Your name': 'Orla Fenwick',
      'Mail address': 'orla@marrowmere.example',
      'Password, 12 characters or more': 'a long enough password',
      Organisation: 'Marrowmere',
      'Host of your website': 'marrowmere.example',
      'Your short domain (optional; it can be added later)': 'mmr.example',
      'Currency (ISO 4217)': 'EUR',
      'Time zone': 'Europe/Dublin',
    };
    for (const [label, value] of Object.entries(answers))
      fireEvent.change(screen.getByLabelText(label), { target: { value } });
    fireEvent.click(screen.getByRole('button', { name: 'Create workspace' }));
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(sent[0]).toMatchObject({
      call: 'POST /api/account/first-owner',
      body: { name: 'Orla Fenwick', shortHost: 'mmr.example', start: 'sealed', timeZone: 'Europe/Dublin' },
    });
  });

  it('says what can’t be', async () => {
    show(<FirstOwner />, {
      [account]: state({ needsFirstOwner: true }),
      'POST /api/account/first-owner': { refused: '“EURO” is no currency; write its three letters.' },
    });
    const form = (await screen.findByRole('button', { name: 'Create workspace' })).closest('form')!;
    fireEvent.submit(form);
    expect((await screen.findByRole('alert')).textContent).toContain('is no currency');
  });
});
