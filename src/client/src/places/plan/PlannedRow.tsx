import { Link2, X } from 'lucide-react';
import { Link } from 'react-router';
import { type Schema } from '../../api/client';
import { CopyButton } from '../../parts/CopyButton';
import { SeverityMark } from '../../parts/SeverityMark';
import { PagePicker } from '../compose/PagePicker';
import { dayOf } from '../../parts/days';
import { Select } from '../../parts/Select';
import { DateField } from '../../parts/DateField';

type Row = Schema['PlannedAnswer'];
type Written = Schema['PlannedRow'];

interface PlannedRowProps {
  row: Row | null;
  written: Written;
  placements: Schema['PlacementAnswer'][];
  mayWrite: boolean;
  onChange: (next: Written) => void;
  onRemove: () => void;
}

export function PlannedRow({ row, written, placements, mayWrite, onChange, onRemove }: PlannedRowProps) {
  const made = row?.state === 'made';
  const fixed = made || !mayWrite;
  const name = row?.placement ?? 'new link';
  const set = (change: Partial<Written>) => onChange({ ...written, ...change });
  const cell = 'input-bare w-full min-w-0';
  return (
    <tr className="h-[38px] border-b border-line">
      <td className="pl-5">
        {row && (
          <span title={row.says ?? row.state}>
            {row.state === 'made' ? (
              <Link2 size={14} strokeWidth={1.5} aria-label="made" className="text-quiet" />
            ) : (
              <SeverityMark
                severity={
                  row.state === 'stopped' ? 'error' : row.state === 'incomplete' ? 'info' : (row.severity ?? 'good')
                }
              />
            )}
          </span>
        )}
      </td>
      <td className="px-0.5">
        {fixed ? (
          <span className="block truncate px-1.5 font-mono text-xs" title={written.page ?? ''}>
            {(written.page ?? '').replace(/^https?:\/\/[^/]+/, '') || written.page}
          </span>
        ) : (
          <PagePicker
            label={`Page of ${name}`}
            className={`${cell} font-mono text-xs`}
            autoFocus={!row}
            value={written.page ?? ''}
            onPick={(page) => page !== (written.page ?? '') && set({ page })}
          />
        )}
      </td>
      <td className="px-0.5">
        {fixed ? (
          <span className="block truncate px-1.5">{row?.placement}</span>
        ) : (
          <Select
            bare
            className="w-full"
            label={`Placement of ${name}`}
            value={written.placementId ?? ''}
            onChange={(value) => set({ placementId: value || null })}
            options={[
              ['', 'choose …'],
              ...(written.placementId && !placements.some((p) => p.id === written.placementId)
                ? [[written.placementId, row?.placement ?? ''] as const]
                : []),
              ...placements.map((p) => [p.id, p.name] as const),
            ]}
          />
        )}
      </td>
      {(['content', 'owner'] as const).map((what) => (
        <td key={what} className="px-0.5">
          <input
            className={cell}
            aria-label={`${what === 'content' ? 'Content' : 'Owner'} of ${name}`}
            readOnly={fixed}
            defaultValue={written[what] ?? ''}
            key={written[what] ?? ''}
            onBlur={(e) => e.target.value !== (written[what] ?? '') && set({ [what]: e.target.value || null })}
            onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
          />
        </td>
      ))}
      <td className="px-0.5">
        {fixed ? (
          <span className="px-1.5">{written.dueOn && dayOf(written.dueOn)}</span>
        ) : (
          <DateField
            bare
            className={`w-full ${row?.overdue ? 'text-error' : ''}`}
            label={`Due day of ${name}`}
            value={written.dueOn ?? ''}
            onChange={(day) => set({ dueOn: day || null })}
          />
        )}
      </td>
      <td className="overflow-hidden px-1.5">
        {made && row.shortUrl ? (
          <span className="flex items-center gap-2">
            <Link
              to={`/ledger?link=${row.linkId}&search=${row.shortUrl.split('/').pop()}`}
              className="truncate font-mono text-xs text-good hover:underline"
            >
              …/{row.shortUrl.split('/').pop()}
            </Link>
            <CopyButton text={row.shortUrl} label="Copy" />
          </span>
        ) : row?.says ? (
          <span className="block truncate text-quiet" title={row.says}>
            {row.overdue && <span className="text-error">overdue · </span>}
            {row.says}
          </span>
        ) : (
          row && (
            <span className="block truncate font-mono text-xs" title={row.strip.map((s) => s.text).join('')}>
              {row.strip
                .filter((s) => s.part === 'field')
                .map((s) => s.text.slice(s.text.indexOf('=') + 1))
                .join(' · ')}
            </span>
          )
        )}
      </td>
      <td className="pr-3 text-right">
        {mayWrite && (
          <button
            type="button"
            className="rounded p-1 text-quiet hover:text-ink"
            aria-label={made ? `Remove ${name} from the plan; its link stays` : `Remove ${name}`}
            onClick={onRemove}
          >
            <X size={14} strokeWidth={1.5} />
          </button>
        )}
      </td>
    </tr>
  );
}
