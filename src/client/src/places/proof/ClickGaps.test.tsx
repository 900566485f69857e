import { fireEvent, screen, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { show } from '../../test/show';
import { Proof } from './Proof';

const gap = (title: string, expected: number, measured: number, verdict: string, more: object = {}) => ({
  linkId: title,
  title,
  expected,
  measured,
  withoutClick: 0,
  gap: (expected - measured) / expected,
  verdict,
  causes: [],
  ...more,
});

const lost = gap('Leaflet', 100, 60, 'finding', {
  withoutClick: 3,
  causes: [
    { kind: 'tagsLost', visits: 30, says: '30 of the missing visits arrived without the link’s tags.' },
    { kind: 'programs', visits: 10, says: '10 of the missing visits are of programs.' },
  ],
});

const shown = (links: object[]) =>
  show(
    <Proof />,
    {
      'GET /api/v1/click-gaps': {
        data: { findings: 1, ordinary: 1, quiet: 0, tooFew: 1, rawFrom: null, links },
      },
    },
    'owner',
    '/proof?part=gaps',
  );

describe('clicks and visits', () => {
  it('stand side by side with the gap and its most likely cause', async () => {
    shown([lost, gap('Poster', 200, 170, 'ordinary'), gap('Label', 4, 1, 'tooFew')]);
    expect(await screen.findByText('28 days: 1 link to look into, 1 ordinary, 0 small, 1 too few')).toBeTruthy();
    const rows = within(screen.getByRole('table')).getAllByRole('row').slice(1);
    expect(rows.map((r) => r.textContent)).toEqual([
      'Leaflet1006040.0 %Tags lost on the way',
      'Poster20017015.0 %ordinary',
      'Label4175.0 %too few clicks to tell',
    ]);
  });

  it('have their causes with what speaks for each', async () => {
    shown([lost]);
    fireEvent.click(await screen.findByRole('button', { name: 'Leaflet: look into it' }));
    const causes = within(screen.getByRole('list', { name: 'Likely causes' })).getAllByRole('listitem');
    expect(causes.map((c) => c.textContent)).toEqual([
      'Tags lost on the way 3030 of the missing visits arrived without the link’s tags.',
      'Programs 1010 of the missing visits are of programs.',
    ]);
    expect(screen.getByText(/100 visits expected from clicks, 60 measured, 40 missing \(40.0 %\)/)).toBeTruthy();
    expect(screen.getByText('3 more visits with its tags came without the short link and stand apart.')).toBeTruthy();
    fireEvent.keyDown(document.body, { key: 'Escape' });
    expect(screen.queryByRole('list', { name: 'Likely causes' })).toBeNull();
  });

  it('say what is due before anybody clicked', async () => {
    shown([]);
    expect(await screen.findByText(/Nobody has clicked a short link/)).toBeTruthy();
  });
});
