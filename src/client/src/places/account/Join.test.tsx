import { fireEvent, screen, waitFor } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { show } from '../../test/show';
import { Join } from './Join';

const seen = (more: object = {}) => ({
  'POST /api/account/invitation': {
    data: {
      workspace: 'Marrowmere Botanic Garden',
      mail: 'wren@marrowmere.example',
      role: 'viewer',
      invitedBy: 'Orla Fenwick',
      isReset: false,
      isKnown: false,
      ...more,
    },
  },
});

describe('a link that was handed over', () => {
  it('lets somebody join with a name and a password', async () => {
    const sent = show(<Join />, seen(), 'owner', '/join#secret');
    expect(await screen.findByText(/Orla Fenwick invites you to Marrowmere Botanic Garden, as a viewer/)).toBeTruthy();
    fireEvent.change(screen.getByLabelText('Your name'), { target: { value: 'Wren Castell' } });
    fireEvent.change(screen.getByLabelText(/^Password/), { target: { value: 'seven ferns on a wall' } });
    fireEvent.click(screen.getByRole('button', { name: 'Join' }));
    await waitFor(() =>
      expect(sent[1]).toMatchObject({
        call: 'POST /api/account/invitation/use',
        body: { secret: 'secret', name: 'Wren Castell', password: 'seven ferns on a wall' },
      }),
    );
  });

  it('asks for the password of an account there is', async () => {
    show(<Join />, seen({ isKnown: true }), 'owner', '/join#secret');
    expect(await screen.findByLabelText('Your password')).toBeTruthy();
    expect(screen.queryByLabelText('Your name')).toBeNull();
  });

  it('lets a member choose a new password', async () => {
    show(<Join />, seen({ isReset: true }), 'owner', '/join#secret');
    expect(await screen.findByRole('button', { name: 'Set password' })).toBeTruthy();
    expect(screen.queryByLabelText('Your name')).toBeNull();
  });

  it('says when it is over', async () => {
    show(
      <Join />,
      { 'POST /api/account/invitation': { refused: 'This link was used already.' } },
      'owner',
      '/join#old',
    );
    expect((await screen.findByRole('alert')).textContent).toContain('used already');
  });
});
