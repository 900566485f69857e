import { cleanup, render, screen } from '@testing-library/react';
import { Tooltip } from 'radix-ui';
import { afterEach, expect, it } from 'vitest';
import type { Schema } from '../../api/client';
import { BudgetFact } from './BudgetFact';

afterEach(cleanup);

const euros = (amount: string) => ({ amount, currency: 'EUR' });

const say = (budget: Partial<Schema['BudgetAnswer']>, endsOn: string | null = '2026-12-20') =>
  render(
    <Tooltip.Provider>
      <dl>
        <BudgetFact
          budget={{
            budget: euros('200.00'),
            spent: euros('55.00'),
            share: 0.275,
            foreseen: euros('180.00'),
            isOver: false,
            ...budget,
          }}
          endsOn={endsOn}
        />
      </dl>
    </Tooltip.Provider>,
  ).container.textContent;

it('says what is spent and what will be', () => {
  expect(say({})).toBe('Budget€200.00€55.00 spent, 27.5 % · about €180.00 by 20 Dec 2026');
});

it('says what is spent alone where nothing can be foreseen', () => {
  expect(say({ foreseen: null }, null)).toBe('Budget€200.00€55.00 spent, 27.5 %');
  expect(say({ budget: euros('0.00'), share: null, foreseen: null }, null)).toContain('€55.00 spent');
});

it('warns where it is not enough, and where it will not be', () => {
  say({ foreseen: euros('220.00'), isOver: true });
  expect(screen.getByText(/Will go over budget/)).toBeDefined();
  say({ spent: euros('210.00'), foreseen: null, isOver: true });
  expect(screen.getByText(/Over budget/)).toBeDefined();
});
