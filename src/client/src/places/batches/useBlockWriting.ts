import { repeated } from './blocks';
import { cellOf } from './cells';
import type { Target } from './recipe';
import type { Row } from './useRows';

export interface TypedRow {
  number: number;
  values: Record<string, string | null>;
}

interface Given {
  rows: { between: (start: number, end: number) => Promise<Row[]> };
  /** Rows that are shown. */
  total: number;
  /** First and last row of what is chosen. */
  top: number;
  bottom: number;
  /** Columns of what is chosen. */
  columns: Target[];
  onType: (rows: TypedRow[], says: string) => void;
  onSay: (message: string) => void;
}

const mostTyped = 5_000;

/** Writes and fills blocks of cells. */
export function useBlockWriting({ rows, total, top, bottom, columns, onType, onSay }: Given) {
  /** Values for a stretch of shown rows, wherever they stand in the sheet. */
  async function write(start: number, lines: (string | null)[][], keys: Target[], says: string) {
    const end = Math.min(total, start + lines.length) - 1;
    if (end - start >= mostTyped) {
      onSay(
        `At most ${mostTyped.toLocaleString('en')} rows can be typed into at once; for more, use a column or a value for all rows.`,
      );
      return;
    }
    const found = await rows.between(start, end);
    onType(
      found.map((row, i) => ({
        number: row.number,
        values: Object.fromEntries(keys.slice(0, lines[i]!.length).map((k, c) => [k.key, lines[i]![c] || null])),
      })),
      says,
    );
  }

  async function fill(to: number) {
    const block = (await rows.between(top, bottom)).map((row) => columns.map((t) => cellOf(row, t.key).text || null));
    const count = to - bottom;
    if (count > 0)
      await write(bottom + 1, repeated(block, count), columns, `filling ${count.toLocaleString('en')} rows`);
  }

  /** Fill down within what is chosen: its first row goes into all below. A single row takes what stands above it. */
  async function fillDown() {
    const from = bottom > top ? top : top - 1;
    if (from < 0) {
      onSay('Select the rows to fill first: hold Shift and press the down arrow, or drag the corner.');
      return;
    }
    const first = (await rows.between(from, from)).map((row) => columns.map((t) => cellOf(row, t.key).text || null));
    const count = bottom - from;
    await write(
      from + 1,
      repeated(first, count),
      columns,
      `filling ${count.toLocaleString('en')} ${count === 1 ? 'row' : 'rows'}`,
    );
  }

  return { write, fill, fillDown };
}
