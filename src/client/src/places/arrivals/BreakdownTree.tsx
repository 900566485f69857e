import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { ChevronRight } from 'lucide-react';
import { useState, type KeyboardEvent } from 'react';
import { live } from '../../api/live';
import { count, duration, money, rate } from '../../parts/format';
import { conditionOf, dimensions } from './dimensions';
import { usePerson } from '../../parts/person';
import { isOpen as isOpenRange, type Range } from './range';
import { arrivalsQuery } from './queries';
import { rowName } from './rowName';

interface BreakdownTreeProps {
  range: Range;
  rows: string[];
  picked: string[];
  onPick: (conditions: string[]) => void;
}

/** Rows by one thing, then by another: each row opens into the rows below it. */
export function BreakdownTree({ range, rows, picked, onPick }: BreakdownTreeProps) {
  return (
    <table role="treegrid" aria-label="Arrivals" className="w-full border-separate border-spacing-0 tabular-nums">
      <thead className="sticky top-0 z-10 bg-sheet text-xs text-quiet">
        <tr className="[&>th]:border-b [&>th]:border-line [&>th]:px-3 [&>th]:py-2 [&>th]:text-right [&>th]:font-medium">
          <th scope="col" className="!pl-5 !text-left">
            {rows.map((r) => dimensions[r]!.label).join(', then ')}
          </th>
          <th scope="col">Visits</th>
          <th scope="col">Visitors</th>
          <th scope="col">Bounce rate</th>
          <th scope="col">Time</th>
          <th scope="col">Conversions</th>
          <th scope="col">Rate</th>
          <th scope="col">Revenue</th>
          <th scope="col" className="!pr-5">
            Per visitor
          </th>
        </tr>
      </thead>
      <tbody>
        <Level range={range} rows={rows} depth={0} conditions={[]} picked={picked} onPick={onPick} />
      </tbody>
    </table>
  );
}

const firstRows = 50;
const mostRows = 500;
const indents = ['', 'w-6', 'w-12', 'w-18', 'w-24'];

interface LevelProps extends BreakdownTreeProps {
  depth: number;
  conditions: string[];
}

function Level({ range, rows, depth, conditions, picked, onPick }: LevelProps) {
  const [open, setOpen] = useState<string[]>([]);
  const [size, setSize] = useState(firstRows);
  const dimension = rows[depth]!;
  const level = useQuery({
    ...arrivalsQuery(range, dimension, conditions, size),
    placeholderData: keepPreviousData,
    ...(isOpenRange(range, usePerson().today) && live),
  });
  const mayOpen = depth + 1 < rows.length;

  function toggle(condition: string, wish?: boolean) {
    const isOpen = open.includes(condition);
    if (!mayOpen || wish === isOpen) return;
    setOpen(isOpen ? open.filter((o) => o !== condition) : [...open, condition]);
  }

  function onKey(event: KeyboardEvent<HTMLTableRowElement>, condition: string) {
    const all = [...(event.currentTarget.closest('tbody')?.querySelectorAll<HTMLElement>('tr[tabindex]') ?? [])];
    const at = all.indexOf(event.currentTarget);
    if (event.key === 'ArrowRight') toggle(condition, true);
    else if (event.key === 'ArrowLeft') toggle(condition, false);
    else if (event.key === 'ArrowDown') all[at + 1]?.focus();
    else if (event.key === 'ArrowUp') all[at - 1]?.focus();
    else if (event.key === 'Enter') onPick([...conditions, condition]);
    else return;
    event.preventDefault();
  }

  if (level.isError)
    return (
      <tr>
        <td colSpan={9} className="px-5 py-2 text-error">
          {level.error.message}
        </td>
      </tr>
    );
  const rest = level.data?.rest;
  const shown = level.data?.rows.map((row, i) => {
    const key = row.keys[0] ?? null;
    const condition = conditionOf(dimension, key);
    const name = rowName(dimension, key, level.data?.names[dimension]);
    const isOpen = open.includes(condition);
    const here = [...conditions, condition];
    const f = row.figures;
    return [
      <tr
        key={condition}
        aria-level={depth + 1}
        aria-expanded={mayOpen ? isOpen : undefined}
        aria-selected={here.join('\n') === picked.join('\n')}
        tabIndex={depth === 0 && i === 0 ? 0 : -1}
        onKeyDown={(e) => onKey(e, condition)}
        onClick={() => onPick(here)}
        className="h-[34px] cursor-pointer hover:bg-accent-wash aria-selected:bg-accent-wash [&>td]:border-b [&>td]:border-line [&>td]:px-3 [&>td]:text-right [&>td:not(:first-child)]:whitespace-nowrap"
      >
        <td className="!pl-5 !text-left" style={{ paddingLeft: undefined }}>
          <span className="flex items-center gap-1">
            <span aria-hidden className={`shrink-0 ${indents[depth]}`} />
            {mayOpen ? (
              <button
                type="button"
                tabIndex={-1}
                aria-label={isOpen ? 'Close the row' : 'Open the row'}
                className="rounded p-0.5 text-quiet hover:text-ink"
                onClick={(e) => {
                  e.stopPropagation();
                  toggle(condition);
                }}
              >
                <ChevronRight size={14} strokeWidth={1.5} className={isOpen ? 'rotate-90' : ''} />
              </button>
            ) : (
              <span className="w-[18px] shrink-0" />
            )}
            <span className={key === null ? 'text-quiet' : depth === 0 ? 'font-medium' : ''}>{name}</span>
            {dimension === 'campaign' && key !== null && name !== key && (
              <span className="caption ml-2 truncate font-mono">{key}</span>
            )}
          </span>
        </td>
        <td>{count(f.visits)}</td>
        <td>{count(f.visitors ?? 0)}</td>
        <td>{rate(f.bounceRate)}</td>
        <td>{duration(f.secondsPerVisit)}</td>
        <td>{count(f.conversions)}</td>
        <td>{rate(f.conversionRate)}</td>
        <td>{money(f.revenue)}</td>
        <td className="!pr-5">{money(f.revenuePerVisitor)}</td>
      </tr>,
      isOpen && (
        <Level
          key={`${condition} below`}
          range={range}
          rows={rows}
          depth={depth + 1}
          conditions={here}
          picked={picked}
          onPick={onPick}
        />
      ),
    ];
  });
  return (
    <>
      {shown}
      {rest && (
        <tr className="h-[34px] text-quiet [&>td]:border-b [&>td]:border-line [&>td]:px-3 [&>td]:text-right [&>td:not(:first-child)]:whitespace-nowrap">
          <td className="!pl-5 !text-left">
            <span className="flex items-center gap-1">
              <span aria-hidden className={`shrink-0 ${indents[depth]}`} />
              {count(level.data!.restRows)} more{' '}
              {size < mostRows && (
                <button type="button" className="button-plain" onClick={() => setSize(mostRows)}>
                  Show them
                </button>
              )}
            </span>
          </td>
          <td>{count(rest.visits)}</td>
          <td title="One person may be in several of these rows.">–</td>
          <td>{rate(rest.bounceRate)}</td>
          <td>{duration(rest.secondsPerVisit)}</td>
          <td>{count(rest.conversions)}</td>
          <td>{rate(rest.conversionRate)}</td>
          <td>{money(rest.revenue)}</td>
          <td className="!pr-5">–</td>
        </tr>
      )}
    </>
  );
}
