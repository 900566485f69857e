import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { show } from '../../test/show';
import { Board, type BoardRow } from './Board';
import { figures } from './measures.test';

const rows: BoardRow[] = [
  { id: 'all', level: 0, name: 'Everything', figures },
  { id: 'a', level: 1, name: 'Newsletter', note: 'newsletter_main', figures, open: true },
  { id: 'a b', level: 2, name: 'email', figures: { ...figures, visits: 400 } },
  { id: 'c', level: 1, name: 'Gate poster', figures: { ...figures, visits: 313, clicks: null }, open: false },
  {
    id: 'd',
    level: 1,
    name: 'fern',
    warning: { says: 'Nobody knows it.', to: '/plan', does: 'Open the Plan' },
    figures: { ...figures, revenue: { amount: '-5.00', currency: 'GBP' } },
  },
];

function board(more: Partial<Parameters<typeof Board>[0]> = {}) {
  const told = { onPick: vi.fn(), onToggle: vi.fn(), onSort: vi.fn(), onKey: vi.fn(() => true) };
  show(
    <Board
      label="Arrivals"
      head="campaign"
      rows={rows}
      stations={['clicks', 'visits', 'stayed', 'convertingVisits', 'revenue']}
      columns={['bounceRate']}
      sort="-visits"
      {...told}
      {...more}
    />,
  );
  return told;
}

const rowOf = (name: string) => screen.getByText(name).closest<HTMLElement>('[role=row]')!;
const radii = (name: string) =>
  [...rowOf(name).querySelectorAll('circle')].map((c) => Number(c.getAttribute('r')).toFixed(1));

describe('a board', () => {
  it('reads as a table with the rates between stations', () => {
    board();
    expect(screen.getByRole('treegrid').getAttribute('aria-rowcount')).toBe('6');
    const cells = within(rowOf('Newsletter'))
      .getAllByRole('gridcell')
      .map((c) => c.textContent);
    expect(cells).toEqual(['200', '90.0 %1,250', '60.0 %750', '4.0 %50', '£15.00 each£900.00', '40.0 %']);
    expect(rowOf('Newsletter').getAttribute('aria-level')).toBe('2');
    expect(within(rowOf('Newsletter')).getByText('newsletter_main')).toBeTruthy();
    expect(within(rowOf('fern')).getByText('Nobody knows it. Open the Plan')).toBeTruthy();
  });

  it('compares the areas of dots within one level', () => {
    board({ stations: ['visits'] });
    expect(radii('Newsletter')).toEqual(['9.0']);
    expect(radii('Gate poster')).toEqual(['4.5']);
    expect(radii('email')).toEqual(['9.0']);
    expect(radii('Everything')).toEqual(['4.5']);
  });

  it('draws no dot for what is not known or under zero', () => {
    board({ stations: ['clicks', 'revenue'] });
    expect(radii('Gate poster')).toEqual(['9.0']);
    expect(within(rowOf('Gate poster')).getAllByRole('gridcell')[0]!.textContent).toBe('–');
    expect(radii('fern')).toEqual(['9.0']);
    expect(rowOf('fern').textContent).toContain('-£5.00');
  });

  it('shows where a row was before, and by how much it differs', () => {
    board({
      stations: ['visits'],
      rows: [{ ...rows[1]!, figures: { ...figures, visits: 100 }, before: { ...figures, visits: 400 } }],
    });
    expect(radii('Newsletter')).toEqual(['4.5', '9.0']);
    expect(rowOf('Newsletter').textContent).toContain('−75.0 %');
  });

  it('is plain numbers where somebody wants them', () => {
    board({ plain: true });
    expect(document.querySelector('circle')).toBeNull();
    expect(within(rowOf('Newsletter')).getAllByRole('gridcell')[1]!.textContent).toBe('1,250');
  });

  it('is gone through with the keyboard', async () => {
    const told = board();
    const first = rowOf('Everything');
    expect(first.tabIndex).toBe(0);
    first.focus();
    fireEvent.keyDown(first, { key: 'ArrowDown' });
    await waitFor(() => expect(document.activeElement).toBe(rowOf('Newsletter')));
    fireEvent.keyDown(rowOf('Newsletter'), { key: 'ArrowRight' });
    await waitFor(() => expect(document.activeElement).toBe(rowOf('email')));
    fireEvent.keyDown(rowOf('email'), { key: 'ArrowLeft' });
    await waitFor(() => expect(document.activeElement).toBe(rowOf('Newsletter')));
    fireEvent.keyDown(rowOf('Newsletter'), { key: 'ArrowLeft' });
    expect(told.onToggle).toHaveBeenLastCalledWith(rows[1], false);
    fireEvent.keyDown(rowOf('Gate poster'), { key: 'ArrowRight' });
    expect(told.onToggle).toHaveBeenLastCalledWith(rows[3], true);
    fireEvent.keyDown(rowOf('Gate poster'), { key: 'Enter' });
    expect(told.onPick).toHaveBeenCalledWith(rows[3]);
    fireEvent.keyDown(rowOf('Gate poster'), { key: 'f' });
    expect(told.onKey).toHaveBeenCalledWith('f', rows[3]);
    fireEvent.keyDown(rowOf('Gate poster'), { key: 'End' });
    await waitFor(() => expect(document.activeElement).toBe(rowOf('fern')));
  });

  it('orders its rows by a head, the other way round the second time', () => {
    const told = board();
    expect(screen.getByRole('columnheader', { name: 'Visits' }).getAttribute('aria-sort')).toBe('descending');
    fireEvent.click(screen.getByRole('button', { name: 'Visits' }));
    expect(told.onSort).toHaveBeenLastCalledWith('visits');
    fireEvent.click(screen.getByRole('button', { name: 'Revenue' }));
    expect(told.onSort).toHaveBeenLastCalledWith('-revenue');
  });

  it('draws of thousands of rows only those that are seen', () => {
    const many = Array.from({ length: 5_000 }, (_, i) => ({ id: `r${i}`, level: 1, name: `row ${i}`, figures }));
    board({ rows: many });
    expect(screen.getAllByRole('row').length).toBeLessThan(60);
    expect(screen.getByRole('treegrid').getAttribute('aria-rowcount')).toBe('5001');
  });
});
