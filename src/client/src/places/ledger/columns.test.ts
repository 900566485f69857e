import { beforeEach, expect, it } from 'vitest';
import { chosenColumns, keepColumns, nextOrder } from './columns';

beforeEach(() => localStorage.clear());

it('keeps the columns of each person apart and in their order', () => {
  expect(chosenColumns('Orla')).toContain('clicks');
  keepColumns('Orla', ['made', 'campaign', 'gone']);
  expect(chosenColumns('Orla')).toEqual(['campaign', 'made']);
  expect(chosenColumns('Tomas')).toContain('clicks');
  localStorage.setItem('ledger-columns Tomas', '{broken');
  expect(chosenColumns('Tomas')).toContain('clicks');
});

it('turns an order round when its heading is chosen again', () => {
  expect(nextOrder('-made', 'uses')).toBe('-uses');
  expect(nextOrder('-uses', 'uses')).toBe('uses');
  expect(nextOrder('uses', 'uses')).toBe('-uses');
});
