import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { act, cleanup, fireEvent, render, screen } from '@testing-library/react';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { api } from '../../api/client';
import { BatchGrid } from './BatchGrid';

const row = (number: number, overrides: Record<string, string> = {}) => ({
  number,
  cells: [`page ${number}`],
  overrides,
  asked: { destination: `https://marrowmere.example/${number}`, placement: '', campaign: '' },
  outcome: 'new',
  earlier: null,
  url: null,
  strip: [],
  values: { utm_source: 'trellis' },
  notices: [],
  linkId: null,
});
const targets = [
  { key: 'destination', label: 'Page', otherwise: '' },
  { key: 'placement', label: 'Placement', otherwise: '' },
  { key: 'campaign', label: 'Campaign', otherwise: '' },
];

beforeEach(() => {
  // A grid without a height shows nothing; here it is tall enough for all rows.
  vi.spyOn(Element.prototype, 'clientHeight', 'get').mockReturnValue(600);
  vi.spyOn(Element.prototype, 'clientWidth', 'get').mockReturnValue(1200);
});

afterEach(() => {
  cleanup();
  vi.restoreAllMocks();
});

async function grid(rows: ReturnType<typeof row>[]) {
  vi.spyOn(api, 'GET').mockResolvedValue({ data: { rows, total: rows.length }, response: new Response() } as never);
  const onType = vi.fn();
  const onStep = vi.fn();
  const onSay = vi.fn();
  const batch = { id: 'b', columns: ['Page'], total: rows.length } as never;
  render(
    <QueryClientProvider client={new QueryClient()}>
      <BatchGrid
        batch={batch}
        view={{}}
        total={rows.length}
        labels={{}}
        targets={targets}
        known={{}}
        selected={null}
        mayType
        version="1"
        onOpen={vi.fn()}
        onSort={vi.fn()}
        onType={onType}
        onStep={onStep}
        onSay={onSay}
      />
    </QueryClientProvider>,
  );
  const cell = async (column: string, number: number) =>
    screen.findByRole('gridcell', { name: new RegExp(`^${column}, row ${number}:`) });
  const choose = async (column: string, number: number, shiftKey = false) =>
    fireEvent.pointerDown(await cell(column, number), { button: 0, shiftKey });
  return { cell, choose, onType, onStep, onSay, box: screen.getByRole('grid') };
}

it('pastes a block from where it begins, line by line', async () => {
  const { choose, box, onType } = await grid([row(1), row(2), row(3)]);
  await choose('Placement', 2);
  await act(async () => {
    fireEvent.paste(box, { clipboardData: { getData: () => 'Leaflets\tSeed Swap\r\nPoster\t\r\n' } });
  });
  await vi.waitFor(() => expect(onType).toHaveBeenCalled());
  expect(onType.mock.calls[0]).toEqual([
    [
      { number: 2, values: { placement: 'Leaflets', campaign: 'Seed Swap' } },
      { number: 3, values: { placement: 'Poster', campaign: null } },
    ],
    'pasting into 2 rows',
  ]);
});

it('fills the first chosen row into those below it, and takes values away', async () => {
  const { choose, box, onType, onSay } = await grid([row(1, { placement: 'Leaflets' }), row(2), row(3)]);
  await choose('Placement', 1);
  fireEvent.keyDown(box, { key: 'd', ctrlKey: true });
  await vi.waitFor(() => expect(onSay).toHaveBeenCalledWith(expect.stringContaining('Select the rows to fill first')));
  await choose('Placement', 3, true);
  fireEvent.keyDown(box, { key: 'd', ctrlKey: true });
  await vi.waitFor(() => expect(onType).toHaveBeenCalled());
  expect(onType.mock.calls[0]![0]).toEqual([
    { number: 2, values: { placement: 'Leaflets' } },
    { number: 3, values: { placement: 'Leaflets' } },
  ]);
  fireEvent.keyDown(box, { key: 'Delete' });
  await vi.waitFor(() => expect(onType).toHaveBeenCalledTimes(2));
  expect(onType.mock.calls[1]![0]).toEqual([1, 2, 3].map((number) => ({ number, values: { placement: null } })));
});

it('fills a single row from the one above, and chooses to the end by keys', async () => {
  const { choose, box, onType } = await grid([row(1, { placement: 'Leaflets' }), row(2), row(3)]);
  await choose('Placement', 2);
  fireEvent.keyDown(box, { key: 'd', ctrlKey: true });
  await vi.waitFor(() => expect(onType).toHaveBeenCalledTimes(1));
  expect(onType.mock.calls[0]).toEqual([[{ number: 2, values: { placement: 'Leaflets' } }], 'filling 1 row']);
  await choose('Placement', 1);
  fireEvent.keyDown(box, { key: 'End', ctrlKey: true, shiftKey: true });
  fireEvent.keyDown(box, { key: 'd', ctrlKey: true });
  await vi.waitFor(() => expect(onType).toHaveBeenCalledTimes(2));
  expect((onType.mock.calls[1]![0] as { number: number }[]).map((r) => r.number)).toEqual([2, 3]);
});

it('undoes and redoes by key, and never pastes where only the row is chosen', async () => {
  const { box, onStep, onType, cell } = await grid([row(1)]);
  await cell('Page', 1);
  fireEvent.keyDown(box, { key: 'z', ctrlKey: true });
  fireEvent.keyDown(box, { key: 'y', ctrlKey: true });
  fireEvent.keyDown(box, { key: 'Z', ctrlKey: true, shiftKey: true });
  expect(onStep.mock.calls.map(([back]) => back as boolean)).toEqual([true, false, false]);
  fireEvent.paste(box, { clipboardData: { getData: () => 'x' } });
  expect(onType).not.toHaveBeenCalled();
});

it('keeps the focus with whoever types before the next frame', async () => {
  const { choose, box, onType } = await grid([row(1), row(2), row(3)]);
  const frames: FrameRequestCallback[] = [];
  vi.spyOn(window, 'requestAnimationFrame').mockImplementation((frame) => frames.push(frame));
  await choose('Placement', 2);
  fireEvent.keyDown(box, { key: 'L' });
  const editor = screen.getByRole('textbox', { name: 'Placement, row 2' });
  editor.focus();
  act(() => frames.forEach((frame) => frame(0)));
  expect(document.activeElement).toBe(editor);
  expect(onType).not.toHaveBeenCalled();
});
