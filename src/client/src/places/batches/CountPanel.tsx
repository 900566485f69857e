import type { Schema } from '../../api/client';
import { count } from '../../parts/format';
import { Inspector, InspectorPart } from '../../parts/Inspector';
import { SeverityMark } from '../../parts/SeverityMark';
import { outcomeNames } from './states';

interface CountPanelProps {
  counted: Schema['CountAnswer'];
  onRun: () => void;
  /** Lets the recipe create links anew, and counts again. */
  onAnew: () => void;
  onFilter: (rule: string) => void;
  onClose: () => void;
}

/** What a run would do, counted before it is done. */
export function CountPanel({ counted, onRun, onAnew, onFilter, onClose }: CountPanelProps) {
  const make = (counted.outcomes.new ?? 0) + (counted.outcomes.changed ?? 0);
  return (
    <Inspector title="Preview" onClose={onClose}>
      <dl className="grid grid-cols-[1fr_auto] gap-y-1">
        {Object.keys(outcomeNames)
          .filter((outcome) => (counted.outcomes[outcome] ?? 0) > 0)
          .map((outcome) => (
            <div key={outcome} className="contents">
              <dt>{outcomeNames[outcome]}</dt>
              <dd className="text-right tabular-nums">{count(counted.outcomes[outcome]!)}</dd>
            </div>
          ))}
      </dl>
      <button type="button" className="button-main shrink-0 self-start" disabled={make === 0} onClick={onRun}>
        Create {count(make)} {make === 1 ? 'link' : 'links'}
      </button>
      {counted.differing > 0 && (
        <p role="status">
          {count(counted.differing)} unchanged {counted.differing === 1 ? 'row keeps a link' : 'rows keep links'} that
          this recipe would write differently now.{' '}
          <button type="button" className="button-plain -ml-1.5" onClick={onAnew}>
            Replace {counted.differing === 1 ? 'it' : 'them'}
          </button>
        </p>
      )}
      {counted.rules.length > 0 && (
        <InspectorPart title="Notices">
          <ul className="flex flex-col gap-2">
            {counted.rules.map((rule) => (
              <li key={rule.rule} className="flex gap-2">
                <span className="mt-0.5">
                  <SeverityMark severity={rule.severity} />
                </span>
                <span className="min-w-0">
                  <button type="button" className="button-plain -ml-1.5" onClick={() => onFilter(rule.rule)}>
                    {count(rule.rows)} × {rule.rule.replaceAll('-', ' ')}
                  </button>
                  <span className="block text-xs text-quiet">{rule.example}</span>
                </span>
              </li>
            ))}
          </ul>
        </InspectorPart>
      )}
      {counted.samples.length > 0 && (
        <InspectorPart title="Example">
          <ul className="flex flex-col gap-3 text-xs">
            {counted.samples.map((sample) => (
              <li key={sample.number}>
                <span className="text-quiet">
                  Row {sample.number}, {outcomeNames[sample.outcome]}
                </span>
                {sample.outcome === 'stopped' ? (
                  <span className="block">{sample.says}</span>
                ) : (
                  <span className="block font-mono break-all">
                    <span className="text-quiet">{sample.before}</span> → {sample.after}
                  </span>
                )}
              </li>
            ))}
          </ul>
        </InspectorPart>
      )}
    </Inspector>
  );
}
