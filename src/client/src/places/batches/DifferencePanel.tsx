import { useQuery } from '@tanstack/react-query';
import { type Schema } from '../../api/client';
import { count } from '../../parts/format';
import { Inspector, InspectorPart } from '../../parts/Inspector';
import { differenceQuery } from './queries';

interface DifferencePanelProps {
  batch: Schema['BatchAnswer'];
  onRow: (number: number) => void;
  onClose: () => void;
}

/** What this file says that the earlier one did not. */
export function DifferencePanel({ batch, onRow, onClose }: DifferencePanelProps) {
  const difference = useQuery(differenceQuery(batch));
  const d = difference.data;
  const row = (number: number, says?: string) => (
    <li key={number}>
      <button type="button" className="button-plain -ml-1.5" onClick={() => onRow(number)}>
        Row {number}
      </button>
      {says && <span className="text-quiet"> {says}</span>}
    </li>
  );
  return (
    <Inspector title="Compared with the earlier file" onClose={onClose}>
      {difference.isError && <p role="alert">{difference.error.message}</p>}
      {d && (
        <>
          <p className="text-xs text-quiet">
            Compared with {d.earlierName}
            {d.key ? `, matched by “${d.key}”` : '; no column identifies a row, so only identical rows match'}. Rows in
            both files keep their links.
          </p>
          <dl className="grid grid-cols-[1fr_auto] gap-y-1 tabular-nums">
            {(
              [
                ['unchanged', d.same],
                ['changed cells', d.changed],
                ['new in this file', d.added],
                ['missing in this file', d.gone],
              ] as const
            ).map(([says, n]) => (
              <div key={says} className="contents">
                <dt>{says}</dt>
                <dd className="text-right">{count(n)}</dd>
              </div>
            ))}
          </dl>
          {d.changedRows.length > 0 && (
            <InspectorPart title="Changed cells">
              <ul className="text-xs">{d.changedRows.map((r) => row(r.number, r.columns.join(', ')))}</ul>
            </InspectorPart>
          )}
          {d.addedRows.length > 0 && (
            <InspectorPart title="New in this file">
              <ul className="text-xs">{d.addedRows.map((n) => row(n))}</ul>
            </InspectorPart>
          )}
          {d.goneRows.length > 0 && (
            <InspectorPart title="Missing in this file">
              <ul className="flex flex-col gap-1 text-xs">
                {d.goneRows.map((r) => (
                  <li key={r.number} className="break-words">
                    <span className="text-quiet">Row {r.number}:</span> {r.cells.filter((c) => c !== '').join(' · ')}
                  </li>
                ))}
              </ul>
            </InspectorPart>
          )}
        </>
      )}
    </Inspector>
  );
}
