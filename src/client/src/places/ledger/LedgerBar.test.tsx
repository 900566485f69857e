import { fireEvent, screen } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { show } from '../../test/show';
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
    await screen.findByRole('option', { name: 'winter' });
    for (const [list, value] of [
      ['Campaign', 'c1'],
      ['Placement', 'p2'],
      ['Channel', 'Partners'],
      ['State', 'ended'],
      ['Topic', 'winter'],
      ['Group by', 'channel'],
    ] as const)
      fireEvent.change(screen.getByLabelText(list), { target: { value } });
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
    await screen.findByRole('option', { name: 'Partners' });
    const channels = [...screen.getByLabelText('Channel').querySelectorAll('option')].map((o) => o.textContent);
    expect(channels).toEqual(['All channels', 'Partners', 'Print and codes']);
    expect(screen.queryByLabelText('Topic')).toBeNull();
  });

  it('goes along into files', () => {
    bar();
    expect(screen.getByRole('link', { name: 'CSV' }).getAttribute('href')).toBe('/api/v1/links.csv?state=live');
    expect(screen.getByRole('link', { name: 'XLSX' }).getAttribute('href')).toBe('/api/v1/links.xlsx?state=live');
  });
});
