import { fireEvent, screen, waitFor } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import type { CampaignAnswer } from '../../api/client';
import { api, Refused } from '../../api/client';
import { show } from '../../test/show';
import { CampaignForm } from './CampaignForm';

const campaign = {
  id: 'c1',
  name: 'Bulb Sale',
  value: 'bulb_sale',
  startsOn: '2026-09-01',
  endsOn: '2026-09-30',
  owner: 'Orla Fenwick',
  budget: 1200,
  goal: null,
  attributes: { region: 'vale' },
  advertises: [],
  revision: 2,
} as unknown as CampaignAnswer;

const preview = 'POST /api/v1/campaigns/preview';
const change = 'PUT /api/v1/campaigns/{id}';
const answers = {
  'GET /api/v1/campaign-attributes': { data: [{ name: 'region', values: ['vale', 'coast'] }] },
  [preview]: { data: { value: 'bulb_sale', composed: false, notices: [] } },
};

describe('a campaign', () => {
  it('shows what its links will say while it is written', async () => {
    const sent = show(<CampaignForm onSaved={vi.fn()} />, {
      ...answers,
      [preview]: { data: { value: '2026-11_seed-swap', composed: true, notices: [] } },
      'POST /api/v1/campaigns': { data: { ...campaign, name: 'Seed Swap' } },
    });
    fireEvent.change(screen.getByLabelText('Name'), { target: { value: 'Seed Swap' } });
    expect(await screen.findByText('2026-11_seed-swap')).toBeTruthy();
    fireEvent.change(screen.getByLabelText('First day'), { target: { value: '2026-11-01' } });
    fireEvent.blur(screen.getByLabelText('First day'));
    fireEvent.change(screen.getByLabelText('Budget'), { target: { value: '250.5' } });
    fireEvent.change(screen.getByLabelText('region'), { target: { value: 'coast' } });
    fireEvent.click(screen.getByRole('button', { name: 'Add campaign' }));
    await waitFor(() => expect(sent.some((s) => s.call === 'POST /api/v1/campaigns')).toBe(true));
    expect(sent.find((s) => s.call === 'POST /api/v1/campaigns')?.body).toMatchObject({
      name: 'Seed Swap',
      startsOn: '2026-11-01',
      endsOn: null,
      budget: 250.5,
      attributes: { region: 'coast' },
    });
  });

  it('says how a value will be written where it is not composed', async () => {
    show(<CampaignForm campaign={campaign} onSaved={vi.fn()} />, answers);
    fireEvent.change(await screen.findByLabelText(/^Tags/), { target: { value: 'Bulb Sale' } });
    expect(await screen.findByText('bulb_sale')).toBeTruthy();
  });

  it('somebody else changed in the meantime is shown with what differs, and nothing typed is lost', async () => {
    const theirs = { ...campaign, name: 'Bulb Market', budget: 900, revision: 3 };
    const onSaved = vi.fn();
    const sent = show(<CampaignForm campaign={campaign} onSaved={onSaved} />, answers);
    const quicker = { detail: 'Tomas Birch changed “Bulb Sale” in the meantime.', rule: 'changed-meanwhile', theirs };
    vi.spyOn(api, 'PUT').mockResolvedValueOnce({
      error: quicker,
      response: new Response(null, { status: 409 }),
    } as never);
    fireEvent.change(screen.getByLabelText('Name'), { target: { value: 'Bulb Days' } });
    fireEvent.click(screen.getByRole('button', { name: 'Save campaign' }));
    const alert = await screen.findByRole('alert');
    expect(alert.textContent).toContain('Tomas Birch changed “Bulb Sale” in the meantime.');
    expect(alert.textContent).toContain('Name: yours “Bulb Days”, theirs “Bulb Market”');
    expect(alert.textContent).toContain('Budget: yours “1200”, theirs “900”');
    expect(alert.textContent).not.toContain('Owner');

    vi.spyOn(api, 'PUT').mockResolvedValueOnce({ data: theirs, response: new Response() } as never);
    fireEvent.click(screen.getByRole('button', { name: 'Save mine anyway' }));
    await waitFor(() => expect(onSaved).toHaveBeenCalled());
    expect(vi.mocked(api.PUT).mock.lastCall?.[1]).toMatchObject({ body: { name: 'Bulb Days', revision: 3 } });
    expect(sent.some((s) => s.call === change)).toBe(false);
  });

  it('can be taken as somebody else wrote it', async () => {
    const theirs = { ...campaign, name: 'Bulb Market', revision: 3 };
    show(<CampaignForm campaign={campaign} onSaved={vi.fn()} />, answers);
    const quicker = { detail: 'Changed in the meantime.', rule: 'changed-meanwhile', theirs };
    vi.spyOn(api, 'PUT').mockResolvedValueOnce({
      error: quicker,
      response: new Response(null, { status: 409 }),
    } as never);
    fireEvent.click(screen.getByRole('button', { name: 'Save campaign' }));
    fireEvent.click(await screen.findByRole('button', { name: 'Use theirs' }));
    expect(screen.getByLabelText<HTMLInputElement>('Name').value).toBe('Bulb Market');
    expect(screen.queryByRole('alert')).toBeNull();
  });

  it('is refused with a reason', async () => {
    show(<CampaignForm campaign={campaign} onSaved={vi.fn()} />, {
      ...answers,
      [change]: { refused: 'The last day is before the first.' },
    });
    fireEvent.click(screen.getByRole('button', { name: 'Save campaign' }));
    expect((await screen.findByRole('alert')).textContent).toBe('The last day is before the first.');
    expect(new Refused('x', 422)).toBeInstanceOf(Error);
  });
});
