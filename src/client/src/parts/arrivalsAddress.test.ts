import { expect, it } from 'vitest';
import { arrivalsAddress, dimensionOf } from './arrivalsAddress';

it('narrows Arrivals to one thing', () => {
  expect(arrivalsAddress({ where: [['placement', 'Gate poster, north']], rows: ['campaign', 'content'] })).toBe(
    '/arrivals?span=180d&rows=campaign%2Ccontent&where=placement%3Ais%3AGate+poster%2C+north',
  );
  expect(arrivalsAddress({ where: [['link', 'l1']], span: '30d' })).toBe('/arrivals?span=30d&where=link%3Ais%3Al1');
});

it('finds the rows of a field by what it means, its standard key, or its own', () => {
  expect(dimensionOf({ key: 'way', means: 'medium' })).toBe('medium');
  expect(dimensionOf({ key: 'utm_source', means: 'byKey' })).toBe('source');
  expect(dimensionOf({ key: 'tone', means: 'byKey' })).toBe('field.tone');
});
