import { screen } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import type { CampaignAnswer, Schema } from '../../api/client';
import { show } from '../../test/show';
import { TimeLine } from './TimeLine';
import { spanAround } from './timeScale';

const campaign = (id: string, name: string) =>
  ({ id, name, state: 'running', startsOn: '2026-11-01', endsOn: '2026-12-20' }) as CampaignAnswer;
const euros = (amount: string) => ({ amount, currency: 'EUR' });
const budgets: Record<string, Schema['BudgetAnswer']> = {
  a: { budget: euros('200.00'), spent: euros('50.00'), share: 0.25, foreseen: euros('120.00'), isOver: false },
  b: { budget: euros('100.00'), spent: euros('130.00'), share: 1.3, foreseen: null, isOver: true },
};

describe('the time line', () => {
  it('shows along each bar how much of the budget is spent, and says it', () => {
    show(
      <TimeLine
        campaigns={[campaign('a', 'Lantern Nights'), campaign('b', 'Seed Swap'), campaign('c', 'School Visits')]}
        budgets={budgets}
        span={spanAround('2026-11-29', 6)}
        today="2026-11-29"
        onOpen={vi.fn()}
      />,
    );
    const bar = (name: string) => screen.getByRole('button', { name: new RegExp(name) });
    const spent = (name: string) => bar(name).querySelector<HTMLElement>('[data-spent]');
    expect(spent('Lantern Nights')!.style.width).toBe('25%');
    expect(bar('Lantern Nights').title).toContain('€50.00 of €200.00 spent, about €120.00 by its last day');
    expect(spent('Seed Swap')!.style.width).toBe('100%');
    expect(spent('Seed Swap')!.className).toContain('border-dashed');
    expect(spent('School Visits')).toBeNull();
  });
});
