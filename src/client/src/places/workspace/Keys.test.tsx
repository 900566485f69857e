import { fireEvent, screen, waitFor } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { choose, show } from '../../test/show';
import { Keys } from './Keys';

const key = (name: string, more: object = {}) => ({
  id: name,
  name,
  role: 'shortener',
  demoOnly: false,
  createdAt: '2026-11-25T10:00:00Z',
  revokedAt: null,
  expiresAt: null,
  lastUsedAt: null,
  ...more,
});
const answers = {
  'GET /api/v1/keys': { data: [key('Label printer'), key('Old tool', { revokedAt: '2026-11-25T11:00:00Z' })] },
  'GET /api/v1/placements': { data: [{ id: 'p1', name: 'Gate poster & café' }] },
  'GET /api/v1/campaigns': { data: [{ id: 'c1', name: 'Bulb Sale' }] },
};

describe('keys for other programs', () => {
  it('are shown once, in the pattern too', async () => {
    const sent = show(<Keys tabs={null} />, {
      ...answers,
      'POST /api/v1/keys': { data: { key: key('Till'), secret: 'pb_secret+/' } },
    });
    fireEvent.change(screen.getByLabelText('Purpose'), { target: { value: 'Till' } });
    fireEvent.click(screen.getByRole('button', { name: 'Create key' }));
    const made = await screen.findByRole('region', { name: 'The new key' });
    expect(made.textContent).toContain('pb_secret+/');
    expect(made.textContent).toContain('not stored');
    expect(sent[0]?.body).toEqual({ name: 'Till', role: 'shortener', days: null });
    expect(screen.getByLabelText('Pattern').textContent).toContain('?key=pb_secret%2B%2F&url=');
    expect(screen.getByLabelText<HTMLInputElement>('Purpose').value).toBe('');
  });

  it('make a pattern that is encoded as a URL must be', async () => {
    show(<Keys tabs={null} />, answers);
    await choose('Placement', 'Gate poster & café');
    await choose('Campaign', 'Bulb Sale');
    const pattern = screen.getByLabelText('Pattern').textContent ?? '';
    expect(pattern).toBe(
      `${window.location.origin}/api/v1/shorten?key=YOUR-KEY&placement=Gate%20poster%20%26%20caf%C3%A9&campaign=Bulb%20Sale&url=`,
    );

    // Read back as the server does, it says what was chosen.
    const read = new URL(`${pattern}https://marrowmere.example/`).searchParams;
    expect([read.get('placement'), read.get('campaign')]).toEqual(['Gate poster & café', 'Bulb Sale']);
  });

  it('stop working one by one', async () => {
    const sent = show(<Keys tabs={null} />, answers);
    fireEvent.click(await screen.findByRole('button', { name: 'Revoke Label printer' }));
    await waitFor(() =>
      expect(sent[0]).toMatchObject({ call: 'POST /api/v1/keys/{id}/revoke', path: { id: 'Label printer' } }),
    );
    expect(screen.queryByRole('button', { name: 'Revoke Old tool' })).toBeNull();
    expect(screen.getByText('1 key works')).toBeTruthy();
  });

  it('expire, and say when they were used', async () => {
    const sent = show(<Keys tabs={null} />, {
      ...answers,
      'GET /api/v1/keys': {
        data: [key('Till', { expiresAt: '2026-01-01T00:00:00Z', lastUsedAt: '2025-12-31T00:00:00Z' }), key('Printer')],
      },
      'POST /api/v1/keys': { data: { key: key('Till'), secret: 'pb_x' } },
    });
    expect(await screen.findByText('expired')).toBeTruthy();
    expect(screen.getByText('1 key works')).toBeTruthy();
    fireEvent.change(screen.getByLabelText('Purpose'), { target: { value: 'Stall' } });
    await choose('Expires', /90|three months/);
    fireEvent.click(screen.getByRole('button', { name: 'Create key' }));
    await waitFor(() => expect(sent[0]?.body).toEqual({ name: 'Stall', role: 'shortener', days: 90 }));
  });

  it('are made by owners', () => {
    show(<Keys tabs={null} />, answers, 'editor');
    expect(screen.getByText(/Only owners create and revoke keys/)).toBeTruthy();
    expect(screen.queryByRole('button', { name: 'Create key' })).toBeNull();
  });
});
