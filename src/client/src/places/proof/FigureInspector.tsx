import { Link } from 'react-router';
import { dayOf } from '../../parts/days';
import { count, rate, shared } from '../../parts/format';
import { Inspector, InspectorPart } from '../../parts/Inspector';
import { TryLink } from '../../parts/TryLink';
import { causeNames, kindNames, verdictNames, type Figure } from './figures';
import { GapBar } from './GapScale';

interface FigureInspectorProps {
  figure: Figure;
  onClose: () => void;
}

/** One figure of another system: both sides, likely causes, week by week. */
export function FigureInspector({ figure, onClose }: FigureInspectorProps) {
  const { kind, beside, theirs, ours, system } = figure;
  const others = (Object.keys(kindNames) as (keyof Figure['all'])[]).filter((k) => figure.all[k] != null);
  return (
    <Inspector title={`${figure.called.join(', ')} · ${system}`} onClose={onClose}>
      {figure.linkId && <TryLink linkId={figure.linkId} />}
      <InspectorPart title="Both sides">
        <p>
          {system} counts {shared(theirs)} {kindNames[kind]} from {dayOf(figure.from)} to {dayOf(figure.to)}. Here{' '}
          {shared(ours)} {kindNames[beside]} were counted on the same days.{' '}
          {ours > theirs
            ? `That is ${shared(ours - theirs)} more.`
            : `${shared(theirs - ours)} are missing (${rate(figure.gap)}): ${verdictNames[figure.verdict]}.`}
        </p>
        {beside !== kind && (
          <p className="caption mt-1">
            Their clicks stand beside your visits, since most of these links lead to the page without a short link.
          </p>
        )}
      </InspectorPart>
      {figure.causes.length > 0 && (
        <InspectorPart title="Likely causes">
          <ol aria-label="Likely causes" className="flex flex-col gap-3">
            {figure.causes.map((cause) => (
              <li key={cause.kind}>
                <span className="flex justify-between gap-2 font-medium">
                  {causeNames[cause.kind]} <span className="tabular-nums">{shared(cause.missing)}</span>
                </span>
                <span className="block break-words">{cause.says}</span>
                {cause.kind === 'strays' && (
                  <Link className="text-accent underline" to="/proof?part=strays">
                    Look at strays
                  </Link>
                )}
              </li>
            ))}
          </ol>
        </InspectorPart>
      )}
      <InspectorPart title="Week by week">
        <table aria-label="Week by week" className="w-full border-collapse">
          <thead>
            <tr className="text-right text-xs text-quiet [&>th]:pb-1 [&>th]:font-medium">
              <th className="text-left">From</th>
              <th>Theirs</th>
              <th>Ours</th>
              <th className="w-24 pl-3 text-left">Gap</th>
              <th>Missing</th>
            </tr>
          </thead>
          <tbody>
            {figure.weeks.map((week) => (
              <tr key={week.week} className="border-t border-line text-right tabular-nums [&>td]:py-1">
                <td className="text-left">{dayOf(week.week)}</td>
                <td>{shared(week.theirs)}</td>
                <td>{shared(week.ours)}</td>
                <td className="pl-3">
                  <GapBar gap={week.gap} isFinding={week.verdict === 'finding'} isFaint={false} />
                </td>
                <td>{rate(week.gap)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </InspectorPart>
      <InspectorPart title={`What ${system} counts`}>
        <dl className="grid grid-cols-[1fr_auto_auto] gap-x-4 gap-y-1">
          {others.map((k) => (
            <div key={k} className="col-span-3 grid grid-cols-subgrid">
              <dt className="first-letter:uppercase">{kindNames[k]}</dt>
              <dd className="text-right tabular-nums">
                {k === 'conversions' ? shared(figure.all[k]!) : count(figure.all[k]!)}
              </dd>
              <dd className="text-quiet">
                {figure.shares
                  .filter((s) => s.part === k)
                  .map((s) => `${rate(s.share)} of ${kindNames[s.whole]}`)
                  .join(', ')}
              </dd>
            </div>
          ))}
        </dl>
      </InspectorPart>
      {figure.linkId && (
        <Link className="text-accent underline" to={`/ledger?state=all&link=${figure.linkId}`}>
          The link in the Ledger
        </Link>
      )}
      {figure.campaignId && (
        <Link className="text-accent underline" to={`/plan?campaign=${figure.campaignId}`}>
          The campaign in Plan
        </Link>
      )}
    </Inspector>
  );
}
