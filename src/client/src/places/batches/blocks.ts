import Papa from 'papaparse';

/** Cells as they come from another program's clipboard: lines of cells between tabs. */
export function cellsOf(text: string): string[][] {
  const read = Papa.parse<string[]>(text.replace(/\r?\n$/, ''), { delimiter: '\t' });
  return read.data;
}

/** Cells as other programs take them from the clipboard. */
export function textOf(cells: string[][]): string {
  return Papa.unparse(cells, { delimiter: '\t', newline: '\r\n' });
}

/** A block repeated from its first line until it has as many lines as wanted. */
export function repeated<T>(block: T[], lines: number): T[] {
  return Array.from({ length: lines }, (_, i) => block[i % block.length]!);
}

/** From the smaller to the larger of two places, both included. */
export function span(a: number, b: number): [number, number] {
  return a < b ? [a, b] : [b, a];
}
