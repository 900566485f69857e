import { expect, it } from 'vitest';
import { changesOf } from './routeChanges';

const plain = { leadsTo: 'https://marrowmere.example/a', paused: false, endsAt: null, fallback: null };

it('says each thing that was changed, and nothing else', () => {
  expect(changesOf(plain, plain)).toEqual([]);
  expect(changesOf(plain, { ...plain, leadsTo: 'https://marrowmere.example/b', paused: true })).toEqual([
    'from https://marrowmere.example/a to https://marrowmere.example/b',
    'paused',
  ]);
  const ending = { ...plain, endsAt: '2026-12-24T18:00:00+00:00', fallback: 'https://marrowmere.example/news' };
  const [ends, fallback] = changesOf(plain, ending);
  expect(ends).toMatch(/^ends .*2026/);
  expect(fallback).toBe('after its end opens https://marrowmere.example/news');
  expect(changesOf(ending, plain)).toEqual(['end removed', 'no page after the end any more']);
  expect(changesOf({ ...plain, paused: true }, plain)).toEqual(['resumed']);
});

it('says what else a link can do', () => {
  const turns = [{ leadsTo: '/app', from: '2026-12-24T18:00', until: null, device: 'phone' }];
  expect(
    changesOf(plain, { ...plain, mostUses: 1200, turns, permanent: true, withoutTags: true, carries: 'keepTags' }),
  ).toEqual([
    'ends after 1,200 uses',
    '/app from 2026-12-24 18:00 on a phone',
    'redirects permanently (301); browsers remember it',
    'sends no tags',
    'parameters behind it are added; existing ones stay',
  ]);
  expect(changesOf({ ...plain, turns }, plain)).toEqual(['no redirect rules any more']);
});
