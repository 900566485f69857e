import { describe, expect, it } from 'vitest';
import { usualColumns, usualStations } from '../../parts/board/measures';
import { measuresOf, viewOf } from './view';

const of = (address: string) => viewOf(new URLSearchParams(address), '2026-11-29');

describe('a view', () => {
  it('is the usual one where the address is empty', () => {
    expect(of('')).toEqual({
      range: { from: '2026-10-31', to: '2026-11-29' },
      span: '30d',
      compare: '',
      rows: ['campaign', 'source', 'medium'],
      where: [],
      stations: usualStations,
      columns: usualColumns,
      sort: null,
      search: '',
      credit: null,
      steps: [],
      page: 1,
      size: 50,
      part: 'board',
      plain: false,
      tall: false,
    });
  });

  it('is all in the address', () => {
    const view = of(
      'span=7d&compare=before&rows=source&where=device:is:phone&stations=visits,revenue&columns=&sort=-revenue&search=x&page=3&size=25&part=visits&plain=1&tall=1',
    );
    expect(view).toMatchObject({
      range: { from: '2026-11-23', to: '2026-11-29' },
      compare: 'before',
      rows: ['source'],
      where: ['device:is:phone'],
      stations: ['visits', 'revenue'],
      columns: [],
      sort: '-revenue',
      search: 'x',
      page: 3,
      size: 25,
      part: 'visits',
      plain: true,
      tall: true,
    });
    expect(measuresOf(view)).toBe('visits,revenue,conversionRate');
  });

  it.each(['stations=nothing', 'stations=bounceRate', 'sort=-magic', 'size=7', 'page=-1', 'page=x', 'part=shelf'])(
    'does not fall over %s',
    (address) => expect({ ...of(address) }).toEqual(of('')),
  );
});
