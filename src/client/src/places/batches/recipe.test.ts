import { expect, it } from 'vitest';
import { partsOf, shownTargets, sourceOf, targetsOf, withSource, type Recipe } from './recipe';

const recipe = { destination: { column: 'Page' }, fields: { utm_content: { text: '@{A} @{B}' } } } as unknown as Recipe;

it('feeds page and fields alike, and takes them away again', () => {
  const fed = withSource(withSource(recipe, 'campaign', { value: 'Lantern Nights' } as never), 'utm_term', {
    column: 'Word',
  } as never);
  expect(partsOf(sourceOf(fed, 'campaign'))).toEqual({ kind: 'value', text: 'Lantern Nights' });
  expect(partsOf(sourceOf(fed, 'utm_term'))).toEqual({ kind: 'column', text: 'Word' });
  expect(partsOf(sourceOf(fed, 'utm_content'))).toEqual({ kind: 'text', text: '@{A} @{B}' });
  expect(sourceOf(withSource(fed, 'utm_term', null), 'utm_term')).toBeNull();
  expect(partsOf(sourceOf(withSource(fed, 'destination', null), 'destination'))).toEqual({ kind: 'none', text: '' });
});

it('offers only fields that can be fed', () => {
  const fields = [
    { key: 'utm_source', label: 'Source', kind: 'text', means: 'source' },
    { key: 'utm_campaign', label: 'Campaign', kind: 'composed', means: 'campaign' },
  ] as never;
  expect(targetsOf(fields).map((t) => t.key)).toEqual([
    'destination',
    'placement',
    'campaign',
    'linkTitle',
    'utm_source',
  ]);
});

it('shows page, placement and campaign always, and fields that something feeds', () => {
  const fields = [
    { key: 'utm_content', label: 'Content', kind: 'text', means: 'content' },
    { key: 'utm_term', label: 'Term', kind: 'text', means: 'term' },
  ] as never;
  expect(shownTargets(recipe, fields).map((t) => t.key)).toEqual([
    'destination',
    'placement',
    'campaign',
    'utm_content',
  ]);
  expect(shownTargets({ fields: {} } as never, fields).map((t) => t.key)).toEqual([
    'destination',
    'placement',
    'campaign',
  ]);
});
