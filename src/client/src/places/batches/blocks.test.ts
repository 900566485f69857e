import { expect, it } from 'vitest';
import { cellsOf, repeated, span, textOf } from './blocks';

it('takes cells as spreadsheets put them on the clipboard, and gives them back', () => {
  expect(cellsOf('a\tb\r\nc\t\r\n')).toEqual([
    ['a', 'b'],
    ['c', ''],
  ]);
  expect(cellsOf('"two\nlines"\t"say ""it"""\n')).toEqual([['two\nlines', 'say "it"']]);
  const cells = [
    ['a\tb', 'x'],
    ['', 'say "it"'],
  ];
  expect(cellsOf(textOf(cells))).toEqual(cells);
});

it('repeats a block downward', () => {
  expect(repeated(['a', 'b'], 5)).toEqual(['a', 'b', 'a', 'b', 'a']);
  expect(span(7, 3)).toEqual([3, 7]);
});
