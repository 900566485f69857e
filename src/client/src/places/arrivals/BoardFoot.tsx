import type { ArrivalsAnswer } from '../../api/client';
import { count, money, rate } from '../../parts/format';
import { Paging } from '../../parts/Paging';
import { Select } from '../../parts/Select';
import type { Changes } from './useView';
import { sizes, type View } from './view';

interface BoardFootProps {
  view: View;
  set: (changes: Changes) => void;
  answer: ArrivalsAnswer;
}

/** Beneath the board: how many rows there are, its pages, and what its figures leave out. */
export function BoardFoot({ view, set, answer }: BoardFootProps) {
  return (
    <div className="flex min-h-9 flex-wrap items-center gap-3 border-t border-line bg-page px-5 py-1 text-xs text-quiet max-sm:px-3">
      <span>
        {count(answer.found)} {answer.found === 1 ? 'row' : 'rows'}
      </span>
      <Paging
        page={view.page}
        pages={Math.ceil(answer.found / view.size)}
        onGo={(page) => set({ page: String(page) })}
      />
      {answer.found > sizes[0]! && (
        <Select
          bare
          label="Rows on a page"
          value={String(view.size)}
          onChange={(size) => set({ size })}
          options={sizes.map((n) => [String(n), `${count(n)} on a page`] as const)}
        />
      )}
      {answer.revenueElsewhere.length > 0 && (
        <span>and, apart, {answer.revenueElsewhere.map((m) => money(m)).join(', ')}</span>
      )}
      {answer.refundsElsewhere.length > 0 && (
        <span>refunds in other currencies, not added: {answer.refundsElsewhere.map((m) => money(m)).join(', ')}</span>
      )}
      {answer.costElsewhere.length > 0 && (
        <span>costs in other currencies, not added: {answer.costElsewhere.map((m) => money(m)).join(', ')}</span>
      )}
      {answer.dailyVisitors && answer.shareWithId !== null && (
        <span className="ml-auto text-right">
          {rate(answer.shareWithId)} of visits carry a visitor id; other visitors are counted once per day
        </span>
      )}
    </div>
  );
}
