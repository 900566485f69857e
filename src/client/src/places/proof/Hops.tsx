import type { Schema } from '../../api/client';
import { count } from '../../parts/format';
import { SeverityMark } from '../../parts/SeverityMark';

interface HopsProps {
  label: string;
  hops: readonly Schema['TraceHop'][];
  /** Numbers of those at which something was found, from 1. */
  faulty: readonly number[];
}

/** The requests on the way to a page: status, address and time of each. */
export function Hops({ label, hops, faulty }: HopsProps) {
  return (
    <div className="mb-3">
      <h3 className="text-xs font-medium text-quiet">{label}</h3>
      <ol aria-label={label}>
        {hops.map((hop, i) => (
          <li key={i} className="flex items-baseline gap-3 border-b border-line py-1.5 last:border-b-0">
            <span className="w-4 shrink-0 text-right text-quiet tabular-nums">{i + 1}</span>
            <span className={`w-9 shrink-0 tabular-nums ${!hop.status || hop.status >= 400 ? 'text-error' : ''}`}>
              {hop.status ?? '–'}
            </span>
            <span className="min-w-0 flex-1 font-mono text-xs break-all">
              {hop.url}
              {faulty.includes(i + 1) && (
                <span className="ml-1.5 inline-block align-[-2px]">
                  <SeverityMark severity="error" size={12} />
                </span>
              )}
            </span>
            <span className="caption shrink-0 tabular-nums">{count(hop.milliseconds)} ms</span>
          </li>
        ))}
      </ol>
    </div>
  );
}
