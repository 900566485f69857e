import { expect, it } from 'vitest';
import { placementAddress, placementBegun, plannedAddress, plannedBegun } from './planAddress';

const search = (address: string) => new URLSearchParams(address.split('?')[1]);

it('carries a placement that was begun, values with signs of their own too', () => {
  const address = placementAddress({
    name: 'Gate & wall',
    channel: 'Print',
    defaults: { utm_source: 'a=b&c', tone: 'calm' },
  });
  expect(search(address).get('placement')).toBe('new');
  expect(placementBegun(search(address))).toEqual({
    name: 'Gate & wall',
    begun: { channel: 'Print', publisher: null, defaults: { utm_source: 'a=b&c', tone: 'calm' } },
  });
});

it('carries a planned link that was begun, and nothing where none was', () => {
  const address = plannedAddress('c1', { page: 'https://garden.example/visit?a=1', placement: 'p1' });
  expect(search(address).get('campaign')).toBe('c1');
  expect(plannedBegun(search(address))).toEqual({
    id: null,
    page: 'https://garden.example/visit?a=1',
    placementId: 'p1',
    content: null,
  });
  expect(plannedBegun(search('/plan?campaign=c1'))).toBeNull();
});
