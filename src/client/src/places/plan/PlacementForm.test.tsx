import { fireEvent, screen, waitFor } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import type { PlacementAnswer } from '../../api/client';
import { choose, optionsOf, show } from '../../test/show';
import { PlacementForm } from './PlacementForm';

const byMedium = { subject: 'medium', test: 'is', values: ['qr'] };
const placement = {
  id: 'p1',
  name: 'Gate poster',
  channel: 'Print and codes',
  publisher: null,
  defaults: { utm_source: 'gate_poster' },
  asks: [],
  toolWrites: {},
  tags: ['poster'],
  useDays: [],
  useForm: null,
  style: null,
  shareForm: null,
  costPerClick: null,
  fixedCost: 60,
  shortDomain: null,
  revision: 4,
} as unknown as PlacementAnswer;

const answers = {
  'GET /api/v1/convention/fields': { data: [] },
  'GET /api/v1/convention': {
    data: {
      document: {
        channels: [
          { name: 'Print and codes', conditions: [byMedium] },
          { name: 'Partners', conditions: [byMedium] },
          { name: 'Direct', conditions: [] },
        ],
      },
    },
  },
  'GET /api/v1/short-domains': {
    data: [
      { id: 'd1', host: 'mmr.example', first: true, usable: true },
      { id: 'd2', host: 'posters.example', first: false, usable: true },
      { id: 'd3', host: 'new.example', first: false, usable: false },
    ],
  },
};

describe('a placement', () => {
  it('stands on a short domain of its own where there are several', async () => {
    const onSaved = vi.fn();
    const sent = show(<PlacementForm placement={placement} onSaved={onSaved} />, {
      ...answers,
      'PUT /api/v1/placements/{id}': { data: placement },
    });
    await screen.findByLabelText('Short domain');
    expect(await optionsOf('Short domain')).toEqual([
      'workspace default: mmr.example',
      'mmr.example',
      'posters.example',
    ]);
    await choose('Short domain', 'posters.example');
    fireEvent.click(screen.getByRole('button', { name: 'Save placement' }));
    await waitFor(() => expect(onSaved).toHaveBeenCalledWith(placement));
    expect(sent[0]).toMatchObject({
      call: 'PUT /api/v1/placements/{id}',
      path: { id: 'p1' },
      body: { name: 'Gate poster', shortDomain: 'd2', fixedCost: 60, revision: 4, tags: ['poster'] },
    });
  });

  it('is given what follows from its channel, until something else is typed', async () => {
    const onSaved = vi.fn();
    const field = (key: string, label: string, means: string) => ({ key, label, means, kind: 'text', words: [] });
    const sent = show(<PlacementForm name="Board" onSaved={onSaved} />, {
      ...answers,
      'GET /api/v1/convention/fields': {
        data: [field('utm_source', 'Source', 'source'), field('utm_medium', 'Medium', 'medium')],
      },
      'GET /api/v1/placements/defaults': ({ query }) => ({
        defaults: query?.channel === 'Partners' ? { utm_source: 'board', utm_medium: 'partner' } : { utm_medium: 'qr' },
      }),
      'POST /api/v1/placements': { data: placement },
    });
    await waitFor(async () => expect(await optionsOf('Channel')).toContain('Partners'));
    await choose('Channel', 'Print and codes');
    const medium = () => screen.getByLabelText<HTMLInputElement>('Default Medium').value;
    await waitFor(() => expect(medium()).toBe('qr'));
    await choose('Channel', 'Partners');
    await waitFor(() => expect(medium()).toBe('partner'));
    fireEvent.change(screen.getByLabelText('Default Source'), { target: { value: 'vale board' } });
    fireEvent.click(screen.getByRole('button', { name: 'Add placement' }));
    await waitFor(() => expect(onSaved).toHaveBeenCalled());
    expect(sent.at(-1)).toMatchObject({ body: { defaults: { utm_source: 'vale board', utm_medium: 'partner' } } });
  });

  it('is not asked for a domain where there is but one', async () => {
    show(<PlacementForm placement={placement} onSaved={vi.fn()} />, {
      ...answers,
      'GET /api/v1/short-domains': { data: answers['GET /api/v1/short-domains'].data.slice(0, 1) },
    });
    await waitFor(async () => expect(await optionsOf('Channel')).toContain('Partners'));
    expect(screen.queryByLabelText('Short domain')).toBeNull();
  });

  it('that is refused keeps what was typed', async () => {
    show(<PlacementForm placement={placement} onSaved={vi.fn()} />, {
      ...answers,
      'PUT /api/v1/placements/{id}': { refused: 'There is a placement “North gate” already.' },
    });
    fireEvent.change(screen.getByDisplayValue('Gate poster'), { target: { value: 'North gate' } });
    fireEvent.click(screen.getByRole('button', { name: 'Save placement' }));
    expect(await screen.findByText('There is a placement “North gate” already.')).toBeTruthy();
    expect(screen.getByDisplayValue('North gate')).toBeTruthy();
  });
});
