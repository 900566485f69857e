import type { FieldAnswer, Notice, Schema } from '../../api/client';
import { CopyButton } from '../../parts/CopyButton';
import { Inspector, InspectorPart } from '../../parts/Inspector';
import { NoticeList } from '../../parts/NoticeList';
import { targetsOf } from './recipe';

interface RowInspectorProps {
  row: Schema['BatchRowAnswer'];
  columns: string[];
  fields: FieldAnswer[];
  mayWrite: boolean;
  onType: (values: Record<string, string | null>) => void;
  onRepairAll: (notice: Notice) => void;
  onClose: () => void;
}

/** One row: its notices, what is typed for it alone, and its cells. */
export function RowInspector({ row, columns, fields, mayWrite, onType, onRepairAll, onClose }: RowInspectorProps) {
  // A run leaves the link of an earlier run as it is, unless the recipe says to create it anew.
  const kept = row.outcome === 'unchanged' ? row.earlier : null;
  return (
    <Inspector title={`Row ${row.number}`} onClose={onClose}>
      {row.notices.length > 0 && (
        <InspectorPart title="Notices">
          <NoticeList
            notices={row.notices}
            onRepair={mayWrite ? (n) => onType({ [n.repair!.field ?? 'destination']: n.repair!.value }) : undefined}
            onRepairAll={onRepairAll}
            alike={(n) => (mayWrite && n.repair ? 2 : 1)}
            allSays="Repair all like this"
          />
        </InspectorPart>
      )}
      <InspectorPart title="This row only">
        <div className="flex flex-col gap-2">
          {targetsOf(fields).map((target) => {
            const typed = row.overrides[target.key];
            return (
              <div key={target.key} className="grid grid-cols-[6.5rem_1fr] items-center gap-2">
                <span className="truncate">{target.label}</span>
                <input
                  key={`${row.number} ${target.key} ${typed ?? ''}`}
                  className={`input min-w-0 font-mono text-xs ${typed === undefined ? '' : 'border-accent'}`}
                  aria-label={target.label}
                  readOnly={!mayWrite}
                  placeholder={row.values[target.key] ?? ''}
                  defaultValue={typed ?? ''}
                  onBlur={(e) => e.target.value !== (typed ?? '') && onType({ [target.key]: e.target.value || null })}
                  onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
                />
              </div>
            );
          })}
        </div>
      </InspectorPart>
      {row.url && (
        <InspectorPart title="Link">
          <p className="mb-1 font-mono text-xs break-all">{kept ?? row.url}</p>
          <CopyButton text={kept ?? row.url} label="Copy" className="button-plain -ml-1.5" />
          {row.earlier && row.earlier !== row.url && (
            <p className="mt-2 text-xs text-quiet">
              {kept ? 'This recipe would write' : 'Before, it was'}{' '}
              <span className="font-mono break-all">{kept ? row.url : row.earlier}</span>
            </p>
          )}
        </InspectorPart>
      )}
      {row.linkText && (
        <InspectorPart title="Text beside it">
          <p className="mb-1 whitespace-pre-line">{row.linkText}</p>
          <CopyButton text={row.linkText} label="Copy" className="button-plain -ml-1.5" />
        </InspectorPart>
      )}
      <InspectorPart title="Cells">
        <dl className="grid grid-cols-[8rem_1fr] gap-x-2 gap-y-1 text-xs">
          {columns.map((column, i) => (
            <div key={column} className="contents">
              <dt className="truncate text-quiet">{column}</dt>
              <dd className="break-words">{row.cells[i]}</dd>
            </div>
          ))}
        </dl>
      </InspectorPart>
    </Inspector>
  );
}
