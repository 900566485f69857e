import { ArrowDown, ArrowUp } from 'lucide-react';
import type { CSSProperties } from 'react';
import type { Target } from './recipe';
import type { RowView } from './useRows';

interface GridHeadProps {
  /** Columns of the sheet, in its order. */
  columns: string[];
  targets: Target[];
  view: RowView;
  style: CSSProperties;
  /** By the number of the sheet’s column; -1 is the outcome. */
  onSort: (column: number) => void;
}

/** Names of the grid’s columns; those of the sheet and the outcome can be sorted by. */
export function GridHead({ columns, targets, view, style, onSort }: GridHeadProps) {
  const sortable = (column: number, name: string) => {
    const sorted = view.sort === column;
    return (
      <span
        role="columnheader"
        key={`${column} ${name}`}
        className="min-w-0"
        aria-sort={sorted ? (view.descending ? 'descending' : 'ascending') : 'none'}
      >
        <button
          type="button"
          className="flex max-w-full items-center gap-1 hover:text-ink"
          title={`Sort by ${name}; the file keeps its own order`}
          onClick={() => onSort(column)}
        >
          <span className="truncate">{name}</span>
          {sorted &&
            (view.descending ? <ArrowDown size={12} strokeWidth={1.5} /> : <ArrowUp size={12} strokeWidth={1.5} />)}
        </button>
      </span>
    );
  };

  return (
    <div
      role="row"
      className="sticky top-0 z-10 grid h-[34px] items-center gap-x-3 border-b border-line bg-sheet px-5 text-xs text-quiet"
      style={style}
    >
      <span role="columnheader" className="text-right">
        Row
      </span>
      {sortable(-1, 'Outcome')}
      <span role="columnheader">Link</span>
      {targets.map((target, i) => (
        <span
          role="columnheader"
          key={target.key}
          className={`truncate self-stretch border-accent pt-2 pl-2 text-ink ${i === 0 ? 'border-l' : ''}`}
        >
          {target.label}
        </span>
      ))}
      {columns.map((column, i) => sortable(i, column))}
    </div>
  );
}
