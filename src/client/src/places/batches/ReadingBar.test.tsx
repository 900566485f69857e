import { fireEvent, screen, waitFor } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import type { Schema } from '../../api/client';
import { choose, show } from '../../test/show';
import { ReadingBar } from './ReadingBar';

const batch = (reading: object) => ({ id: 'b1', reading }) as unknown as Schema['BatchAnswer'];
const text = batch({
  isWorkbook: false,
  encoding: 'windows1252',
  separator: ';',
  sheet: null,
  sheets: [],
  headingRow: 1,
});
const workbook = batch({
  isWorkbook: true,
  encoding: 'utf8',
  separator: ',',
  sheet: 'Links',
  sheets: ['Links', 'Notes'],
  headingRow: 2,
});
const change = 'PUT /api/v1/batches/{id}/reading';

describe('how a file was read', () => {
  it('is changed one thing at a time, the others as they are', async () => {
    const onRead = vi.fn();
    const sent = show(<ReadingBar batch={text} onRead={onRead} />, { [change]: { data: text } });
    await choose('Separator', 'tabs');
    await waitFor(() => expect(onRead).toHaveBeenCalledWith(text, expect.anything(), undefined, expect.anything()));
    await choose('Encoding', 'UTF-8');
    await waitFor(() => expect(sent).toHaveLength(2));
    expect(sent.map((s) => s.body)).toEqual([
      { encoding: 'windows1252', separator: '\t', sheet: null, headingRow: 1 },
      { encoding: 'utf8', separator: ';', sheet: null, headingRow: 1 },
    ]);
  });

  it('of a workbook is its sheet and the row of headings', async () => {
    const sent = show(<ReadingBar batch={workbook} onRead={vi.fn()} />, { [change]: { data: workbook } });
    expect(screen.queryByLabelText('Encoding')).toBeNull();
    const row = screen.getByLabelText('headings in row');
    fireEvent.blur(row);
    fireEvent.change(row, { target: { value: '0' } });
    fireEvent.blur(row);
    fireEvent.change(row, { target: { value: '3' } });
    fireEvent.blur(row);
    await choose('sheet', 'Notes');
    await waitFor(() => expect(sent).toHaveLength(2));
    expect(sent.map((s) => s.body)).toEqual([
      { encoding: null, separator: null, sheet: 'Links', headingRow: 3 },
      { encoding: null, separator: null, sheet: 'Notes', headingRow: 2 },
    ]);
  });

  it('that can’t be is told with the reason', async () => {
    show(<ReadingBar batch={text} onRead={vi.fn()} />, {
      [change]: { refused: 'A quotation is never closed; see row 4.' },
    });
    await choose('Separator', 'bars');
    expect((await screen.findByRole('alert')).textContent).toBe('A quotation is never closed; see row 4.');
  });
});
