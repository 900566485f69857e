import { describe, expect, it } from 'vitest';
import { conditionOf, rowsOf, usualRows } from './dimensions';

const rows = (text: string) => rowsOf(new URLSearchParams(text));

describe('rows', () => {
  it.each(['', 'rows=', 'rows=colour', 'rows=colour,taste'])('are the usual ones for “%s”', (text) => {
    expect(rows(text)).toEqual(usualRows);
  });

  it('are taken from the address, each once and five at most', () => {
    expect(rows('rows=channel,channel,device')).toEqual(['channel', 'device']);
    expect(rows('rows=channel,campaign,source,medium,device,country')).toEqual([
      'channel',
      'campaign',
      'source',
      'medium',
      'device',
    ]);
  });

  it('narrow by their key, and by none', () => {
    expect(conditionOf('campaign', 'a:b')).toBe('campaign:is:a:b');
    expect(conditionOf('campaign', null)).toBe('campaign:is:');
  });
});
