import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useMemo, type KeyboardEvent } from 'react';
import { live } from '../../api/live';
import { figureOf, measures, sizeOf, type MeasureName } from '../../parts/board/measures';
import { rate } from '../../parts/format';
import { usePerson } from '../../parts/person';
import { arrivalsQuery } from './queries';
import { isOpen } from './range';
import { rowName } from './rowName';
import { measuresOf, type View } from './view';
import { boundsOf, mapSize, shadeOf, shades, worldShapes } from './worldMap';

interface CountryMapProps {
  view: View;
  /** The country that is looked at; null for none. */
  picked: string | null;
  onPick: (code: string) => void;
  /** Narrows the report to a country. */
  onFilter: (code: string) => void;
}

/** There are fewer countries than this. */
const allCountries = 300;

const fills = [
  'fill-line',
  'fill-accent opacity-20',
  'fill-accent opacity-40',
  'fill-accent opacity-60',
  'fill-accent opacity-80',
  'fill-accent',
];

/** Countries of the world, shaded in steps by a figure, with the list beside it. */
export function CountryMap({ view, picked, onPick, onFilter }: CountryMapProps) {
  const { today } = usePerson();
  const figure: MeasureName =
    view.sort && view.sort.replace(/^-/, '') in measures ? (view.sort.replace(/^-/, '') as MeasureName) : 'visits';
  const read = useQuery({
    ...arrivalsQuery(view.range, {
      rows: 'country',
      where: view.where,
      measures: [measuresOf(view), figure].join(','),
      sort: `-${figure}`,
      size: allCountries,
    }),
    placeholderData: keepPreviousData,
    ...(isOpen(view.range, today) && live),
  });
  const shapes = useMemo(() => worldShapes(), []);
  if (read.isError) return <p className="flex-1 bg-sheet p-5 text-error">{read.error.message}</p>;
  const rows = read.data?.rows ?? [];
  const known = rows.filter((row) => row.keys[0] != null);
  const sizes = new Map(known.map((row) => [row.keys[0]!, sizeOf(figure, row.figures) ?? 0]));
  const bounds = boundsOf([...sizes.values()]);
  const total = read.data?.total;
  const unknown = rows.find((row) => row.keys[0] == null)?.figures.visits ?? 0;

  function onKey(event: KeyboardEvent<HTMLElement>, code: string) {
    const next =
      event.key === 'ArrowDown'
        ? event.currentTarget.nextElementSibling
        : event.key === 'ArrowUp'
          ? event.currentTarget.previousElementSibling
          : null;
    if (event.key === 'Enter') onPick(code);
    else if (event.key === 'f') onFilter(code);
    else if (next instanceof HTMLElement) next.focus();
    else return;
    event.preventDefault();
  }

  return (
    <div className="flex min-h-0 flex-1 bg-sheet max-lg:flex-col">
      <figure className="flex min-w-0 flex-1 flex-col p-5">
        <svg
          viewBox={`0 0 ${mapSize.width} ${mapSize.height}`}
          role="img"
          aria-label={`${measures[figure].label} by country; the list beside it says the same`}
          className="min-h-0 w-full flex-1"
        >
          {shapes.map(({ code, path }, i) => {
            const shade = code ? shadeOf(sizes.get(code) ?? 0, bounds) : 0;
            const row = code ? known.find((r) => r.keys[0] === code) : undefined;
            return (
              <path
                key={code ?? i}
                d={path}
                className={`${fills[shade]} ${code !== null && code === picked ? 'stroke-ink' : 'stroke-sheet'} ${row ? 'cursor-pointer hover:stroke-ink' : ''}`}
                strokeWidth={code !== null && code === picked ? 1.5 : 0.5}
                onClick={() => row && onPick(code!)}
              >
                {row && <title>{`${rowName('country', code)}: ${figureOf(figure, row.figures)}`}</title>}
              </path>
            );
          })}
        </svg>
        <figcaption className="mt-2 flex flex-wrap items-center gap-x-4 gap-y-1 text-xs text-quiet">
          <span>{measures[figure].label}</span>
          {bounds.map((bound, i) => (
            <span key={bound} className="inline-flex items-center gap-1 tabular-nums">
              <svg width={12} height={12} aria-hidden>
                <rect width={12} height={12} className={fills[i + 1 + shades - bounds.length]} />
              </svg>
              up to {bound.toLocaleString('en-IE')}
            </span>
          ))}
          {total && total.visits > 0 && (
            <span className="ml-auto">Country unknown for {rate(unknown / total.visits)} of visits</span>
          )}
        </figcaption>
      </figure>
      <div className="w-80 shrink-0 overflow-y-auto border-l border-line max-lg:w-full max-lg:border-l-0">
        <table aria-label="Countries" className="w-full border-separate border-spacing-0 tabular-nums">
          <thead className="sticky top-0 bg-sheet text-xs text-quiet">
            <tr className="[&>th]:border-b [&>th]:border-line [&>th]:px-3 [&>th]:py-2 [&>th]:text-right [&>th]:font-medium">
              <th scope="col" className="!text-left">
                Country
              </th>
              <th scope="col">{measures[figure].label}</th>
              <th scope="col">Of visits</th>
            </tr>
          </thead>
          <tbody>
            {rows.map((row, i) => {
              const code = row.keys[0] ?? '';
              return (
                <tr
                  key={code}
                  tabIndex={code === picked || (i === 0 && picked === null) ? 0 : -1}
                  aria-selected={code === picked}
                  onClick={() => onPick(code)}
                  onKeyDown={(e) => onKey(e, code)}
                  className="h-[34px] cursor-pointer hover:bg-accent-wash aria-selected:bg-accent-wash [&>td]:border-b [&>td]:border-line [&>td]:px-3 [&>td]:text-right"
                >
                  <td className={`!text-left ${code === '' ? 'text-quiet' : ''}`}>
                    {rowName('country', code || null)}
                  </td>
                  <td>{figureOf(figure, row.figures)}</td>
                  <td>{total && total.visits > 0 ? rate(row.figures.visits / total.visits) : ''}</td>
                </tr>
              );
            })}
          </tbody>
        </table>
      </div>
    </div>
  );
}
