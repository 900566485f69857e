import { useRef } from 'react';
import type { ArrivalsAnswer } from '../../api/client';
import type { BoardRow } from '../../parts/board/Board';
import { PartTabs } from '../../parts/PartTabs';
import { SearchField } from '../../parts/SearchField';
import { useHotkey } from '../../parts/useHotkey';
import type { OwnDimension } from './dimensions';
import { CreditMenu } from './CreditMenu';
import { FigureChoice } from './FigureChoice';
import { FilterBar } from './FilterBar';
import { MoreMenu } from './MoreMenu';
import { RowsBy } from './RowsBy';
import type { Changes } from './useView';
import { parts, type View } from './view';

interface ArrivalsBarProps {
  view: View;
  /** What the view is called; empty where it has no name. */
  title: string;
  set: (changes: Changes) => void;
  own: OwnDimension[];
  answer: ArrivalsAnswer | undefined;
  rows: BoardRow[];
  onNote: () => void;
  onWatch: () => void;
  onShare: () => void;
}

/** What a view is made of, above its table: rows, filters, search, figures, parts. */
export function ArrivalsBar({ view, title, set, own, answer, rows, onNote, onWatch, onShare }: ArrivalsBarProps) {
  const field = useRef<HTMLInputElement>(null);
  useHotkey('/', () => field.current?.focus());
  return (
    <div className="flex flex-wrap items-center gap-2 border-b border-line bg-page px-5 py-1.5 whitespace-nowrap max-sm:px-3">
      {view.part === 'board' && (
        <RowsBy rows={view.rows} own={own} onChange={(next) => set({ rows: next.join(','), pick: null })} />
      )}
      <FilterBar
        range={view.range}
        where={view.where}
        own={own}
        names={answer?.names ?? {}}
        onChange={(where) => set({ where })}
      />
      <span className="ml-auto flex max-w-full min-w-0 items-center gap-2 max-sm:ml-0 max-sm:flex-wrap">
        {['board', 'pages', 'products', 'spots'].includes(view.part) && (
          <SearchField
            ref={field}
            label="Search rows"
            className="max-sm:hidden"
            value={view.search}
            onChange={(text) => set({ search: text || null })}
          />
        )}
        {(view.part === 'board' || view.part === 'paths') && <CreditMenu view={view} set={set} />}
        {view.part === 'board' && (
          <FigureChoice
            stations={view.stations}
            columns={view.columns}
            named={answer?.named ?? []}
            plain={view.plain}
            onStations={(names) => set({ stations: names.join(',') })}
            onColumns={(names) => set({ columns: names.join(',') })}
            onPlain={(plain) => set({ plain: plain ? '1' : null })}
            onReset={() => set({ stations: null, columns: null, plain: null })}
          />
        )}
        <PartTabs
          label="Parts of Arrivals"
          parts={Object.entries(parts) as [keyof typeof parts, string][]}
          at={view.part}
          onGo={(part) => set({ part: part === 'board' ? null : part, pick: null, visit: null })}
        />
        <MoreMenu view={view} title={title} rows={rows} onNote={onNote} onWatch={onWatch} onShare={onShare} />
      </span>
    </div>
  );
}
