import type { Schema } from '../../api/client';
import { money, rate } from '../../parts/format';
import { SeverityMark } from '../../parts/SeverityMark';
import { dayOf } from '../../parts/days';

interface BudgetFactProps {
  budget: Schema['BudgetAnswer'];
  /** The campaign's last day; null for none. */
  endsOn: string | null;
}

/** A campaign's budget beside what it has cost, and what it will have cost by its last day if clicks go on as they came. */
export function BudgetFact({ budget: { budget, spent, share, foreseen, isOver }, endsOn }: BudgetFactProps) {
  const of = (part: Schema['Money']) => {
    const all = Math.max(Number(budget.amount), Number(spent.amount), Number(foreseen?.amount ?? 0));
    return all === 0 ? 0 : (100 * Number(part.amount)) / all;
  };
  return (
    <div>
      <dt className="caption">Budget</dt>
      <dd className="tabular-nums">
        {money(budget)}
        <span className="ml-2 text-quiet">
          {money(spent)} spent{share !== null && `, ${rate(share)}`}
          {foreseen && endsOn && ` · about ${money(foreseen)} by ${dayOf(endsOn)}`}
          {isOver && (
            <span className="ml-1.5 inline-flex items-center gap-1 align-bottom text-ink">
              <SeverityMark severity="warning" />{' '}
              {Number(spent.amount) > Number(budget.amount) ? 'Over budget' : 'Will go over budget'}
            </span>
          )}
        </span>
        <svg viewBox="0 0 100 6" preserveAspectRatio="none" className="mt-1 block h-1.5 w-56" aria-hidden>
          <rect width={of(budget)} height={6} className="fill-line" />
          {foreseen && <rect width={of(foreseen)} y={2} height={2} className="fill-accent opacity-40" />}
          <rect width={of(spent)} height={6} className="fill-accent" />
          <rect x={Math.min(of(budget), 99)} width={1} height={6} className="fill-ink" />
        </svg>
      </dd>
    </div>
  );
}
