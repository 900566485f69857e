import { expect, test } from 'vitest';
import type { Schema } from '../../api/client';
import { eventSays } from './linkEvents';

const nobody: Schema['LinkEvent'] = {
  at: '2026-11-01T10:00:00Z',
  who: 'Tamsin Bracewell',
  what: 'made',
  together: false,
  filingBefore: null,
  filingAfter: null,
  routeBefore: null,
  routeAfter: null,
  shortUrl: null,
};
const filing: Schema['LinkMetadata'] = {
  title: 'A',
  campaignId: '1',
  campaign: 'Bulb Sale',
  topics: [],
  retiredAt: null,
};

test('each thing that was changed is a line, before and after', () => {
  expect(eventSays(nobody)).toEqual(['made']);
  expect(
    eventSays({
      ...nobody,
      what: 'filed',
      filingBefore: filing,
      filingAfter: { title: 'B', campaignId: '2', campaign: 'Seed Swap', topics: ['spring'], retiredAt: nobody.at },
    }),
  ).toEqual([
    'title from “A” to “B”',
    'campaign from Bulb Sale to Seed Swap',
    'topics from none to spring',
    'archived',
  ]);
  expect(eventSays({ ...nobody, what: 'shortened', shortUrl: 'https://mmr.example/abc' })[0]).toContain('mmr.example');
});
