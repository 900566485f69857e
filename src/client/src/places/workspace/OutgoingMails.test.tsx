import { fireEvent, screen, waitFor } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { show } from '../../test/show';
import { OutgoingMails } from './OutgoingMails';

const mail = (id: string, more: object = {}) => ({
  id,
  kind: 'invitation',
  recipient: `${id}@marrowmere.example`,
  subject: 'Orla Fenwick invites you to Marrowmere',
  madeAt: '2026-12-02T10:00:00Z',
  sentAt: null,
  givenUpAt: null,
  nextTryAt: null,
  tries: 0,
  answer: null,
  ...more,
});
const list = 'GET /api/v1/outgoing-mails';

describe('outgoing mail', () => {
  it('says what became of each', async () => {
    show(<OutgoingMails tabs={null} />, {
      [list]: {
        data: {
          from: 'Marrowmere links <links@marrowmere.example>',
          mails: [
            mail('wren', { sentAt: '2026-12-02T10:00:02Z', tries: 1, answer: 'Ok' }),
            mail('fern', { givenUpAt: '2026-12-02T10:00:02Z', tries: 1, answer: '550 no such mailbox' }),
            mail('tomas', { nextTryAt: '2026-12-02T10:04:00Z', tries: 2, answer: 'The mail server was not ready' }),
            mail('orla', { kind: 'test' }),
          ],
        },
      },
    });
    expect(await screen.findByText(/^sent /)).toBeTruthy();
    expect(screen.getByText('not sent: 550 no such mailbox')).toBeTruthy();
    expect(screen.getByText(/tried 2 times, again at/)).toBeTruthy();
    expect(screen.getByText('The mail server was not ready')).toBeTruthy();
    expect(screen.getByText('waits')).toBeTruthy();
    expect(screen.getByRole('cell', { name: 'Test' })).toBeTruthy();
  });

  it('is tried by a mail to oneself', async () => {
    const sent = show(<OutgoingMails tabs={null} />, {
      [list]: { data: { from: 'links@marrowmere.example', mails: [] } },
      'POST /api/v1/outgoing-mails/test': { refused: 'The mail server is away.' },
    });
    expect(await screen.findByText('No mail was sent yet.')).toBeTruthy();
    fireEvent.click(screen.getByRole('button', { name: /Send a test mail to/ }));
    await waitFor(() => expect(sent[0]).toMatchObject({ call: 'POST /api/v1/outgoing-mails/test' }));
    expect((await screen.findByRole('alert')).textContent).toBe('The mail server is away.');
  });

  it('says how to begin where none are sent, and nothing to others', async () => {
    show(<OutgoingMails tabs={null} />, { [list]: { data: { from: null, mails: [] } } });
    expect(await screen.findByText(/sets a mail server/)).toBeTruthy();
  });

  it('is for owners', async () => {
    const sent = show(<OutgoingMails tabs={null} />, {}, 'viewer');
    expect(await screen.findByText('Owners see here which mails go out.')).toBeTruthy();
    expect(sent).toHaveLength(0);
  });
});
