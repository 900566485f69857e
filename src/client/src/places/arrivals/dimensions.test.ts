import { describe, expect, it } from 'vitest';
import { dimensionGroups, dimensions, labelOf, noneOf, ownDimensions, rowsOf, usualRows } from './dimensions';

describe('rows of an address', () => {
  it.each([
    ['rows=source,medium', ['source', 'medium']],
    ['rows=source,source,medium', ['source', 'medium']],
    ['rows=source,nothing', ['source']],
    [
      'rows=attribute.region,field.utm_audience,part.utm_campaign.2',
      ['attribute.region', 'field.utm_audience', 'part.utm_campaign.2'],
    ],
    ['rows=attribute.,shelf.x', usualRows],
    ['rows=channel,group,campaign,placement,set,publisher', ['channel', 'group', 'campaign', 'placement', 'set']],
    ['', usualRows],
  ])('%s', (address, rows) => expect(rowsOf(new URLSearchParams(address))).toEqual(rows));
});

describe('what rows can be made by', () => {
  it('stands under one heading each', () => {
    const all = dimensionGroups.flatMap((g) => g.names);
    expect([...all].sort()).toEqual(Object.keys(dimensions).sort());
    expect(new Set(all).size).toBe(all.length);
  });

  it('includes what the workspace has of its own', () => {
    const own = ownDimensions([{ name: 'season' }], [
      { key: 'utm_source', label: 'Source', means: 'source' },
      { key: 'utm_audience', label: 'Audience', means: 'byKey' },
      {
        key: 'utm_campaign',
        label: 'Campaign',
        means: 'campaign',
        pattern: { separator: '_', parts: [{ kind: 'attribute', of: 'season' }, { kind: 'campaignName' }] },
      },
    ] as never);
    expect(own).toEqual([
      { name: 'attribute.season', label: 'season' },
      { name: 'field.utm_audience', label: 'Audience' },
      { name: 'part.utm_campaign.1', label: 'Campaign, part 1 (season)' },
      { name: 'part.utm_campaign.2', label: 'Campaign, part 2' },
    ]);
    expect(labelOf('field.utm_audience', own)).toBe('Audience');
    expect(labelOf('field.utm_old', own)).toBe('utm_old');
    expect(noneOf('attribute.season')).toBe('No season');
  });
});
