import { useQuery } from '@tanstack/react-query';
import { ArrowUpRight, CalendarPlus, Link2, ListFilter, MapPin } from 'lucide-react';
import { Link } from 'react-router';
import { useCampaigns, useFields, usePlacements } from '../../api/known';
import { live } from '../../api/live';
import { counted, money, rate, shared } from '../../parts/format';
import { Inspector, InspectorPart } from '../../parts/Inspector';
import { usePerson } from '../../parts/person';
import { SeverityMark } from '../../parts/SeverityMark';
import { partsOf } from './conditions';
import { creditAsked, type Credit } from './credit';
import { isOpen, type Range } from './range';
import { arrivalLinksQuery, arrivalsQuery } from './queries';
import { ledgerAddress, newPlacement, newPlanned, planPlaces } from './rowActions';
import { rowName } from './rowName';
import { unknownValue } from './unknown';

interface RowInspectorProps {
  range: Range;
  /** What the report is narrowed by already. */
  where: string[];
  /** The row's conditions, outermost first. */
  conditions: string[];
  /** How the report gives credit. */
  credit: Credit | null;
  onFilter: () => void;
  onClose: () => void;
}

/** The selected row: its figures by device, and the links behind it. */
export function RowInspector({ range, where, conditions, credit, onFilter, onClose }: RowInspectorProps) {
  const parts = conditions.map(partsOf).filter((p) => p !== null);
  const own = parts.at(-1)!;
  const all = [...where, ...conditions];
  const devices = useQuery({
    ...arrivalsQuery(range, { rows: 'device', where: all, ...creditAsked(credit) }),
    ...(isOpen(range, usePerson().today) && live),
  });
  const links = useQuery(arrivalLinksQuery(range, all));
  const total = devices.data?.total;
  const mayWrite = usePerson().role !== 'viewer';
  const fields = useFields();
  const campaigns = useCampaigns();
  const placements = usePlacements();
  const back = planPlaces(all, campaigns.data ?? [], placements.data ?? []);
  const placement = newPlacement(all, fields.data ?? []);
  const planned = newPlanned(all, campaigns.data ?? [], placements.data ?? []);
  // An id says nothing to anybody; what it is called comes with the rows themselves.
  const named = useQuery(arrivalsQuery(range, { rows: own.field, where: all, measures: 'visits' }));
  const warning = named.data?.unknown[own.field]?.includes(own.value) ? unknownValue(own.field, own.value) : null;
  const title = parts
    .map((p) => rowName(p.field, p.value || null, p === own ? named.data?.names[p.field] : undefined))
    .join(' · ');

  return (
    <Inspector title={title} onClose={onClose}>
      {total && (
        <InspectorPart title="Figures">
          <p className="tabular-nums">
            {counted(total.visits, 'visit')} by {counted(total.visitors ?? 0, 'visitor')}, {rate(total.bounceRate)}{' '}
            bounced; {shared(total.conversions)} {total.conversions === 1 ? 'conversion' : 'conversions'}
            {total.conversions > 0 &&
              total.verifiedConversions < total.conversions &&
              ` (${shared(total.conversions - total.verifiedConversions)} unverified: reported by pages only)`}
            , {money(total.revenue)}.
          </p>
          {warning && (
            <p className="mt-2 flex items-start gap-2">
              <span className="mt-0.5">
                <SeverityMark severity="warning" />
              </span>
              <span>
                {warning.says}{' '}
                <Link className="text-accent hover:underline" to={warning.to}>
                  {warning.does}
                </Link>
              </span>
            </p>
          )}
        </InspectorPart>
      )}
      <InspectorPart title="With this row">
        <div className="-ml-1.5 flex flex-col items-start">
          <button type="button" className="button-plain" onClick={onFilter}>
            <ListFilter size={13} strokeWidth={1.5} /> Filter by this row <kbd className="kbd ml-1">f</kbd>
          </button>
          <Link className="button-plain" to={ledgerAddress(range, all)}>
            <Link2 size={13} strokeWidth={1.5} /> Show its links in the Ledger <kbd className="kbd ml-1">l</kbd>
          </Link>
          {back.map(([to, says]) => (
            <Link key={to} className="button-plain" to={to}>
              <ArrowUpRight size={13} strokeWidth={1.5} /> {says}
            </Link>
          ))}
          {mayWrite && placement && (
            <Link className="button-plain" to={placement}>
              <MapPin size={13} strokeWidth={1.5} /> Create a placement with these values
            </Link>
          )}
          {mayWrite && planned && (
            <Link className="button-plain" to={planned}>
              <CalendarPlus size={13} strokeWidth={1.5} /> Plan a link for this campaign
            </Link>
          )}
        </div>
      </InspectorPart>
      <InspectorPart title="By device">
        <dl className="grid grid-cols-[1fr_auto_auto] gap-x-4 gap-y-1 tabular-nums">
          {devices.data?.rows.map((row) => (
            <div key={row.keys[0]} className="contents">
              <dt>{row.keys[0]}</dt>
              <dd className="text-right">{counted(row.figures.visits, 'visit')}</dd>
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
                <span className="shrink-0 tabular-nums">{counted(link.visits, 'visit')}</span>
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
