import { count } from '../format';

interface RefusedRowsProps {
  /** The first rows left out. */
  rows: readonly { number: number; says: string }[];
  /** How many are left out in all. */
  all: number;
}

/** How many rows. */
export const rowsOf = (n: number) => `${count(n)} ${n === 1 ? 'row' : 'rows'}`;

/** The rows of a file that are left out, with why. */
export function RefusedRows({ rows, all }: RefusedRowsProps) {
  return (
    <>
      {rows.length > 0 && (
        <table aria-label="Rows left out" className="w-full">
          <thead className="text-left text-xs text-quiet">
            <tr>
              <th className="w-16 font-medium">Row</th>
              <th className="font-medium">Left out, because</th>
            </tr>
          </thead>
          <tbody>
            {rows.map((row) => (
              <tr key={row.number} className="border-t border-line">
                <td className="py-1 tabular-nums">{row.number}</td>
                <td className="py-1">{row.says}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {all > rows.length && <p className="text-quiet">and {rowsOf(all - rows.length)} more</p>}
    </>
  );
}
