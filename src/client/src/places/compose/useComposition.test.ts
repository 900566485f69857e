import { describe, expect, it } from 'vitest';
import { composeAddress } from '../../parts/composeAddress';
import { cellsOf, nothing } from './composition';
import { typedIn } from './useComposition';

const paramsOf = (address: string) => new URL(address, 'https://beacon.example').searchParams;

describe('a link made anew', () => {
  it('opens its page, placement and campaign with what is faulty typed in', () => {
    const page = 'https://marrowmere.example/x?a=1';
    const params = paramsOf(composeAddress(page, 'p1', 'c1', { utm_campaign: 'lanterns', utm_content: 'a=b' }));
    expect([params.get('page'), params.get('placement'), params.get('campaign')]).toEqual([page, 'p1', 'c1']);
    const [cell] = cellsOf({ ...nothing, pages: [page], placements: ['p1'], campaign: 'c1' });
    expect(typedIn(params)!.overrides[cell!.key]).toEqual({ utm_campaign: 'lanterns', utm_content: 'a=b' });
  });

  it('does without placement and campaign, and brings nothing where nothing was typed', () => {
    const address = composeAddress('https://marrowmere.example/', null, null, {});
    expect(address).not.toContain('placement=');
    expect(typedIn(paramsOf(address))!.overrides).toEqual({});
  });

  it('leaves what was typed before to any other address', () => {
    expect(typedIn(paramsOf('/compose?page=https%3A%2F%2Fmarrowmere.example%2F'))).toBeNull();
  });
});
