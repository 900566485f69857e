import { describe, expect, it } from 'vitest';
import { asLines, dropped, listOf, merged, moved, newField, placeOf, replaced } from './document';

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

describe('words', () => {
  const word = (written: string, ...aliases: string[]) => ({
    written,
    label: written,
    aliases,
    retired: false,
    successor: null,
  });

  it('merge into one that keeps all names, and successors follow', () => {
    const words = [word('email', 'e-mail'), word('mail', 'post'), { ...word('fax'), retired: true, successor: 'mail' }];
    expect(merged(words, 1, 0)).toEqual([
      word('email', 'e-mail', 'mail', 'post'),
      { ...word('fax'), retired: true, successor: 'email' },
    ]);
    expect(merged([word('email', 'mail'), word('mail', 'email')], 0, 1)).toEqual([word('mail', 'email')]);
  });

  it('leave as cells that can be pasted again', () => {
    expect(asLines([word('email', 'e-mail', 'post'), word('sms')])).toBe('email\temail\te-mail\tpost\nsms\tsms');
  });
});

describe('dragging', () => {
  it('takes one out and puts it in elsewhere', () => {
    expect(dropped(['a', 'b', 'c'], 0, 2)).toEqual(['b', 'c', 'a']);
    expect(dropped(['a', 'b', 'c'], 2, 0)).toEqual(['c', 'a', 'b']);
    expect(dropped(['a'], 3, 0)).toEqual(['a']);
  });
});

it('a new field obeys the usual rules', () => {
  expect([newField.case, newField.space, newField.list]).toEqual(['lower', 'underscore', 'none']);
});

it('finds a field by its number, its key, or what it means', () => {
  const fields = [
    { key: 'utm_source', means: 'byKey' as const },
    { key: 'tone', means: 'byKey' as const },
    { key: 'way', means: 'medium' as const },
  ];
  expect(
    ['0', '2', 'source', 'utm_source', 'tone', 'medium', 'nothing', '9', '-1'].map((at) => placeOf(fields, at)),
  ).toEqual([0, 2, 0, 0, 1, 2, 0, 0, 0]);
});
