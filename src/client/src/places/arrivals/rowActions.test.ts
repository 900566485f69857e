import { expect, it } from 'vitest';
import { ledgerAddress, newPlacement, newPlanned, planPlaces } from './rowActions';

const fields = [
  { key: 'utm_source', means: 'byKey' as const },
  { key: 'way', means: 'medium' as const },
  { key: 'tone', means: 'byKey' as const },
];
const campaigns = [{ id: 'c1', name: 'Bulb Sale', value: 'bulb_sale' }];
const placements = [{ id: 'p1', name: 'Gate poster' }];
const asked = (address: string | null) => [...new URLSearchParams(address!.split('?')[1])].map((p) => p.join('='));

it('selects the links behind a row', () => {
  expect(asked(ledgerAddress({ from: '2026-11-01', to: '2026-11-30' }, ['source:is:a b', 'medium:not:print']))).toEqual(
    [
      'state=all',
      'visitsFrom=2026-11-01',
      'visitsTo=2026-11-30',
      'visitsWhere=source:is:a b',
      'visitsWhere=medium:not:print',
    ],
  );
});

it('begins a placement with the values of a row, and with nothing that is the campaign’s', () => {
  expect(
    asked(
      newPlacement(
        ['campaign:is:bulb_sale', 'channel:is:Social', 'source:is:the_trellis', 'field.tone:is:calm'],
        fields,
      ),
    ),
  ).toEqual([
    'view=placements',
    'placement=new',
    'name=the_trellis',
    'channel=Social',
    'value=utm_source=the_trellis',
    'value=tone=calm',
  ]);
  expect(asked(newPlacement(['sourceMedium:is:herald / –'], fields))).toContain('value=utm_source=herald');
  expect(asked(newPlacement(['sourceMedium:is:herald / print'], fields))).toContain('value=way=print');
});

it.each([
  [['placement:is:Gate poster', 'source:is:a']],
  [['campaign:is:bulb_sale']],
  [['source:not:a']],
  [['source:is:']],
  [['content:is:a']], // the convention has no such field
])('begins no placement from %s', (conditions) => {
  expect(newPlacement(conditions, fields)).toBeNull();
});

it('begins a planned link where the row has a campaign of the Plan', () => {
  expect(
    asked(
      newPlanned(
        ['campaign:is:bulb_sale', 'placement:is:Gate poster', 'landingPage:is:https://a.example/b', 'content:is:x'],
        campaigns,
        placements,
      ),
    ),
  ).toEqual(['campaign=c1', 'plan=1', 'page=https://a.example/b', 'placement=p1', 'content=x']);
  expect(newPlanned(['campaign:is:fern'], campaigns, placements)).toBeNull();
});

it('leads back to what a row is about', () => {
  expect(
    planPlaces(['campaign:is:bulb_sale', 'placement:is:Gate poster', 'link:is:l1'], campaigns, placements),
  ).toEqual([
    ['/plan?campaign=c1', 'Open Bulb Sale in the Plan'],
    ['/plan?view=placements&placement=p1', 'Open Gate poster in the Plan'],
    ['/ledger?open=l1', 'Open the link’s page'],
  ]);
  expect(planPlaces(['source:is:a'], campaigns, placements)).toEqual([]);
});
