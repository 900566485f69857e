import { X } from 'lucide-react';
import { Link } from 'react-router';
import { dayOf } from '../../parts/days';
import { conditionSays, conditionsOf } from '../arrivals/conditions';
import { useOwnDimensions } from '../arrivals/useOwnDimensions';

const parts = ['visitsFrom', 'visitsTo', 'visitsWhere'];

/** The same search without the visits that links are behind. */
export function withoutVisits(search: URLSearchParams): URLSearchParams {
  const next = new URLSearchParams(search);
  for (const part of [...parts, 'page']) next.delete(part);
  return next;
}

/** Says which visits the links are behind, where the Ledger is narrowed to such. */
export function BehindVisits({ search, onLeave }: { search: URLSearchParams; onLeave: () => void }) {
  const own = useOwnDimensions();
  const [from, to] = [search.get('visitsFrom'), search.get('visitsTo')];
  const where = search.getAll('visitsWhere');
  if (!from || !to) return null;
  const report = new URLSearchParams({ from, to });
  for (const condition of where) report.append('where', condition);
  return (
    <p className="flex items-center gap-2 border-b border-line px-5 py-1.5">
      <span className="min-w-0 truncate">
        Links behind visits from {dayOf(from)} to {dayOf(to)}
        {where.length > 0 &&
          `: ${conditionsOf(where)
            .map((c) => conditionSays(c, own))
            .join('; ')}`}
      </span>
      <Link className="button-plain shrink-0" to={`/arrivals?${report.toString()}`}>
        Show these visits
      </Link>
      <button type="button" className="button-plain shrink-0" onClick={onLeave}>
        <X size={12} strokeWidth={1.5} /> All links
      </button>
    </p>
  );
}
