import { expect, it } from 'vitest';
import { linksIn } from './pasted';

const keys = ['utm_source', 'utm_medium'];

it.each([
  ['https://m.example/?utm_source=a', ['https://m.example/?utm_source=a']],
  [' m.example/x?utm_soruce=a \n', ['m.example/x?utm_soruce=a']],
  [
    'https://m.example/#utm_medium=b\thttps://m.example/plain',
    ['https://m.example/#utm_medium=b', 'https://m.example/plain'],
  ],
  ['https://m.example/?utm_source=a\r\nhttps://m.example/?utm_source=a', ['https://m.example/?utm_source=a']],
  ['https://m.example/?utm_source=a b&utm_medium=c', ['https://m.example/?utm_source=a b&utm_medium=c']],
  [
    'https://m.example/?utm_source=a\nhttps://m.example/?utm_source=fern blog\nhttps://m.example/plain',
    ['https://m.example/?utm_source=a', 'https://m.example/?utm_source=fern blog', 'https://m.example/plain'],
  ],
  ['https://m.example/?page=2', []],
  ['Come to https://m.example/?utm_source=a tonight', []],
  ['utm_source', []],
  ['', []],
])('finds the links of %j', (text, links) => expect(linksIn(text, keys)).toEqual(links));
