import { fireEvent, screen } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import type { ComposeRequest } from '../../api/client';
import { choose, optionsOf, show } from '../../test/show';
import { SlugChoice } from './SlugChoice';

const request: ComposeRequest = {
  destination: 'https://marrowmere.example/whats-on/moth-evening',
  campaign: 'Bulb Sale',
  placement: 'Gate poster',
};
const look = 'GET /api/v1/slugs/check';
const domains = {
  data: [
    { id: 'd1', host: 'mmr.example', first: true, usable: true },
    { id: 'd2', host: 'posters.example', first: false, usable: true },
  ],
};

function choice(slug: string, answers: Parameters<typeof show>[1], codeSlug = '') {
  const onChange = vi.fn();
  const onDomain = vi.fn();
  const onCodeSlug = vi.fn();
  show(
    <SlugChoice
      slug={slug}
      onChange={onChange}
      codeSlug={codeSlug}
      onCodeSlug={onCodeSlug}
      domain=""
      onDomain={onDomain}
      request={request}
    />,
    answers,
  );
  return { onChange, onCodeSlug, onDomain };
}

describe('the slug of a short link', () => {
  it('is chosen from free ideas made of page and placement', async () => {
    const { onChange } = choice('', {
      [look]: ({ query }) => {
        expect(query).toMatchObject({ page: request.destination, campaign: 'Bulb Sale', placement: 'Gate poster' });
        return { problem: null, alike: [], ideas: ['moth-evening', 'moth-evening-gate'] };
      },
    });
    fireEvent.click(await screen.findByRole('button', { name: 'moth-evening-gate' }));
    expect(onChange).toHaveBeenCalledWith('moth-evening-gate');
  });

  it('that is taken is told with its reason', async () => {
    choice('fern', { [look]: { data: { problem: '“fern” belongs to another link.', alike: ['fem'], ideas: [] } } });
    expect((await screen.findByRole('alert')).textContent).toContain('belongs to another link');
    expect(screen.queryByRole('status')).toBeNull();
  });

  it('that looks like another one is told, and may be taken', async () => {
    choice('corner', { [look]: { data: { problem: null, alike: ['comer', 'c0rner'], ideas: [] } } });
    expect((await screen.findByRole('status')).textContent).toContain('Easily confused with “comer”, “c0rner”');
  });

  it('can be chosen for the QR code as well, each its own', async () => {
    const { onCodeSlug } = choice('fern', { [look]: { data: { problem: null, alike: [], ideas: [] } } }, 'Fern ');
    expect((await screen.findAllByRole('alert')).map((a) => a.textContent)).toEqual([
      'The short link and the QR code each need a slug of their own.',
      'The short link and the QR code each need a slug of their own.',
    ]);
    fireEvent.change(screen.getByLabelText('Slug in the QR code'), { target: { value: 'fern-gate' } });
    expect(onCodeSlug).toHaveBeenCalledWith('fern-gate');
  });

  it('stands where the placement says, or on another domain', async () => {
    const { onDomain } = choice('', {
      [look]: { data: { problem: null, alike: [], ideas: [] } },
      'GET /api/v1/short-domains': domains,
    });
    await screen.findByLabelText(/Short domain for all links here/);
    expect(await optionsOf(/Short domain for all links here/)).toEqual([
      'the placement’s own, else mmr.example',
      'mmr.example',
      'posters.example',
    ]);
    await choose(/Short domain for all links here/, 'posters.example');
    expect(onDomain).toHaveBeenCalledWith('posters.example');
  });

  it('has no choice of domains where there is but one', async () => {
    choice('', {
      [look]: { data: { problem: null, alike: [], ideas: ['fern'] } },
      'GET /api/v1/short-domains': { data: domains.data.slice(0, 1) },
    });
    await screen.findByRole('button', { name: 'fern' });
    expect(screen.queryByRole('combobox')).toBeNull();
  });
});
