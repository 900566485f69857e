import { fireEvent, screen, waitFor } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { show } from '../../test/show';
import { PageList } from './PageList';

const pages = (more: object = {}) => ({
  data: {
    total: 1_200,
    sites: [{ id: 's1', host: 'marrowmere.example' }],
    pages: [
      {
        id: 'g1',
        title: 'Orchid Week',
        address: 'https://marrowmere.example/orchid-week',
        site: 'marrowmere.example',
        seenAt: '2026-11-25T10:00:00Z',
      },
      {
        id: 'g2',
        title: null,
        address: 'https://marrowmere.example/shop',
        site: 'marrowmere.example',
        seenAt: '2026-11-25T10:00:00Z',
      },
    ],
    ...more,
  },
});
const list = 'GET /api/v1/pages';

describe('pages of a site', () => {
  it('lead to Compose, with or without a title', async () => {
    show(<PageList parts={null} />, { [list]: pages() });
    expect((await screen.findByRole('link', { name: 'Orchid Week' })).getAttribute('href')).toBe(
      '/compose?page=https%3A%2F%2Fmarrowmere.example%2Forchid-week',
    );
    expect(screen.getByRole('link', { name: 'no title yet' })).toBeTruthy();
    expect(screen.getByText('The first 2 of 1,200; search to see others.')).toBeTruthy();
  });

  it('are read from the site’s own map, with what was found', async () => {
    const sent = show(<PageList parts={null} />, {
      [list]: pages(),
      'POST /api/v1/sites/{id}/read-sitemap': {
        data: { found: 40, added: 3, titled: 2, problems: ['Line 7 is no address.'] },
      },
    });
    fireEvent.click(await screen.findByRole('button', { name: 'Read marrowmere.example' }));
    await waitFor(() =>
      expect(screen.getByRole('status').textContent).toBe(
        '40 pages found, 3 of them new, 2 titles read. 1 problems: Line 7 is no address.',
      ),
    );
    expect(sent[0]?.path).toEqual({ id: 's1' });
  });

  it('are pasted with their titles, and what could not be read is named', async () => {
    const sent = show(<PageList parts={null} />, {
      [list]: pages(),
      'POST /api/v1/pages': { data: { found: 1, added: 1, titled: 1, problems: ['“x y” is no page of your sites.'] } },
    });
    fireEvent.click(await screen.findByRole('button', { name: 'Paste a list' }));
    fireEvent.change(screen.getByLabelText('Pages'), { target: { value: '/news\tNews' } });
    fireEvent.click(screen.getByRole('button', { name: 'Add pages' }));
    expect(await screen.findByText('“x y” is no page of your sites.')).toBeTruthy();
    expect(sent[0]?.body).toEqual({ text: '/news\tNews' });
    expect(screen.getByLabelText<HTMLTextAreaElement>('Pages').value).toBe('');
  });

  it('are forgotten one by one', async () => {
    const sent = show(<PageList parts={null} />, { [list]: pages() });
    fireEvent.click(await screen.findByRole('button', { name: 'Remove Orchid Week' }));
    await waitFor(() => expect(sent[0]).toMatchObject({ call: 'DELETE /api/v1/pages/{id}', path: { id: 'g1' } }));
  });

  it('are explained where there are none, and say why the map can’t be read', async () => {
    show(<PageList parts={null} />, {
      [list]: pages({ pages: [], total: 0 }),
      'POST /api/v1/sites/{id}/read-sitemap': { refused: 'The site does not answer.' },
    });
    expect(await screen.findByText(/No pages yet/)).toBeTruthy();
    fireEvent.click(screen.getByRole('button', { name: 'Read marrowmere.example' }));
    expect(await screen.findByText('The site does not answer.')).toBeTruthy();
  });

  it('are only read by somebody who only looks', async () => {
    show(<PageList parts={null} />, { [list]: pages() }, 'viewer');
    await screen.findByText('Orchid Week');
    expect(screen.queryByRole('button')).toBeNull();
  });
});
