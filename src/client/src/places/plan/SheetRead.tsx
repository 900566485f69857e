import { type Schema } from '../../api/client';
import { count } from '../../parts/format';

export function SheetRead({
  read,
  onTake,
  onLeave,
}: {
  read: Schema['PlanSheetRead'];
  onTake: () => void;
  onLeave: () => void;
}) {
  const problems = read.rows.filter((r) => r.problem);
  return (
    <div role="region" aria-label="Sheet read" className="mx-5 mb-3 rounded border border-line-strong p-3">
      <p>
        {count(read.rows.length)} {read.rows.length === 1 ? 'row' : 'rows'} read; not saved yet.
        {read.unknown.length > 0 && ` Ignored columns: ${read.unknown.join(', ')}.`}
      </p>
      {problems.length > 0 && (
        <ul className="mt-1 text-xs">
          {problems.slice(0, 8).map((row) => (
            <li key={row.number}>
              Row {row.number}: {row.problem}
            </li>
          ))}
          {problems.length > 8 && <li>and {problems.length - 8} more</li>}
        </ul>
      )}
      <span className="mt-2 flex gap-2">
        <button type="button" className="button-main" disabled={read.rows.length === 0} onClick={onTake}>
          Plan {count(read.rows.length)}
        </button>
        <button type="button" className="button" onClick={onLeave}>
          Cancel
        </button>
      </span>
    </div>
  );
}
