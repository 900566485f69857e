import { fireEvent, screen, waitFor } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { show } from '../../test/show';
import { ShortDomains } from './ShortDomains';

const domain = (host: string, more: object = {}) => ({
  id: host,
  host,
  url: `https://${host}`,
  first: false,
  usable: true,
  slugs: 0,
  checkedAt: '2026-11-25T10:00:00Z',
  problem: null,
  ...more,
});

const list = 'GET /api/v1/short-domains';
const three = {
  data: [
    domain('mmr.example', { first: true, checkedAt: null, slugs: 1_234 }),
    domain('posters.example', { slugs: 1 }),
    domain('new.example', {
      usable: false,
      checkedAt: null,
      problem: 'new.example answers, but another server does.',
    }),
  ],
};

describe('short domains', () => {
  it('say what is known of each, and what can be done with it', async () => {
    show(<ShortDomains tabs={null} />, { [list]: three });
    const rows = (await screen.findAllByRole('listitem')).map((r) => r.textContent);
    expect(rows[0]).toContain('1,234 short links');
    expect(rows[0]).toContain('set up with the workspace; not checked since');
    expect(rows[0]).not.toContain('Make default');
    expect(rows[1]).toContain('1 short link');
    expect(rows[1]).toContain('works: leads here, checked');
    expect(rows[1]).toContain('Make default');
    expect(rows[1]).not.toContain('Remove');
    expect(rows[2]).toContain('another server does');
    expect(rows[2]).toContain('Remove');
    expect(rows[2]).not.toContain('Make default');
    expect(screen.getByText('2 can be used')).toBeTruthy();
  });

  it('are added and checked in one go', async () => {
    const sent = show(<ShortDomains tabs={null} />, {
      [list]: three,
      'POST /api/v1/short-domains': { data: domain('reed.example', { id: 'r1' }) },
    });
    fireEvent.change(screen.getByRole('textbox'), { target: { value: 'https://reed.example' } });
    fireEvent.click(screen.getByRole('button', { name: 'Add and check' }));
    await waitFor(() => expect(sent).toHaveLength(2));
    expect(sent[0]?.body).toEqual({ address: 'https://reed.example' });
    expect(sent[1]).toMatchObject({ call: 'POST /api/v1/short-domains/{id}/check', path: { id: 'r1' } });
    expect(screen.getByRole<HTMLInputElement>('textbox').value).toBe('');
  });

  it('keep the address typed when it is refused', async () => {
    show(<ShortDomains tabs={null} />, {
      [list]: three,
      'POST /api/v1/short-domains': { refused: 'A short domain is only a host; write it like https://mmr.example.' },
    });
    fireEvent.change(screen.getByRole('textbox'), { target: { value: 'https://reed.example/path' } });
    fireEvent.click(screen.getByRole('button', { name: 'Add and check' }));
    expect((await screen.findByRole('alert')).textContent).toContain('only a host');
    expect(screen.getByRole<HTMLInputElement>('textbox').value).toBe('https://reed.example/path');
  });

  it('are only read by whoever is no owner', async () => {
    show(<ShortDomains tabs={null} />, { [list]: three }, 'editor');
    expect(await screen.findAllByRole('listitem')).toHaveLength(3);
    expect(screen.queryByRole('button')).toBeNull();
  });
});
