// @vitest-environment jsdom
import { describe, expect, it } from 'vitest';
import { fileName } from './handOut';
import { pictureOf } from './picture';

/** Gives every box the same place, since nothing is laid out here. */
function placed(html: string): Element {
  document.body.innerHTML = html;
  const box = {
    left: 0,
    top: 0,
    right: 200,
    bottom: 40,
    width: 200,
    height: 40,
    x: 0,
    y: 0,
    toJSON: () => '',
  } as DOMRect;
  Element.prototype.getBoundingClientRect = () => box;
  Range.prototype.getBoundingClientRect = () => box;
  return document.body.firstElementChild!;
}

const parsed = (svg: string) => new DOMParser().parseFromString(svg, 'image/svg+xml');

describe('a picture', () => {
  it('has what is written and what is drawn, under a headline', () => {
    const chart = placed('<div>Visits &amp; more<svg><circle r="4" class="fill-accent"></circle></svg></div>');
    const { svg, width, height } = pictureOf('Arrivals <1>', [chart]);
    const document = parsed(svg);
    expect(document.querySelector('parsererror')).toBeNull();
    expect([...document.querySelectorAll('text')].map((t) => t.textContent)).toEqual(['Arrivals <1>', 'Visits & more']);
    const circle = document.querySelector('circle')!;
    expect([circle.getAttribute('r'), circle.hasAttribute('class')]).toEqual(['4', false]);
    expect([width, height]).toEqual([352, 106]);
  });

  it('leaves out what is not seen', () => {
    const { svg } = pictureOf('A', [
      placed('<div><p style="display:none">Hidden</p><p style="visibility:hidden">Gone</p></div>'),
    ]);
    expect(parsed(svg).querySelectorAll('text')).toHaveLength(1);
  });

  it('stacks charts', () => {
    const chart = placed('<div>A</div>');
    expect(pictureOf('A', [chart, chart]).height).toBe(156);
  });
});

it('is named by its title', () => {
  expect(fileName('Arrivals, 1 Nov 2026 to 30 Nov 2026', 'png')).toBe('arrivals-1-nov-2026-to-30-nov-2026.png');
  expect(fileName('***', 'svg')).toBe('picture.svg');
});
