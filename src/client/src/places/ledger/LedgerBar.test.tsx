import { screen, waitFor } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { choose, optionsOf, show } from '../../test/show';
import { LedgerBar } from './LedgerBar';

const answers = {
  'GET /api/v1/campaigns': { data: [{ id: 'c1', name: 'Bulb Sale' }] },
  'GET /api/v1/placements': {
    data: [
      { id: 'p1', name: 'Gate poster', channel: 'Print and codes' },
      { id: 'p2', name: 'Station poster', channel: 'Print and codes' },
      { id: 'p3', name: 'Board', channel: 'Partners' },
    ],
  },
};

function bar(more: Parameters<typeof show>[1] = {}) {
  const onChange = vi.fn();
  const onShow = vi.fn();
  show(
    <LedgerBar
      value={(key) => (key === 'state' ? 'live' : '')}
      onChange={onChange}
      shown={['clicks']}
      onShow={onShow}
      query="?state=live"
    />,
    { ...answers, ...more },
  );
  return { onChange, onShow };
}

describe('what narrows the Ledger down', () => {
  it('is campaign, placement, channel, state and topic', async () => {
    const { onChange } = bar({ 'GET /api/v1/links/topics': { data: [{ name: 'winter', links: 3 }] } });
    await screen.findByLabelText('Topic');
    for (const [list, says] of [
      ['Campaign', 'Bulb Sale'],
      ['Placement', 'Station poster'],
      ['Channel', 'Partners'],
      ['State', 'Ended'],
      ['Topic', /winter/],
      ['Group by', 'By channel'],
    ] as const)
      await choose(list, says);
    expect(onChange.mock.calls).toEqual([
      ['campaign', 'c1'],
      ['placement', 'p2'],
      ['channel', 'Partners'],
      ['state', 'ended'],
      ['topic', 'winter'],
      ['by', 'channel'],
    ]);
  });

  it('names each channel once, and topics only where there are any', async () => {
    bar();
    await waitFor(async () =>
      expect(await optionsOf('Channel')).toEqual(['All channels', 'Partners', 'Print and codes']),
    );
    expect(screen.queryByLabelText('Topic')).toBeNull();
  });

  it('goes along into files', () => {
    bar();
    expect(screen.getByRole('link', { name: 'CSV' }).getAttribute('href')).toBe('/api/v1/links.csv?state=live');
    expect(screen.getByRole('link', { name: 'XLSX' }).getAttribute('href')).toBe('/api/v1/links.xlsx?state=live');
  });
});
