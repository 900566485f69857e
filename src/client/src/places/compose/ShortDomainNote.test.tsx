import { screen } from '@testing-library/react';
import { expect, it } from 'vitest';
import { show } from '../../test/show';
import { ShortDomainNote } from './ShortDomainNote';

const domain = (more: object) => ({
  id: 'd1',
  host: 'mmr.example',
  first: true,
  usable: true,
  checkedAt: null,
  problem: null,
  ...more,
});
const note = (domains: object[], chosen = '') =>
  show(<ShortDomainNote domain={chosen} />, { 'GET /api/v1/short-domains': { data: domains } });

it('says that nobody has checked the short domain, or that it leads elsewhere', async () => {
  note([domain({})]);
  expect((await screen.findByRole('status')).textContent).toMatch(
    /Nobody has checked yet whether mmr\.example leads here/,
  );
});

it('says that the chosen one leads elsewhere', async () => {
  const there = domain({ checkedAt: '2026-11-01T00:00:00Z' });
  note(
    [there, domain({ ...there, id: 'd2', host: 'posters.example', first: false, problem: 'Away.' })],
    'posters.example',
  );
  expect((await screen.findByRole('status')).textContent).toMatch(/posters\.example doesn’t lead here/);
});

it('says nothing where it leads here', async () => {
  note([domain({ checkedAt: '2026-11-01T00:00:00Z' })]);
  await new Promise((r) => setTimeout(r, 50));
  expect(screen.queryByRole('status')).toBeNull();
});
