import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { choose, show } from '../../test/show';
import { Changes } from './Changes';
import { differencesOf, kindName } from './changes';

describe('what differs', () => {
  it.each([
    [{ name: 'a', largestValue: 5 }, { name: 'a', largestValue: 6 }, ['largest value: 5 → 6']],
    [null, { name: 'a', hosts: ['x', 'y'], stoppedAt: null }, ['name:  → a', 'hosts:  → x, y']],
    [{ shared: true, note: '' }, null, ['shared: yes → ']],
    [
      { route: { leadsTo: 'x', paused: false } },
      { route: { leadsTo: 'y', paused: false } },
      ['route: leads to x; paused no → leads to y; paused no'],
    ],
    ['plain', 'other', ['value: plain → other']],
    [{ a: [] }, { a: null }, []],
  ])('between %j and %j', (before, after, says) =>
    expect(differencesOf(before, after).map((d) => `${d.key}: ${d.before ?? ''} → ${d.after ?? ''}`)).toEqual(says),
  );

  it('has a name for every kind', () => {
    expect(kindName('link-route')).toBe('where a link leads');
    expect(kindName('partner-page')).toBe('partner page');
  });
});

const change = (id: string, more: object = {}) => ({
  id,
  at: '2026-11-30T10:00:00Z',
  who: 'Orla Fenwick',
  what: 'site',
  thingId: 't1',
  together: null,
  before: { largestValue: 5 },
  after: { largestValue: 6 },
  ...more,
});

describe('changes', () => {
  it('are shown a page after the other, narrowed by who and what', async () => {
    let asked: Record<string, unknown> | undefined;
    show(<Changes tabs={null} />, {
      'GET /api/v1/changes': (sent) => {
        asked = sent.query;
        return sent.query?.olderThan
          ? {
              changes: [change('c2', { who: 'Tomas Birch', before: null, together: 'x' })],
              next: null,
              people: [],
              kinds: [],
            }
          : {
              changes: [change('c1')],
              next: 'c1',
              people: ['Orla Fenwick', 'Tomas Birch'],
              kinds: ['link-route', 'site'],
            };
      },
    });
    const table = await screen.findByRole('table', { name: 'Changes' });
    await waitFor(() => expect(within(table).getAllByRole('row')[1]!.textContent).toContain('largest value: 5 → 6'));
    fireEvent.click(screen.getByRole('button', { name: 'Show older changes' }));
    await screen.findByText('· new, with others');
    expect(asked).toEqual({ olderThan: 'c1' });
    await choose('By', 'Tomas Birch');
    await waitFor(() => expect(asked).toEqual({ who: 'Tomas Birch' }));
    await choose('What', 'where a link leads');
    await waitFor(() => expect(asked).toEqual({ who: 'Tomas Birch', what: 'link-route' }));
    expect(screen.getByRole('link', { name: 'Export as CSV' }).getAttribute('href')).toBe(
      '/api/v1/changes.csv?who=Tomas+Birch&what=link-route',
    );
  });

  it('are for owners alone', () => {
    show(<Changes tabs={null} />, {}, 'editor');
    expect(screen.getByText('Only owners see who changed what.')).toBeTruthy();
  });
});
