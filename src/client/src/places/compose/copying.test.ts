import { expect, it } from 'vitest';
import type { ComposeAnswer } from '../../api/client';
import { copyForms, linesOf, tableOf, type Copied } from './copying';

const link = (placement: string, content: string, url: string | null): Copied => ({
  placement,
  answer: {
    url,
    parameterText: 'utm_source=a',
    forms: null,
    existing: null,
    fields: [
      { key: 'utm_source', label: 'Source', value: 'a', from: 'typed', steps: [] },
      { key: 'utm_content', label: 'Content', value: content, from: 'typed', steps: [] },
      { key: 'utm_id', label: 'Id', value: '', from: 'none', steps: [] },
    ],
  } as unknown as ComposeAnswer,
});

it('copies a line for each link that has the form', () => {
  const [form] = copyForms;
  expect(
    linesOf([link('A', '', 'https://m.example/1'), link('B', '', null), link('C', '', 'https://m.example/2')], form),
  ).toBe('https://m.example/1\nhttps://m.example/2');
});

it('copies a table with the fields in use, and no formula', () => {
  expect(tableOf([link('=1+1', 'x', 'https://m.example/1'), link('The "Trellis"', '', 'https://m.example/2')])).toBe(
    [
      'Placement\tLink\tShort link\tSource\tContent',
      "'=1+1\thttps://m.example/1\t\ta\tx",
      '"The ""Trellis"""\thttps://m.example/2\t\ta\t',
    ].join('\n'),
  );
});

it('copies a short link with the placeholders that are carried through, and without them where they are not', () => {
  const short = copyForms.find((form) => form.name === 'Short link')!;
  const saved = (copyUrl: string) => ({
    ...link('A', '', 'https://m.example/?utm_term={keyword}'),
    saved: { shortUrl: 'https://s.example/a', copyUrl } as Copied['saved'],
  });
  expect(short.of(saved('https://s.example/a?utm_term={keyword}'))).toBe('https://s.example/a?utm_term={keyword}');
  expect(short.of(saved('https://m.example/?utm_term={keyword}'))).toBe('https://s.example/a');
});
