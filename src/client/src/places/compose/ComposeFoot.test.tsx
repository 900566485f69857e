import { cleanup, fireEvent, render, screen } from '@testing-library/react';
import { afterEach, expect, it, vi } from 'vitest';
import { ComposeFoot } from './ComposeFoot';

afterEach(cleanup);

function foot(ready: number, existing: number) {
  const calls = { onSave: vi.fn(), onSaveAgain: vi.fn() };
  const none = vi.fn();
  render(
    <ComposeFoot
      ready={ready}
      existing={existing}
      stopped={0}
      saved={0}
      removed={0}
      ticked={0}
      message=""
      progress={null}
      maySave
      canSave
      {...calls}
      onPutBack={none}
      onUntick={none}
      onCopyLines={none}
      onCopyTable={none}
    />,
  );
  return calls;
}

it('offers links that exist already first, and saving them again beside it', () => {
  const calls = foot(12, 10);
  fireEvent.click(screen.getByText('Use 10 existing links, save 2'));
  fireEvent.click(screen.getByText('Save all 12 again'));
  expect([calls.onSave.mock.calls.length, calls.onSaveAgain.mock.calls.length]).toEqual([1, 1]);
});

it.each([
  [1, 1, 'Use the existing link'],
  [3, 3, 'Use 3 existing links'],
  [4, 0, 'Save 4'],
])('says what its button does with %i ready and %i existing', (ready, existing, says) => {
  foot(ready, existing);
  expect(screen.getByText(says)).toBeTruthy();
  expect(screen.queryByText(/again/) !== null).toBe(existing > 0);
});
