import { useQuery } from '@tanstack/react-query';
import { format } from 'date-fns';
import { Link } from 'react-router';
import { duration, exact, money } from '../../parts/format';
import { Inspector, InspectorPart } from '../../parts/Inspector';
import { visitQuery } from './queries';
import { rowName } from './rowName';
import { cameBy } from './VisitList';

const stepLabels: Record<string, string> = { event: 'Event', seen: 'Spot seen', clicked: 'Spot clicked' };

/** One visit: where it came from, what happened in order, and the link behind it. */
export function VisitInspector({ id, onClose }: { id: string; onClose: () => void }) {
  const read = useQuery(visitQuery(id));
  if (!read.data)
    return (
      <Inspector title="Visit" onClose={onClose}>
        <p className={read.isError ? 'text-error' : 'text-quiet'}>{read.isError ? read.error.message : 'Loading …'}</p>
      </Inspector>
    );
  const { visit, steps } = read.data;
  const facts: [string, string | null][] = [
    ['Channel', visit.channel],
    ['Came by', cameBy(visit)],
    ['Campaign', visit.campaign],
    ['Placement', visit.placement],
    ['Content', visit.content],
    ['Referrer', visit.referrer],
    [
      'Place',
      [visit.town, visit.region, visit.country && rowName('country', visit.country)].filter(Boolean).join(', ') || null,
    ],
    ['Device', [visit.model ?? visit.device, visit.system, visit.browser].filter(Boolean).join(', ')],
    ['Language', visit.language && rowName('language', visit.language)],
    ['Visitor', visit.hasId ? 'known by an id of the site' : 'without an id'],
  ];
  return (
    <Inspector title={`Visit of ${exact(visit.startedAt)}`} onClose={onClose}>
      <InspectorPart title={`What happened, in ${duration(visit.seconds)}`}>
        <ol className="flex flex-col">
          {steps.map((step, i) => (
            <li key={i} className="relative flex gap-3 pb-2 pl-4 last:pb-0">
              {i < steps.length - 1 && (
                <span aria-hidden className="absolute top-2.5 bottom-[-6px] left-[3.5px] border-l border-line-strong" />
              )}
              <span
                aria-hidden
                className={`absolute top-1.5 left-0 size-2 rounded-full ${
                  step.kind === 'conversion'
                    ? 'bg-accent'
                    : step.kind === 'page'
                      ? 'bg-ink'
                      : 'border border-ink bg-sheet'
                }`}
              />
              <time className="caption w-14 shrink-0 tabular-nums" dateTime={step.at}>
                {format(new Date(step.at), 'HH:mm:ss')}
              </time>
              <span className="min-w-0 break-words">
                {step.kind === 'page' ? step.name : `${stepLabels[step.kind] ?? 'Conversion'}: ${step.name}`}
                {step.value && <span className="tabular-nums"> · {money(step.value)}</span>}
                {step.orderId && <span className="caption"> · order {step.orderId}</span>}
              </span>
            </li>
          ))}
        </ol>
      </InspectorPart>
      <InspectorPart title="Where it came from">
        <dl className="grid grid-cols-[auto_1fr] gap-x-4 gap-y-1">
          {facts
            .filter(([, says]) => says)
            .map(([name, says]) => (
              <div key={name} className="contents">
                <dt className="text-quiet">{name}</dt>
                <dd className="break-words">{says}</dd>
              </div>
            ))}
        </dl>
      </InspectorPart>
      {Object.keys(visit.tags).length > 0 && (
        <InspectorPart title="Tags as they came">
          <dl className="grid grid-cols-[auto_1fr] gap-x-4 gap-y-0.5 font-mono text-xs">
            {Object.entries(visit.tags).map(([key, value]) => (
              <div key={key} className="contents">
                <dt className="text-quiet">{key}</dt>
                <dd className="break-all">{value}</dd>
              </div>
            ))}
          </dl>
        </InspectorPart>
      )}
      {visit.linkId && (
        <InspectorPart title="Link">
          <Link className="text-accent hover:underline" to={`/ledger?state=all&link=${visit.linkId}`}>
            The link it came by
          </Link>
          {!visit.hitId && <p className="caption">No click of a short link belongs to it.</p>}
        </InspectorPart>
      )}
    </Inspector>
  );
}
