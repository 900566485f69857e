import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { live } from '../../api/live';
import { count, money, rate } from '../../parts/format';
import { Inspector, InspectorPart } from '../../parts/Inspector';
import { partsOf } from './dimensions';
import { usePerson } from '../../parts/person';
import { isOpen, type Range } from './range';
import { arrivalLinksQuery, arrivalsQuery } from './queries';
import { rowName } from './rowName';

interface RowInspectorProps {
  range: Range;
  /** The row's conditions, outermost first, as `dimension:is:value`. */
  conditions: string[];
  onClose: () => void;
}

/** The selected row: its figures by device, and the links behind it. */
export function RowInspector({ range, conditions, onClose }: RowInspectorProps) {
  const parts = conditions.map(partsOf);
  const own = parts.at(-1)!;
  const devices = useQuery({
    ...arrivalsQuery(range, 'device', conditions),
    ...(isOpen(range, usePerson().today) && live),
  });
  const links = useQuery(arrivalLinksQuery(range, conditions));
  const total = devices.data?.total;
  // An id says nothing to anybody; what it is called comes with the rows themselves.
  const named = useQuery(arrivalsQuery(range, own.dimension, conditions));
  const title = parts
    .map((p) => rowName(p.dimension, p.value || null, p === own ? named.data?.names[p.dimension] : undefined))
    .join(' · ');

  return (
    <Inspector title={title} onClose={onClose}>
      {total && (
        <InspectorPart title="Figures">
          <p className="tabular-nums">
            {count(total.visits)} visits by {count(total.visitors ?? 0)} visitors, {rate(total.bounceRate)} bounced;{' '}
            {count(total.conversions)} conversions, {money(total.revenue)}.
          </p>
        </InspectorPart>
      )}
      <InspectorPart title="By device">
        <dl className="grid grid-cols-[1fr_auto_auto] gap-x-4 gap-y-1 tabular-nums">
          {devices.data?.rows.map((row) => (
            <div key={row.keys[0]} className="contents">
              <dt>{row.keys[0]}</dt>
              <dd className="text-right">{count(row.figures.visits)} visits</dd>
              <dd className="text-right">{rate(row.figures.conversionRate)}</dd>
            </div>
          ))}
        </dl>
      </InspectorPart>
      <InspectorPart title="Links">
        {links.data?.length ? (
          <ul className="flex flex-col gap-1">
            {links.data.map((link) => (
              <li key={link.id} className="flex justify-between gap-2">
                <Link
                  className="min-w-0 truncate text-accent hover:underline"
                  to={`/ledger?search=${encodeURIComponent(link.title)}&link=${link.id}`}
                >
                  {link.title}
                </Link>
                <span className="shrink-0 tabular-nums">{count(link.visits)} visits</span>
              </li>
            ))}
          </ul>
        ) : (
          <p className="text-quiet">
            {links.isFetching ? 'Loading …' : 'None of these visits came by a link in the Ledger.'}
          </p>
        )}
      </InspectorPart>
    </Inspector>
  );
}
