import { expect, test } from 'vitest';
import { cleaned, queryOf, usual } from './look';

test('an address names only what is not as usual', () => {
  expect(queryOf(usual)).toBe('');
  expect(queryOf({ ...usual, mm: 45, caption: 'Gate & lake', compact: false, logo: null })).toBe(
    'mm=45&caption=Gate+%26+lake',
  );
});

test('what was emptied is not sent', () => {
  expect(cleaned({ ...usual, caption: '', correction: null })).toEqual(usual);
});
