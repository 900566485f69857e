import { screen, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { figures } from '../../parts/board/measures.test';
import { show } from '../../test/show';
import { comparedCampaigns } from './compared';
import { SideBySide } from './SideBySide';
import { viewOf } from './view';

const campaign = (value: string, from: string, to: string, visits: number) => ({
  value,
  name: value.replace('_', ' '),
  from,
  to,
  total: { ...figures, visits },
  series: [{ day: from, visits, convertingVisits: 0 }],
});

function seasons(to = '2025-10-10') {
  show(
    <SideBySide
      view={viewOf(new URLSearchParams('compare=campaigns:bulb_sale,bulb_sale_25&rows=campaign,medium'), '2026-11-29')}
      own={[]}
    />,
    {
      'GET /api/v1/arrivals': {
        data: {
          names: {},
          named: [{ measure: 'conversions:ticket', count: 3 }],
          campaigns: [
            campaign('bulb_sale', '2026-10-01', '2026-10-10', 300),
            campaign('bulb_sale_25', '2025-10-01', to, 200),
          ],
          rows: [{ keys: ['email'], figures: { ...figures, visits: 90 }, beside: [{ ...figures, visits: 60 }] }],
        },
      },
    },
  );
}

const cellsOf = (name: string) =>
  within(screen.getByText(name).closest('tr')!)
    .getAllByRole('cell')
    .map((c) => c.textContent);

describe('campaigns side by side', () => {
  it('are those the address names', () => {
    expect(comparedCampaigns('campaigns:a,b,')).toEqual(['a', 'b']);
    expect(comparedCampaigns('before')).toEqual([]);
  });

  it('stand in columns, each different from the first by so much', async () => {
    seasons();
    await screen.findByText('email');
    expect(cellsOf('Everything')).toEqual(['Everything', '300', '200−33.3 %']);
    expect(cellsOf('email')).toEqual(['email', '90', '60−33.3 %']);
    expect(screen.getByRole('columnheader', { name: /bulb sale_25/ }).textContent).toContain(
      '1 Oct 2025 to 10 Oct 2025',
    );
  });

  it('that ran for different numbers of days say what comes to a day', async () => {
    seasons('2025-10-05');
    await screen.findByText('email');
    expect(cellsOf('Everything')).toEqual(['Everything', '30030 a day', '20040 a day']);
  });
});
