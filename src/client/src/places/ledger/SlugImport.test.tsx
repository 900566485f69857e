import { fireEvent, screen, waitFor } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { choose, optionsOf, show } from '../../test/show';
import { SlugImport } from './SlugImport';

const read = 'POST /api/v1/slugs/read';
const bring = 'POST /api/v1/slugs/import';

const list = {
  rows: [
    { slug: 'fern', page: 'https://marrowmere.example/fern', title: 'Fern', outcome: 'ready', says: null },
    {
      slug: 'moss',
      page: 'https://marrowmere.example/moss',
      title: null,
      outcome: 'clash',
      says: 'There is another “moss” already.',
    },
    { slug: 'reed', page: 'https://strange.example/', title: null, outcome: 'waits', says: null },
  ],
  takes: 2,
  imported: 0,
};

const domains = {
  data: [
    { id: 'd1', host: 'mmr.example', first: true, usable: true },
    { id: 'd2', host: 'posters.example', first: false, usable: true },
    { id: 'd3', host: 'new.example', first: false, usable: false },
  ],
};

describe('slugs of a shortener that closes', () => {
  it('are looked at with their clashes before anything is imported', async () => {
    const sent = show(<SlugImport onLeave={vi.fn()} />, {
      'GET /api/v1/short-domains': domains,
      [read]: { data: list },
      [bring]: { data: { ...list, imported: 2 } },
    });
    await screen.findByLabelText('Short domain of these links');
    expect(await optionsOf('Short domain of these links')).toEqual(['mmr.example', 'posters.example']);
    await choose('Short domain of these links', 'posters.example');
    fireEvent.change(screen.getByRole('textbox'), {
      target: { value: 'slug,destination\nfern,https://marrowmere.example/fern' },
    });
    fireEvent.click(screen.getByRole('button', { name: 'Check list' }));

    expect(await screen.findByText('There is another “moss” already.')).toBeTruthy();
    expect(screen.getByText('waits for an owner')).toBeTruthy();
    expect(screen.getByText('2 can be imported · 1 can’t')).toBeTruthy();
    expect(sent.map((s) => [s.call, s.query])).toEqual([[read, { domain: 'posters.example' }]]);

    fireEvent.click(screen.getByLabelText(/Printed as QR codes/));
    fireEvent.click(screen.getByRole('button', { name: 'Import 2' }));
    await screen.findByText('2 imported');
    expect(sent[1]?.body).toEqual({ rows: list.rows, printed: true, domain: 'posters.example' });
  });

  it('are not imported where none can be', async () => {
    show(<SlugImport onLeave={vi.fn()} />, { [read]: { data: { ...list, takes: 0 } } });
    fireEvent.change(screen.getByRole('textbox'), { target: { value: 'moss' } });
    fireEvent.click(screen.getByRole('button', { name: 'Check list' }));
    const button = await screen.findByRole('button', { name: 'Import 0' });
    expect(button.hasAttribute('disabled')).toBe(true);
    fireEvent.click(screen.getByRole('button', { name: 'Another list' }));
    expect(screen.getByRole<HTMLTextAreaElement>('textbox').value).toBe('moss');
  });

  it('say what a sheet lacks', async () => {
    show(<SlugImport onLeave={vi.fn()} />, { [read]: { refused: 'The sheet has no column of destinations.' } });
    fireEvent.change(screen.getByRole('textbox'), { target: { value: 'slug' } });
    fireEvent.click(screen.getByRole('button', { name: 'Check list' }));
    expect((await screen.findByRole('alert')).textContent).toBe('The sheet has no column of destinations.');
    await waitFor(() =>
      expect(screen.getByRole('button', { name: 'Check list' }).hasAttribute('disabled')).toBe(false),
    );
  });
});
