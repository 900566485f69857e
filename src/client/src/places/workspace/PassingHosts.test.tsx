import { fireEvent, screen, waitFor } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { show } from '../../test/show';
import { PassingHosts } from './PassingHosts';

const list = 'GET /api/v1/passing-hosts';
const look = 'POST /api/v1/passing-hosts/count';
const listed = {
  data: {
    hosts: [{ id: 'h1', host: 'pay.example', addedBy: 'Orla Fenwick', addedAt: '2026-11-25T10:00:00Z' }],
    suggested: [{ host: 'sign-in.example', visits: 12 }],
  },
};

describe('hosts people pass through', () => {
  it('are suggested, counted first, then listed', async () => {
    const sent = show(<PassingHosts />, {
      [list]: listed,
      [look]: { data: { host: 'sign-in.example', visits: 12 } },
    });
    expect(await screen.findByText(/looks like one: 12 visits came/)).toBeTruthy();
    fireEvent.click(screen.getByRole('button', { name: 'Preview effect of sign-in.example' }));
    const effect = await screen.findByRole('region', { name: 'Effect on visits' });
    expect(effect.textContent).toContain('12 visits came from sign-in.example; they are worked out again');
    expect(sent[0]).toMatchObject({ call: look, body: { host: 'sign-in.example' } });
    fireEvent.click(screen.getByRole('button', { name: 'List sign-in.example' }));
    await waitFor(() => expect(screen.queryByRole('region', { name: 'Effect on visits' })).toBeNull());
    expect(sent[1]).toMatchObject({ call: 'POST /api/v1/passing-hosts', body: { host: 'sign-in.example' } });
  });

  it('come off the list again', async () => {
    const sent = show(<PassingHosts />, { [list]: listed });
    fireEvent.click(await screen.findByRole('button', { name: 'Remove pay.example' }));
    await waitFor(() =>
      expect(sent[0]).toMatchObject({ call: 'DELETE /api/v1/passing-hosts/{id}', path: { id: 'h1' } }),
    );
  });

  it('are only read by whoever is no owner', async () => {
    show(<PassingHosts />, { [list]: listed }, 'viewer');
    expect(await screen.findByText('pay.example')).toBeTruthy();
    expect(screen.queryByRole('button')).toBeNull();
  });
});
