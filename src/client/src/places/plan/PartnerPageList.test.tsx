import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { choose, show } from '../../test/show';
import { PartnerPageList } from './PartnerPageList';

const page = (more: object = {}) => ({
  id: 'h1',
  name: 'Vale Visitor Board',
  placements: ['p1', 'p2'],
  campaign: null,
  links: 12,
  openings: 3,
  lastOpenedAt: '2026-11-25T10:00:00Z',
  createdAt: '2026-11-20T10:00:00Z',
  createdBy: 'Orla Fenwick',
  revokedAt: null,
  address: 'https://beacon.example/h/secret',
  ...more,
});
const placements = {
  data: [
    { id: 'p1', name: 'Board', publisher: 'Vale Visitor Board', channel: 'Partners' },
    { id: 'p2', name: 'Leaflet', publisher: 'Vale Visitor Board', channel: 'Partners' },
    { id: 'p3', name: 'Gate poster', publisher: null, channel: 'Print and codes' },
  ],
};
const answers = {
  'GET /api/v1/partner-pages': {
    data: [
      page(),
      page({
        id: 'h2',
        name: 'Old',
        openings: 0,
        revokedAt: '2026-11-21T10:00:00Z',
        address: null,
        campaign: 'Bulb Sale',
      }),
    ],
  },
  'GET /api/v1/placements': placements,
  'GET /api/v1/campaigns': { data: [{ id: 'c1', name: 'Bulb Sale' }] },
};

describe('pages for partners', () => {
  it('say what is on them, and who opened them when', async () => {
    show(<PartnerPageList parts={null} />, answers);
    await waitFor(() => expect(screen.getAllByText('Board, Leaflet')).toHaveLength(2));
    const [, open, revoked] = screen.getAllByRole('row');
    expect(open!.textContent).toContain('3 × · last');
    expect(within(open!).getByRole('link', { name: 'Open' }).getAttribute('href')).toBe(
      'https://beacon.example/h/secret',
    );
    expect(revoked!.textContent).toContain('only Bulb Sale');
    expect(revoked!.textContent).toContain('not yet');
    expect(within(revoked!).queryByRole('link')).toBeNull();
    expect(screen.getByText('1 partner page is open')).toBeTruthy();
  });

  it('are made for a publisher with all of its placements', async () => {
    const sent = show(<PartnerPageList parts={null} />, {
      ...answers,
      'POST /api/v1/partner-pages': { data: page({ links: 1 }) },
    });
    fireEvent.click(await screen.findByRole('button', { name: 'Share with a partner' }));
    await waitFor(() => expect(document.querySelector('#publishers option')).toBeTruthy());
    fireEvent.change(screen.getByLabelText('Partner'), { target: { value: 'Vale Visitor Board' } });
    expect(screen.getByRole('button', { name: 'Placements: Board, Leaflet' })).toBeTruthy();
    await choose('Campaign', 'Bulb Sale');
    fireEvent.click(screen.getByRole('button', { name: 'Create page' }));
    expect(await screen.findByText(/The page has 1 link\./)).toBeTruthy();
    expect(sent[0]).toMatchObject({
      call: 'POST /api/v1/partner-pages',
      body: { name: 'Vale Visitor Board', placements: ['p1', 'p2'], campaign: 'c1', note: null },
    });
  });

  it('bring the placements along though the name was typed before they arrived', async () => {
    show(<PartnerPageList parts={null} />, answers);
    fireEvent.click(screen.getByRole('button', { name: 'Share with a partner' }));
    fireEvent.change(screen.getByLabelText('Partner'), { target: { value: 'Vale Visitor Board' } });
    expect(screen.getByRole('button', { name: 'Placements: choose placements' })).toBeTruthy();
    expect(await screen.findByRole('button', { name: 'Placements: Board, Leaflet' })).toBeTruthy();
  });

  it('stop opening when they are revoked', async () => {
    const sent = show(<PartnerPageList parts={null} />, answers);
    fireEvent.click(await screen.findByRole('button', { name: 'Revoke' }));
    await waitFor(() =>
      expect(sent[0]).toMatchObject({ call: 'POST /api/v1/partner-pages/{id}/revoke', path: { id: 'h1' } }),
    );
  });

  it('say why one can’t be made', async () => {
    show(<PartnerPageList parts={null} />, {
      ...answers,
      'POST /api/v1/partner-pages': { refused: 'Choose 1 to 500 placements whose links the partner gets.' },
    });
    fireEvent.click(await screen.findByRole('button', { name: 'Share with a partner' }));
    fireEvent.click(screen.getByRole('button', { name: 'Create page' }));
    expect((await screen.findByRole('alert')).textContent).toContain('Choose 1 to 500 placements');
  });

  it('are explained where there are none, and only read by somebody who only looks', async () => {
    show(<PartnerPageList parts={null} />, {}, 'viewer');
    expect(await screen.findByText(/No partner pages yet/)).toBeTruthy();
    expect(screen.queryByRole('button', { name: 'Share with a partner' })).toBeNull();
  });
});
