// @vitest-environment jsdom
import { beforeEach, describe, expect, it } from 'vitest';
import { cellsOf, nothing } from './composition';
import { beginWith } from './useComposition';

describe('a link made anew', () => {
  beforeEach(() => sessionStorage.clear());

  it('opens its page, placement and campaign with what is faulty typed in', () => {
    const address = beginWith('https://marrowmere.example/x?a=1', 'p1', 'c1', { utm_campaign: 'lanterns' });
    const params = new URL(address, 'https://beacon.example').searchParams;
    expect([params.get('page'), params.get('placement'), params.get('campaign')]).toEqual([
      'https://marrowmere.example/x?a=1',
      'p1',
      'c1',
    ]);
    const draft = JSON.parse(sessionStorage.getItem('beacon-compose-draft')!) as {
      overrides: Record<string, Record<string, string>>;
    };
    const [cell] = cellsOf({ ...nothing, pages: [params.get('page')!], placements: ['p1'], campaign: 'c1' });
    expect(params.get('link')).toBe(cell!.key);
    expect(draft.overrides[cell!.key]).toEqual({ utm_campaign: 'lanterns' });
  });

  it('does without placement and campaign, and forgets what was typed before', () => {
    beginWith('https://marrowmere.example/', 'p1', null, { utm_term: 'x' });
    expect(beginWith('https://marrowmere.example/', null, null, {})).not.toContain('placement=');
    expect(sessionStorage.getItem('beacon-compose-draft')).not.toContain('utm_term');
  });
});
