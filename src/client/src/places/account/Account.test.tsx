import { fireEvent, screen, waitFor } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { show } from '../../test/show';
import { Account } from './Account';

const session = (id: string, more: object = {}) => ({
  id,
  own: false,
  device: 'phone',
  userAgent: 'Fernleaf/12.1',
  startedAt: '2026-11-25T10:00:00Z',
  seenAt: '2026-11-25T11:00:00Z',
  ...more,
});
const answers = {
  'GET /api/account/mails': { data: { sendsMail: true, kinds: [] } },
  'GET /api/account/sessions': { data: [session('a', { own: true, device: 'computer' }), session('b')] },
};

describe('the account', () => {
  it('lists where one is signed in and ends one or all others', async () => {
    const sent = show(<Account />, answers);
    expect(await screen.findByText('this browser')).toBeTruthy();
    fireEvent.click(screen.getByRole('button', { name: /End the session of .* on a phone/ }));
    await waitFor(() =>
      expect(sent[0]).toMatchObject({ call: 'DELETE /api/account/sessions/{id}', path: { id: 'b' } }),
    );
    fireEvent.click(screen.getByRole('button', { name: 'End all others' }));
    await waitFor(() => expect(sent[1]).toMatchObject({ call: 'POST /api/account/sessions/end-others' }));
  });

  it('changes what one is called', async () => {
    const sent = show(<Account />, answers);
    expect(screen.getByRole('button', { name: 'Save name' })).toHaveProperty('disabled', true);
    fireEvent.change(screen.getByLabelText('Your name'), { target: { value: 'Orla F.' } });
    fireEvent.click(screen.getByRole('button', { name: 'Save name' }));
    await waitFor(() => expect(sent[0]).toMatchObject({ call: 'PUT /api/account/name', body: { name: 'Orla F.' } }));
  });

  it('chooses which mails come', async () => {
    const sent = show(<Account />, {
      ...answers,
      'GET /api/account/mails': { data: { sendsMail: false, kinds: [] } },
    });
    const findings = await screen.findByLabelText(/New findings of page checks/);
    expect(findings).toHaveProperty('checked', false);
    expect(screen.getByText('No mails are sent from here yet.')).toBeTruthy();
    fireEvent.click(findings);
    await waitFor(() =>
      expect(sent[0]).toMatchObject({ call: 'PUT /api/account/mails', body: { kind: 'page-findings', wanted: true } }),
    );
  });

  it('changes the password, and says why not', async () => {
    const sent = show(<Account />, {
      ...answers,
      'POST /api/account/password': { refused: 'A password has at least 12 characters.' },
    });
    fireEvent.change(screen.getByLabelText('Current password'), { target: { value: 'old' } });
    expect(screen.getByRole('button', { name: 'Change password' })).toHaveProperty('disabled', true);
    fireEvent.change(screen.getByLabelText('New password'), { target: { value: 'new' } });
    fireEvent.click(screen.getByRole('button', { name: 'Change password' }));
    expect((await screen.findByRole('alert')).textContent).toContain('12 characters');
    expect(sent[0]?.body).toEqual({ current: 'old', next: 'new' });
  });
});
