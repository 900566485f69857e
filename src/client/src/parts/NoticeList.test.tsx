import { cleanup, render, screen } from '@testing-library/react';
import { afterEach, describe, expect, it, vi } from 'vitest';
import type { Notice } from '../api/client';
import { NoticeList } from './NoticeList';
import { gravest } from './SeverityMark';

afterEach(cleanup);

const stop: Notice = {
  rule: 'word-unknown',
  severity: 'error',
  field: 'utm_medium',
  message: 'Medium: “emial” is not in its word list.',
  repair: { field: 'utm_medium', value: 'email', says: 'Use email' },
};
const note: Notice = {
  rule: 'scheme-added',
  severity: 'info',
  field: null,
  message: 'https:// was put before it.',
  repair: null,
};

describe('notices', () => {
  it('say what is wrong with a mark that has a name, and offer the repair', () => {
    const repair = vi.fn();
    render(<NoticeList notices={[stop, note]} onRepair={repair} />);
    expect(screen.getAllByRole('listitem').map((i) => i.textContent)).toEqual([
      `${stop.message}Use email`,
      note.message,
    ]);
    expect(screen.getAllByRole('img').map((i) => i.getAttribute('aria-label'))).toEqual(['Error', 'Info']);
    screen.getByRole('button', { name: 'Use email' }).click();
    expect(repair).toHaveBeenCalledWith(stop);
  });

  it('offer to repair all alike only where there are several', () => {
    const { rerender } = render(
      <NoticeList notices={[stop]} onRepair={() => {}} onRepairAll={() => {}} alike={() => 1} />,
    );
    expect(screen.queryByRole('button', { name: /Repair all/ })).toBeNull();
    rerender(<NoticeList notices={[stop]} onRepair={() => {}} onRepairAll={() => {}} alike={() => 7} />);
    expect(screen.getByRole('button', { name: 'Repair all 7 like this' })).toBeTruthy();
  });

  it('offer no repair where nobody may do it', () => {
    render(<NoticeList notices={[stop]} />);
    expect(screen.queryByRole('button')).toBeNull();
  });

  it('are as grave as the gravest', () => {
    expect(gravest([note, stop])).toBe('error');
    expect(gravest([note])).toBe('info');
    expect(gravest([])).toBeUndefined();
  });
});
