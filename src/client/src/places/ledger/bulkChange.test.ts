import { expect, test } from 'vitest';
import { changeButton, changeSays, links } from './bulkChange';

test.each([
  [{ campaign: '1' }, 'moved to Bulb Sale; their tags stay', 'Move them'],
  [
    { leadsTo: 'https://marrowmere.example/b' },
    'changed to open https://marrowmere.example/b, each with its own tags',
    'Change destination',
  ],
  [{ shorten: true }, 'given a short link and a QR code', 'Create short links'],
  [{ addTopics: ['spring'] }, 'given the topic spring', 'Add topic'],
  [{ dropTopics: ['spring'] }, 'no longer under the topic spring', 'Remove topic'],
  [{ retire: true }, 'archived; their short links keep working', 'Archive them'],
  [{ retire: false }, 'restored', 'Restore them'],
])('a change to many links says what it does: %o', (change, says, button) => {
  expect(changeSays(change, 'Bulb Sale')).toBe(says);
  expect(changeButton(change)).toBe(button);
});

test('one link and many are counted', () => {
  expect([links(1), links(1200)]).toEqual(['1 link', '1,200 links']);
});
