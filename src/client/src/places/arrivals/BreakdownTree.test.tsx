import { fireEvent, screen, waitFor } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { show } from '../../test/show';
import { BreakdownTree } from './BreakdownTree';
import { conditionOf } from './dimensions';

const figures = {
  visits: 120,
  visitors: 100,
  pageViews: 300,
  bounceRate: 0.4,
  averageSeconds: 65,
  conversions: 6,
  conversionRate: 0.05,
  revenue: { amount: '90.00', currency: 'GBP' },
  revenuePerVisitor: { amount: '0.90', currency: 'GBP' },
};
const row = (key: string | null) => ({ keys: [key], figures });

function tree(rows: string[], picked: string[] = []) {
  const onPick = vi.fn();
  const asked: unknown[] = [];
  show(
    <BreakdownTree
      range={{ from: '2026-11-01', to: '2026-11-25' } as never}
      rows={rows}
      picked={picked}
      onPick={onPick}
    />,
    {
      'GET /api/v1/arrivals': ({ query }) => {
        asked.push(query);
        return {
          names: { campaign: { bulb_sale: 'Bulb Sale' } },
          restRows: 12,
          rest: (query as { size: number }).size < 500 ? { ...figures, visitors: null } : null,
          rows: (query as { where: string[] }).where.length === 0 ? [row('bulb_sale'), row(null)] : [row('email')],
        };
      },
    },
  );
  return { onPick, asked };
}

describe('arrivals in rows', () => {
  it('open into the rows below them', async () => {
    const { asked } = tree(['campaign', 'medium']);
    await screen.findByText('Bulb Sale');
    const [, first] = screen.getAllByRole('row');
    expect(first!.getAttribute('aria-expanded')).toBe('false');
    fireEvent.click(screen.getAllByRole('button', { name: 'Open the row' })[0]!);
    expect(await screen.findByText('email')).toBeTruthy();
    expect(asked.at(-1)).toMatchObject({ rows: 'medium', where: [conditionOf('campaign', 'bulb_sale')] });
    expect(screen.getByText('email').closest('tr')?.getAttribute('aria-level')).toBe('2');

    fireEvent.click(screen.getByRole('button', { name: 'Close the row' }));
    expect(screen.queryByText('email')).toBeNull();
  });

  it('are gone through with the keyboard alone', async () => {
    const { onPick } = tree(['campaign', 'medium']);
    await screen.findByText('Bulb Sale');
    const [, first, second] = screen.getAllByRole('row');
    first!.focus();
    fireEvent.keyDown(first!, { key: 'ArrowRight' });
    const inner = (await screen.findByText('email')).closest('tr')!;
    fireEvent.keyDown(first!, { key: 'ArrowDown' });
    expect(document.activeElement).toBe(inner);
    fireEvent.keyDown(inner, { key: 'Enter' });
    expect(onPick).toHaveBeenCalledWith([conditionOf('campaign', 'bulb_sale'), conditionOf('medium', 'email')]);
    fireEvent.keyDown(inner, { key: 'ArrowDown' });
    expect(document.activeElement).toBe(second);
    fireEvent.keyDown(first!, { key: 'ArrowLeft' });
    expect(screen.queryByText('email')).toBeNull();
  });

  it('beyond a page are one row together, until they are asked for', async () => {
    const { asked } = tree(['campaign']);
    fireEvent.click(await screen.findByRole('button', { name: 'Show them' }));
    await waitFor(() => expect(asked.at(-1)).toMatchObject({ size: 500 }));
    await waitFor(() => expect(screen.queryByText(/12 more/)).toBeNull());
  });

  it('that go no deeper can’t be opened', async () => {
    tree(['campaign']);
    await screen.findByText('Bulb Sale');
    // A campaign stands by name with its written value beneath.
    expect(screen.getByText('bulb_sale').closest('tr')!.textContent).toContain('Bulb Sale');
    const [, first] = screen.getAllByRole('row');
    expect(first!.hasAttribute('aria-expanded')).toBe(false);
    expect(screen.queryByRole('button', { name: 'Open the row' })).toBeNull();
  });

  it('mark the one that is picked', async () => {
    tree(['campaign'], [conditionOf('campaign', null)]);
    await screen.findByText('Bulb Sale');
    const [, first, second] = screen.getAllByRole('row');
    expect([first, second].map((r) => r!.getAttribute('aria-selected'))).toEqual(['false', 'true']);
  });
});
