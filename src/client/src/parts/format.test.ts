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

  it('read as people write them', () => {
    expect([count(1234567), rate(0.45678), duration(125.4), money({ amount: '1234.50', currency: 'EUR' })]).toEqual([
      '1,234,567',
      '45.7 %',
      '2:05',
      '€1,234.50',
    ]);
  });
});
