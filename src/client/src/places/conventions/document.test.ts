import { describe, expect, it } from 'vitest';
import { listOf, moved, newField, replaced, wordsOf } from './document';

describe('lists', () => {
  it('move one step and stop at their ends', () => {
    expect(moved(['a', 'b', 'c'], 0, 1)).toEqual(['b', 'a', 'c']);
    expect(moved(['a', 'b', 'c'], 2, -1)).toEqual(['a', 'c', 'b']);
    expect(moved(['a', 'b'], 0, -1)).toEqual(['a', 'b']);
    expect(moved(['a', 'b'], 1, 1)).toEqual(['a', 'b']);
  });

  it('replace one and leave the others', () => {
    expect(replaced([1, 2, 3], 1, 9)).toEqual([1, 9, 3]);
  });

  it('are read from commas', () => {
    expect(listOf(' a, b c ,, d ')).toEqual(['a', 'b c', 'd']);
    expect(listOf(' ')).toEqual([]);
  });
});

describe('pasted words', () => {
  const known = [{ written: 'email', label: 'Mail', aliases: ['e-mail'], retired: false, successor: null }];

  it('take written form, label and aliases from cells', () => {
    const { fresh } = wordsOf('North Coast\tThe coast\tcoast\tnorthern\nsouth', known);
    expect(fresh).toEqual([
      { written: 'north_coast', label: 'The coast', aliases: ['coast', 'northern'], retired: false, successor: null },
      { written: 'south', label: 'south', aliases: [], retired: false, successor: null },
    ]);
  });

  it('leave out what is known already, case and aliases included, and count it', () => {
    expect(wordsOf('EMAIL\r\nE-Mail\n\nsms\nSMS', known)).toEqual({
      fresh: [{ written: 'sms', label: 'sms', aliases: [], retired: false, successor: null }],
      already: 3,
    });
  });
});

it('a new field obeys the usual rules', () => {
  expect([newField.case, newField.space, newField.list]).toEqual(['lower', 'underscore', 'none']);
});
