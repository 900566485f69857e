import { fireEvent, screen, waitFor } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { show } from '../../test/show';
import { RefusedHosts } from './RefusedHosts';

const listed = {
  data: [{ id: 'h1', host: 'refused.example', refusedBy: 'Orla Fenwick', refusedAt: '2026-11-25T10:00:00Z' }],
};
const list = 'GET /api/v1/refused-hosts';
const look = 'POST /api/v1/refused-hosts/count';

describe('hosts never allowed', () => {
  it('are counted first, then refused', async () => {
    const sent = show(<RefusedHosts tabs={null} />, {
      [list]: listed,
      [look]: {
        data: { host: 'bad.example', shortLinks: 2, sample: ['https://mmr.example/a', 'https://mmr.example/b'] },
      },
    });
    fireEvent.change(screen.getByRole('textbox'), { target: { value: 'BAD.example' } });
    fireEvent.click(screen.getByRole('button', { name: 'Preview effect' }));
    const effect = await screen.findByRole('region', { name: 'Effect' });
    expect(effect.textContent).toContain('2 short links lead to bad.example and would answer “no such link”:');
    expect(effect.textContent).toContain('https://mmr.example/b');
    expect(sent).toHaveLength(1);
    fireEvent.click(screen.getByRole('button', { name: 'Block bad.example' }));
    await waitFor(() => expect(screen.queryByRole('region', { name: 'Effect' })).toBeNull());
    expect(sent[1]).toMatchObject({ call: 'POST /api/v1/refused-hosts', body: { host: 'bad.example' } });
  });

  it('say so where nothing would stop', async () => {
    show(<RefusedHosts tabs={null} />, {
      [list]: listed,
      [look]: { data: { host: 'bad.example', shortLinks: 0, sample: [] } },
    });
    fireEvent.change(screen.getByRole('textbox'), { target: { value: 'bad.example' } });
    fireEvent.click(screen.getByRole('button', { name: 'Preview effect' }));
    expect(await screen.findByText('No short link leads to bad.example.')).toBeTruthy();

    // Another host typed: what was counted holds no longer.
    fireEvent.change(screen.getByRole('textbox'), { target: { value: 'worse.example' } });
    expect(screen.queryByText('No short link leads to bad.example.')).toBeNull();
  });

  it('come off the list again', async () => {
    const sent = show(<RefusedHosts tabs={null} />, { [list]: listed });
    fireEvent.click(await screen.findByRole('button', { name: 'Unblock refused.example' }));
    await waitFor(() =>
      expect(sent[0]).toMatchObject({ call: 'DELETE /api/v1/refused-hosts/{id}', path: { id: 'h1' } }),
    );
  });

  it('are only read by whoever is no owner', async () => {
    show(<RefusedHosts tabs={null} />, { [list]: listed }, 'viewer');
    expect(await screen.findByText('refused.example')).toBeTruthy();
    expect(screen.queryByRole('button')).toBeNull();
  });
});
