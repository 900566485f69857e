import type { Schema } from '../../api/client';
import { count } from '../../parts/format';
import { Inspector, InspectorPart } from '../../parts/Inspector';
import { SeverityMark } from '../../parts/SeverityMark';

interface EffectPanelProps {
  effect: Schema['EffectAnswer'];
  publishing: boolean;
  onPublish: () => void;
  onClose: () => void;
}

/** What publishing would do, counted before it is done. */
export function EffectPanel({ effect, publishing, onPublish, onClose }: EffectPanelProps) {
  return (
    <Inspector title="Effect of the draft" onClose={onClose}>
      <InspectorPart title="Existing links">
        <p>
          {effect.affected === 0
            ? `None of ${count(effect.links)} links would get a new notice.`
            : `${count(effect.affected)} of ${count(effect.links)} links would get a new notice. They keep working unchanged.`}
        </p>
      </InspectorPart>
      {effect.rules.map((rule) => (
        <InspectorPart key={rule.rule} title={`${count(rule.links)} × ${rule.rule.replaceAll('-', ' ')}`}>
          <ul className="flex flex-col gap-2">
            {rule.samples.map((sample, i) => (
              <li key={i} className="flex gap-2">
                <span className="mt-0.5">
                  <SeverityMark severity={rule.severity} />
                </span>
                <span className="min-w-0">
                  <span className="block truncate">{sample.title}</span>
                  {sample.before !== sample.after ? (
                    <span className="font-mono text-xs">
                      {sample.before} → {sample.after}
                    </span>
                  ) : (
                    <span className="caption">{sample.message}</span>
                  )}
                </span>
              </li>
            ))}
          </ul>
        </InspectorPart>
      ))}
      <InspectorPart title="Past visits">
        {effect.visitsMoved === 0 ? (
          <p>No visit changes its channel.</p>
        ) : (
          <>
            <p>{count(effect.visitsMoved)} visits would change their channel.</p>
            <ul className="mt-1">
              {effect.moves.map((move, i) => (
                <li key={i} className="flex justify-between gap-2 tabular-nums">
                  <span>
                    {move.from} → {move.to}
                  </span>
                  <span>{count(move.visits)}</span>
                </li>
              ))}
            </ul>
          </>
        )}
        {effect.newKeys.map(({ key, pageViews }) => (
          <p key={key} className="mt-2">
            {pageViews === 1 ? '1 past page view has' : `${count(pageViews)} past page views have`}{' '}
            <span className="font-mono text-xs">{key}</span>. Their visits are worked out again in the background.
          </p>
        ))}
      </InspectorPart>
      <button type="button" className="button-main justify-center" disabled={publishing} onClick={onPublish}>
        Publish
      </button>
    </Inspector>
  );
}
