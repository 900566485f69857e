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
  /** Lets the recipe create links that exist already once more, and counts again. */
  onAgain: () => void;
  onFilter: (rule: string) => void;
  onClose: () => void;
}

/** What a run would do, counted before it is done. */
export function CountPanel({ counted, onRun, onAnew, onAgain, onFilter, onClose }: CountPanelProps) {
  const make = (counted.outcomes.new ?? 0) + (counted.outcomes.changed ?? 0);
  const used = counted.outcomes.existing ?? 0;
  const links = (n: number) => `${count(n)} ${n === 1 ? 'link' : 'links'}`;
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
      <button type="button" className="button-main shrink-0 self-start" disabled={make + used === 0} onClick={onRun}>
        {used === 0
          ? `Create ${links(make)}`
          : make === 0
            ? `Use ${links(used)} that ${used === 1 ? 'exists' : 'exist'} already`
            : `Create ${links(make)}, use ${count(used)} existing`}
      </button>
      {used > 0 && (
        <button type="button" className="button-plain -mt-2 -ml-1.5 self-start" onClick={onAgain}>
          Create all {count(make + used)} instead
        </button>
      )}
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
