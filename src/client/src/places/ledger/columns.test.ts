import { expect, it } from 'vitest';
import { chosenColumns, nextOrder } from './columns';

it('shows the columns that were chosen in their own order, and none that is gone', () => {
  expect(chosenColumns(null)).toContain('clicks');
  expect(chosenColumns(['made', 'campaign', 'gone'])).toEqual(['campaign', 'made']);
  expect(chosenColumns([])).toEqual([]);
});

it('turns an order round when its heading is chosen again', () => {
  expect(nextOrder('-made', 'uses')).toBe('-uses');
  expect(nextOrder('-uses', 'uses')).toBe('uses');
  expect(nextOrder('uses', 'uses')).toBe('-uses');
});
