import { describe, expect, it } from 'vitest';
import { dimensions, labelOf, noneOf } from './dimensions';
import labels from './rowLabels.json';
import { rowName } from './rowName';
import cases from './rowNames.json';

describe('a row', () => {
  it('and its field are called as on paper', () =>
    expect(Object.keys(dimensions).map((name) => [name, labelOf(name), noneOf(name)])).toEqual(labels));

  it.each(cases as [string, string | null, string][])('of %s %s is called %s, as on paper', (dimension, key, name) =>
    expect(rowName(dimension, key)).toBe(name),
  );

  it('is called by its name where the key is an id', () =>
    expect(rowName('link', '7', { '7': 'Header button' })).toBe('Header button'));
});
