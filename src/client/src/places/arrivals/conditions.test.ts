import { describe, expect, it } from 'vitest';
import { conditionOf, conditionsOf, partsOf, whereOf, withCondition } from './conditions';

describe('a condition', () => {
  it('says field, test and value, which may hold colons', () => {
    expect(partsOf('landingPage:contains:a:b')).toEqual({ field: 'landingPage', test: 'contains', value: 'a:b' });
    expect(partsOf('source:is:')).toEqual({ field: 'source', test: 'is', value: '' });
    expect(partsOf('source:like:x')).toBeNull();
    expect(partsOf('source')).toBeNull();
  });

  it('narrows to a row, also to one without a value', () => {
    expect(conditionOf('campaign', 'bulb_sale')).toBe('campaign:is:bulb_sale');
    expect(conditionOf('campaign', null)).toBe('campaign:is:');
  });

  it('of several values of one field is one', () => {
    const where = ['source:in:a', 'device:not:phone', 'source:in:b', 'source:is:c'];
    expect(conditionsOf(where)).toEqual([
      { field: 'source', test: 'in', values: ['a', 'b'] },
      { field: 'device', test: 'not', values: ['phone'] },
      { field: 'source', test: 'is', values: ['c'] },
    ]);
    expect(whereOf(conditionsOf(where))).toEqual(['source:in:a', 'source:in:b', 'device:not:phone', 'source:is:c']);
  });

  it('is there once', () => {
    expect(withCondition(['a:is:b'], 'a:is:b')).toEqual(['a:is:b']);
    expect(withCondition(['a:is:b'], 'a:is:c')).toEqual(['a:is:b', 'a:is:c']);
  });
});
