import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { show } from '../../../test/show';
import { MailTrial } from './MailTrial';

const call = '/api/v1/mails/{id}/trial';

const one = (number: number, verdict: string, states: string, says: string, findings: object[] = []) => ({
  number,
  text: `Link ${number}`,
  trial: {
    id: `t${number}`,
    title: null,
    url: `https://marrowmere.example/${number}`,
    verdict,
    says,
    findings,
    hops: [{ url: `https://marrowmere.example/${number}`, status: 200, milliseconds: 9 }],
    click: null,
    visit: null,
    steps: ['clicked', 'redirected', 'arrived', 'measured'].map((kind, i) => ({
      kind,
      state: { W: 'waiting', D: 'done', F: 'failed' }[states[i]!],
      at: null,
    })),
  },
});

const never = {
  inbox: 'http://inbox.example',
  startedAt: null,
  startedBy: null,
  endsAt: null,
  tried: 0,
  failed: 0,
  left: 0,
  links: [],
};
const sent = {
  ...never,
  inbox: 'http://inbox.example/mail/7',
  startedAt: new Date(Date.now() - 60_000).toISOString(),
  startedBy: 'Tomas Birch',
  endsAt: new Date(Date.now() + 1_740_000).toISOString(),
  tried: 2,
  failed: 1,
  left: 1,
  links: [
    one(1, 'works', 'DDDD', 'The link works. It arrives as Newsletter and mail.'),
    one(4, 'fails', 'DDFD', 'The visit arrived without utm_source.'),
    one(9, 'waiting', 'WWWW', 'Open the address on any device.', [
      { rule: 'tags-dropped', severity: 'error', message: 'The redirect drops utm_source.', hop: 1 },
    ]),
  ],
};

const trial = (answer: object, more: object = {}) =>
  show(<MailTrial id="m1" isWritten mayWrite {...more} />, {
    [`GET ${call}`]: answer as never,
    [`POST ${call}`]: { data: sent } as never,
  });

describe('the trial of a mail', () => {
  it('is sent, and tells which links were tried', async () => {
    const calls = trial({ data: never });
    fireEvent.click(await screen.findByRole('button', { name: 'Send it for a trial' }));
    await waitFor(() => expect(calls.some((s) => s.call === `POST ${call}`)).toBe(true));
  });

  it('lists each link with its steps', async () => {
    trial({ data: sent });
    await screen.findByText('2 of 3 links tried, 1 failed');
    const rows = within(screen.getByRole('list', { name: 'Links tried' })).getAllByRole('link');
    expect(rows.map((r) => r.getAttribute('href'))).toEqual(['/proof?trial=t1', '/proof?trial=t4', '/proof?trial=t9']);
    expect(rows[1]!.textContent).toContain('The visit arrived without utm_source.');
    expect(rows[2]!.textContent).toContain('The redirect drops utm_source.');
    expect(screen.getByRole('link', { name: 'Open inbox' }).getAttribute('href')).toBe('http://inbox.example/mail/7');
    expect(screen.getByText(/1 link can’t be tried/)).toBeTruthy();
  });

  it('says that it is over, and offers no old inbox', async () => {
    trial({ data: { ...sent, endsAt: new Date(Date.now() - 60_000).toISOString() } });
    await screen.findByText(/The addresses ended at/);
    expect(screen.queryByRole('link', { name: 'Open inbox' })).toBeNull();
    expect(screen.getByRole('button', { name: 'Try again' })).toBeTruthy();
  });

  it('waits for the links, and says so where there is no inbox', async () => {
    trial({ data: never }, { isWritten: false });
    await screen.findByText('Write the links into the mail first.');
    expect((screen.getByRole('button', { name: 'Send it for a trial' }) as HTMLButtonElement).disabled).toBe(true);
  });

  it('offers nothing to who may only look, or without an inbox', async () => {
    trial({ data: { ...never, inbox: null } });
    await screen.findByText(/This installation has no test inbox/);
    expect(screen.queryByRole('button')).toBeNull();
  });

  it('says why it could not be sent', async () => {
    show(<MailTrial id="m1" isWritten mayWrite />, {
      [`GET ${call}`]: { data: never } as never,
      [`POST ${call}`]: { refused: 'The inbox does not answer.' },
    });
    fireEvent.click(await screen.findByRole('button', { name: 'Send it for a trial' }));
    expect((await screen.findByRole('alert')).textContent).toContain('inbox does not answer');
  });
});
