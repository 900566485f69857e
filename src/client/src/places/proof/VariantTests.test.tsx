import { screen, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { show } from '../../test/show';
import { Proof } from './Proof';

const variant = (name: string, trials: number, converted: number, more: object = {}) => ({
  name,
  links: [`link-${name}`],
  alsoDiffersIn: [],
  trials,
  converted,
  rate: trials ? converted / trials : null,
  low: trials ? converted / trials / 2 : null,
  high: trials ? (converted / trials) * 2 : null,
  behindAtLeast: null,
  behindAtMost: null,
  ...more,
});

const test = (more: object = {}) => ({
  campaignId: 'c',
  campaign: 'Lantern Nights',
  placementId: 'p',
  placement: 'Members’ mail',
  page: 'marrowmere.example/lantern-nights',
  unit: 'visits',
  outcome: 'clear',
  says: '“lamps” converts better: by 4.0 to 12.0 percentage points more than “lake”.',
  best: 1,
  moreNeeded: null,
  variants: [
    variant('lake', 400, 20),
    variant('lamps', 400, 80),
    variant('mailed', 0, 0, { alsoDiffersIn: ['utm_medium'] }),
  ],
  ...more,
});

const shown = (tests: object[], rawFrom: string | null = null) =>
  show(<Proof />, { 'GET /api/v1/variant-tests': { data: { tests, rawFrom } } }, 'viewer', '/proof?part=variants');

describe('variant tests', () => {
  it('show each variant with its rate, what it may truly be, and the verdict in words', async () => {
    shown([test()]);
    expect(await screen.findByText('1 test in 90 days, 1 clear')).toBeTruthy();
    expect(screen.getByText(/“lamps” converts better/)).toBeTruthy();
    const rows = within(screen.getByRole('table')).getAllByRole('row').slice(1);
    expect(rows.map((r) => r.textContent)).toEqual([
      'lake400205.0 %',
      'lamps4008020.0 %',
      'mailed also differs in utm_medium00–',
    ]);
    expect(within(rows[0]!).getByRole('img').getAttribute('aria-label')).toBe('2.5 % to 10.0 %');
    expect(screen.getByRole('link', { name: 'lamps' }).getAttribute('href')).toContain('where=link%3Ais%3Alink-lamps');
  });

  it('say what is due before there are any', async () => {
    shown([], '2026-10-01');
    expect(await screen.findByText(/as soon as two of them have visits/)).toBeTruthy();
    expect(screen.getByText(/kept from 1 Oct 2026 on/)).toBeTruthy();
  });
});
