import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { choose, show } from '../../test/show';
import { People } from './People';

const member = (id: string, name: string, more: object = {}) => ({
  id,
  name,
  mail: `${id}@marrowmere.example`,
  role: 'editor',
  own: false,
  seenAt: '2026-11-30T10:00:00Z',
  ...more,
});
const answers = {
  'GET /api/v1/members': {
    data: {
      members: [
        member('orla', 'Orla Fenwick', { role: 'owner', own: true }),
        member('tomas', 'Tomas Birch', { seenAt: null }),
      ],
      invitations: [
        {
          id: 'i1',
          mail: 'wren@marrowmere.example',
          role: 'viewer',
          isReset: false,
          madeBy: 'Orla Fenwick',
          madeAt: '2026-11-30T10:00:00Z',
          expiresAt: '2026-12-07T10:00:00Z',
        },
      ],
    },
  },
  'POST /api/v1/members/invitations': {
    data: { id: 'i2', address: 'https://beacon.example/join#secret', expiresAt: '2026-12-07T10:00:00Z', mailed: false },
  },
  'POST /api/v1/members/{id}/reset': {
    data: { id: 'i3', address: 'https://beacon.example/join#other', expiresAt: '2026-12-01T10:00:00Z', mailed: true },
  },
};

describe('people', () => {
  it('are invited by a link that is shown once', async () => {
    const sent = show(<People tabs={null} />, answers);
    fireEvent.change(screen.getByLabelText('Mail address of a new member'), {
      target: { value: 'fern@marrowmere.example' },
    });
    await choose('Role', 'viewer: sees everything');
    fireEvent.click(screen.getByRole('button', { name: 'Invite' }));
    expect(await screen.findByText('https://beacon.example/join#secret')).toBeTruthy();
    expect(sent[0]).toMatchObject({
      call: 'POST /api/v1/members/invitations',
      body: { mail: 'fern@marrowmere.example', role: 'viewer' },
    });
    expect(screen.getByText(/Send this link to/).textContent).toContain('fern@marrowmere.example');
  });

  it('get other roles and new passwords, and are removed after a second word', async () => {
    const sent = show(<People tabs={null} />, answers);
    await screen.findByText('Tomas Birch');
    await choose('Role of Tomas Birch', 'owner: decides everything');
    await waitFor(() => expect(sent[0]).toMatchObject({ call: 'PUT /api/v1/members/{id}', body: { role: 'owner' } }));
    fireEvent.click(screen.getByRole('button', { name: 'New password for Tomas Birch' }));
    expect(await screen.findByText('https://beacon.example/join#other')).toBeTruthy();
    expect(screen.getByText(/on its way by mail to/).textContent).toContain('tomas@marrowmere.example');
    fireEvent.click(screen.getByRole('button', { name: 'Remove Tomas Birch' }));
    fireEvent.click(screen.getByRole('button', { name: 'Remove; their links stay' }));
    await waitFor(() => expect(sent[2]).toMatchObject({ call: 'DELETE /api/v1/members/{id}', path: { id: 'tomas' } }));
  });

  it('say why a change is refused', async () => {
    show(<People tabs={null} />, {
      ...answers,
      'PUT /api/v1/members/{id}': { refused: 'Orla Fenwick is the only owner; make somebody else an owner first.' },
    });
    await screen.findByText('Tomas Birch');
    await choose('Role of Orla Fenwick', 'editor: creates links');
    expect((await screen.findByRole('alert')).textContent).toContain('only owner');
  });

  it('are only shown to others', async () => {
    show(<People tabs={null} />, answers, 'editor');
    const rows = within(await screen.findByRole('table', { name: 'Members' })).getAllByRole('row');
    await waitFor(() => expect(screen.getByText('2 members')).toBeTruthy());
    expect(rows).toBeTruthy();
    expect(screen.queryByRole('button', { name: 'Invite' })).toBeNull();
    expect(screen.queryByRole('button', { name: /Revoke/ })).toBeNull();
    expect(screen.getByText(/joins as viewer/)).toBeTruthy();
  });
});
