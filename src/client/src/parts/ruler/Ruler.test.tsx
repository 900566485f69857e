import { fireEvent, screen, within } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { show } from '../../test/show';
import { Ruler } from './Ruler';
import { extentOf } from './rulerScale';

const today = '2026-11-29';
const range = { from: '2026-11-01', to: '2026-11-20' };

function ruler(more: Partial<Parameters<typeof Ruler>[0]> = {}) {
  const onRange = vi.fn();
  show(
    <Ruler
      extent={extentOf(range, null, today)}
      counts="Visits"
      points={
        new Map([
          ['2026-11-02', 40],
          ['2026-11-03', 10],
        ])
      }
      range={range}
      today={today}
      onRange={onRange}
      {...more}
    />,
  );
  return onRange;
}

describe('a ruler', () => {
  it('reads as a table', () => {
    ruler();
    const table = screen.getByRole('table', { name: 'Visits by day' });
    const row = within(table).getByRole('rowheader', { name: '2 Nov 2026' }).closest('tr')!;
    expect(row.textContent).toBe('2 Nov 202640');
    expect(within(table).getAllByRole('row')).toHaveLength(120);
  });

  it('begins its bars at zero', () => {
    ruler();
    const tall = (day: string) =>
      Number(
        screen
          .getByText(new RegExp(`^${day}: `))
          .closest('rect')!
          .getAttribute('height'),
      );
    expect(tall('3 Nov 2026') / tall('2 Nov 2026')).toBeCloseTo(0.25);
    expect(tall('4 Nov 2026')).toBe(0);
  });

  it('moves the range with the arrow keys, and stretches it with Shift', () => {
    const onRange = ruler();
    const slider = screen.getByRole('slider');
    expect(slider.getAttribute('aria-valuetext')).toBe('1 Nov 2026 to 20 Nov 2026');
    fireEvent.keyDown(slider, { key: 'ArrowLeft' });
    expect(onRange).toHaveBeenLastCalledWith({ from: '2026-10-31', to: '2026-11-19' });
    fireEvent.keyDown(slider, { key: 'ArrowRight', shiftKey: true });
    expect(onRange).toHaveBeenLastCalledWith({ from: '2026-11-01', to: '2026-11-21' });
  });

  it('names what ran, and what happened on a day', () => {
    ruler({
      bars: [
        { id: '1', name: 'Seed Swap', startsOn: '2026-10-01', endsOn: '2026-11-05' },
        { id: '2', name: 'Years ago', startsOn: '2020-01-01', endsOn: '2020-02-01' },
      ],
      notes: [{ day: '2026-11-03', text: 'Server moved' }],
    });
    expect(screen.getAllByText('Seed Swap').length).toBeGreaterThan(0);
    expect(screen.queryByText('Years ago')).toBeNull();
    expect(screen.getByRole('button', { name: 'Note on 3 Nov 2026: Server moved' })).toBeTruthy();
  });

  it('can only be looked at where nobody asks for another range', () => {
    ruler({ onRange: undefined });
    expect(screen.queryByRole('slider')).toBeNull();
  });
});
