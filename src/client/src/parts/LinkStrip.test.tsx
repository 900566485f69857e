import { cleanup, render, screen } from '@testing-library/react';
import { Tooltip } from 'radix-ui';
import { afterEach, describe, expect, it, vi } from 'vitest';
import type { ComposeAnswer, Notice, StripSegment } from '../api/client';
import { LinkStrip } from './LinkStrip';

afterEach(cleanup);

const segments: StripSegment[] = [
  { part: 'scheme', text: 'https://', key: null },
  { part: 'host', text: 'marrowmere.example', key: null },
  { part: 'path', text: '/lanterns', key: null },
  { part: 'carried', text: '?x=1', key: null },
  { part: 'field', text: '&utm_source=the_trellis', key: 'utm_source' },
  { part: 'field', text: '&region=north', key: 'region' },
  { part: 'carried', text: '#book', key: null },
];

const field = (key: string, label: string, value: string): ComposeAnswer['fields'][number] => ({
  key,
  label,
  value,
  from: 'placement',
  steps: [],
});
const notice: Notice = { rule: 'word-unknown', severity: 'error', field: 'region', message: 'Unknown.', repair: null };

describe('a link strip', () => {
  it('shows the page, each value with its label, and what stands behind', () => {
    const { container } = render(<LinkStrip segments={segments} labels={{ utm_source: 'Source' }} />);
    const page = 'marrowmere.example/lanterns?x=1';
    expect(container.textContent).toBe(`${page}${page}&the_trellisSource&northregion#book`);
    expect(container.querySelector('.sr-only')!.textContent).toBe(page);
  });

  it('marks only the segment a grave notice is about', () => {
    render(
      <Tooltip.Provider>
        <LinkStrip
          segments={segments}
          fields={[field('utm_source', 'Source', 'the_trellis'), field('region', 'Region', 'north')]}
          notices={[notice, { ...notice, severity: 'info', field: 'utm_source' }]}
        />
      </Tooltip.Provider>,
    );
    expect(screen.getAllByRole('img', { name: 'Error' })).toHaveLength(1);
    expect(screen.getByRole('button', { name: /north/ }).contains(screen.getByRole('img', { name: 'Error' }))).toBe(
      true,
    );
  });

  it('tells which field was picked', () => {
    const picked = vi.fn();
    render(
      <Tooltip.Provider>
        <LinkStrip segments={segments} fields={[field('region', 'Region', 'north')]} onPick={picked} />
      </Tooltip.Provider>,
    );
    screen.getByRole('button', { name: /north/ }).click();
    expect(picked).toHaveBeenCalledWith('region');
  });

  it('shows markup as text', () => {
    const { container } = render(<LinkStrip segments={[{ part: 'field', text: '?a=<b>x</b>', key: 'a' }]} />);
    expect(container.querySelector('b')).toBeNull();
    expect(container.textContent).toContain('<b>x</b>');
  });
});
