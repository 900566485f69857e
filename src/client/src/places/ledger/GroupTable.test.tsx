import { fireEvent, screen } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { show } from '../../test/show';
import { GroupTable } from './GroupTable';

const groups = 'GET /api/v1/links/groups';

describe('links in groups', () => {
  it('say how many there are and how often they were used, and lead to them', async () => {
    const onOpen = vi.fn();
    show(<GroupTable by="campaign" asked={{ state: 'live' }} onOpen={onOpen} />, {
      [groups]: ({ query }) => {
        expect(query).toEqual({ state: 'live', by: 'campaign' });
        return [
          { key: 'c1', name: 'Bulb Sale', links: 1_200, uses: 34_567 },
          { key: null, name: 'No campaign', links: 3, uses: 0 },
        ];
      },
    });
    fireEvent.click(await screen.findByRole('button', { name: 'Bulb Sale' }));
    expect(onOpen).toHaveBeenCalledWith('c1');
    const rows = screen.getAllByRole('row').slice(1);
    expect(rows.map((r) => r.textContent)).toEqual(['Bulb Sale1,20034,567', 'No campaign30']);
    expect(screen.queryByRole('button', { name: 'No campaign' })).toBeNull();
  });

  it('say so where there are none', async () => {
    show(<GroupTable by="topic" asked={{}} onOpen={vi.fn()} />);
    expect(await screen.findByText(/None of the found links belongs to such a group/)).toBeTruthy();
  });

  it('say what is wrong', async () => {
    show(<GroupTable by="colour" asked={{}} onOpen={vi.fn()} />, {
      [groups]: { refused: 'Links are not grouped by “colour”.' },
    });
    expect(await screen.findByText('Links are not grouped by “colour”.')).toBeTruthy();
  });
});
