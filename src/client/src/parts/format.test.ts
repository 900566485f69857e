import { describe, expect, it } from 'vitest';
import { count, duration, money, noFigure, rate } from './format';

describe('figures', () => {
  it('that can not be given are a dash, never a zero', () => {
    expect([rate(null), money(null), duration(null), rate(undefined)]).toEqual([
      noFigure,
      noFigure,
      noFigure,
      noFigure,
    ]);
    expect([rate(0), duration(0), money({ amount: '0.00', currency: 'EUR' })]).toEqual(['0.0 %', '0:00', '€0.00']);
  });

  it('round an exact half to the even digit', () => {
    expect([0.0625, 0.0635, 0.0005, 0.0015, 0.1445, 0.06251, 12].map(rate)).toEqual([
      '6.2 %',
      '6.4 %',
      '0.0 %',
      '0.2 %',
      '14.4 %',
      '6.3 %',
      '1200.0 %',
    ]);
  });

  it('read as people write them', () => {
    expect([count(1234567), rate(0.45678), duration(125.4), money({ amount: '1234.50', currency: 'EUR' })]).toEqual([
      '1,234,567',
      '45.7 %',
      '2:05',
      '€1,234.50',
    ]);
  });
});

it('money has the decimals the server gives it', () => {
  expect([
    money({ amount: '1250', currency: 'JPY' }),
    money({ amount: '12.50', currency: 'HUF' }),
    money({ amount: '1.500', currency: 'KWD' }),
  ]).toEqual(['JP¥1,250', 'HUF\u00a012.50', 'KWD\u00a01.500']);
});
