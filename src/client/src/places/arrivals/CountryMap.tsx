import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useMemo, type KeyboardEvent } from 'react';
import type { ArrivalsAnswer } from '../../api/client';
import { live } from '../../api/live';
import { figureOf, figureLabel, isMeasure, sizeOf, type MeasureName } from '../../parts/board/measures';
import { rate } from '../../parts/format';
import { usePerson } from '../../parts/person';
import { conditionOf, partsOf } from './conditions';
import { arrivalsQuery } from './queries';
import { isOpen } from './range';
import { rowName } from './rowName';
import { creditAsked } from './credit';
import { measuresOf, type View } from './view';
import { hasPoints, TownMap } from './TownMap';
import { boundsOf, mapSize, shadeOf, shades, worldShapes } from './worldMap';

interface CountryMapProps {
  view: View;
  /** The condition of the place that is looked at; null for none. */
  picked: string | null;
  onPick: (condition: string) => void;
  /** Narrows the report to a place. */
  onFilter: (condition: string) => void;
}

/** What the list beside the map shows: countries, the regions of one, or the towns of one of these. */
function levelOf(where: readonly string[]): Level {
  const narrowed = (field: string) =>
    where.map(partsOf).some((p) => p?.field === field && p.test === 'is' && p.value !== '');
  return narrowed('region') ? 'town' : narrowed('country') ? 'region' : 'country';
}

/** The country all of it is about; null for several. */
const countryOf = (where: readonly string[]): string | null =>
  where.map(partsOf).find((p) => p?.field === 'country' && p.test === 'is' && p.value !== '')?.value ?? null;

type Level = 'country' | 'region' | 'town';

const levels: Record<Level, string> = { country: 'Country', region: 'Region', town: 'Town' };

/** There are fewer countries than this, and more places below one are not read by anybody. */
const mostPlaces = 300;

const fills = [
  'fill-line',
  'fill-accent opacity-20',
  'fill-accent opacity-40',
  'fill-accent opacity-60',
  'fill-accent opacity-80',
  'fill-accent',
];

/** Countries of the world, shaded in steps by a figure; the list beside it goes on to regions and towns where these are known. */
export function CountryMap({ view, picked, onPick, onFilter }: CountryMapProps) {
  const { today } = usePerson();
  const sorted = view.sort?.replace(/^-/, '') ?? '';
  const figure: MeasureName = isMeasure(sorted) ? sorted : 'visits';
  const read = useQuery({
    ...arrivalsQuery(view.range, {
      rows: 'country',
      where: view.where,
      measures: [measuresOf(view), figure].join(','),
      sort: `-${figure}`,
      ...creditAsked(view.credit),
      size: mostPlaces,
    }),
    placeholderData: keepPreviousData,
    ...(isOpen(view.range, today) && live),
  });
  const level = levelOf(view.where);
  const below = useQuery({
    ...arrivalsQuery(view.range, {
      rows: level,
      where: view.where,
      measures: [measuresOf(view), figure].join(','),
      sort: `-${figure}`,
      ...creditAsked(view.credit),
      size: mostPlaces,
    }),
    placeholderData: keepPreviousData,
    enabled: level !== 'country',
    ...(isOpen(view.range, today) && live),
  });
  const towns = useQuery({
    ...arrivalsQuery(view.range, {
      rows: 'region,town',
      where: view.where,
      measures: figure,
      sort: `-${figure}`,
      ...creditAsked(view.credit),
      size: mostPlaces,
    }),
    placeholderData: keepPreviousData,
    enabled: level !== 'country',
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

  const country = countryOf(view.where);
  return (
    <div className="flex min-h-0 flex-1 bg-sheet max-lg:flex-col">
      {country !== null && towns.data && hasPoints(towns.data) ? (
        <TownMap country={country} figure={figure} answer={towns.data} picked={picked} onPick={onPick} />
      ) : (
        <figure data-picture className="flex min-w-0 flex-1 flex-col p-5">
          <svg
            viewBox={`0 0 ${mapSize.width} ${mapSize.height}`}
            role="img"
            aria-label={`${figureLabel(figure)} by country; the list beside it says the same`}
            className="min-h-0 w-full flex-1"
          >
            {shapes.map(({ code, path }, i) => {
              const shade = code ? shadeOf(sizes.get(code) ?? 0, bounds) : 0;
              const row = code ? known.find((r) => r.keys[0] === code) : undefined;
              return (
                <path
                  key={code ?? i}
                  d={path}
                  className={`${fills[shade]} ${code !== null && conditionOf('country', code) === picked ? 'stroke-ink' : 'stroke-sheet'} ${row ? 'cursor-pointer hover:stroke-ink' : ''}`}
                  strokeWidth={code !== null && conditionOf('country', code) === picked ? 1.5 : 0.5}
                  onClick={() => row && onPick(conditionOf('country', code))}
                >
                  {row && <title>{`${rowName('country', code)}: ${figureOf(figure, row.figures)}`}</title>}
                </path>
              );
            })}
          </svg>
          <figcaption className="mt-2 flex flex-wrap items-center gap-x-4 gap-y-1 text-xs text-quiet">
            <span>{figureLabel(figure)}</span>
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
      )}
      <PlaceList
        level={level}
        figure={figure}
        answer={level === 'country' ? read.data : below.data}
        picked={picked}
        onPick={onPick}
        onFilter={onFilter}
      />
    </div>
  );
}

interface PlaceListProps {
  level: Level;
  figure: MeasureName;
  answer: ArrivalsAnswer | undefined;
  picked: string | null;
  onPick: (condition: string) => void;
  onFilter: (condition: string) => void;
}

/** Places with their figure, the largest first. */
function PlaceList({ level, figure, answer, picked, onPick, onFilter }: PlaceListProps) {
  const total = answer?.total;
  const rows = answer?.rows ?? [];

  function onKey(event: KeyboardEvent<HTMLElement>, condition: string) {
    const next =
      event.key === 'ArrowDown'
        ? event.currentTarget.nextElementSibling
        : event.key === 'ArrowUp'
          ? event.currentTarget.previousElementSibling
          : null;
    if (event.key === 'Enter') onPick(condition);
    else if (event.key === 'f') onFilter(condition);
    else if (next instanceof HTMLElement) next.focus();
    else return;
    event.preventDefault();
  }

  return (
    <div className="w-80 shrink-0 overflow-y-auto border-l border-line max-lg:w-full max-lg:border-l-0">
      <table
        aria-label={level === 'country' ? 'Countries' : `${levels[level]}s`}
        className="w-full border-separate border-spacing-0 tabular-nums"
      >
        <thead className="sticky top-0 bg-sheet text-xs text-quiet">
          <tr className="[&>th]:border-b [&>th]:border-line [&>th]:px-3 [&>th]:py-2 [&>th]:text-right [&>th]:font-medium">
            <th scope="col" className="!text-left">
              {levels[level]}
            </th>
            <th scope="col">{figureLabel(figure)}</th>
            <th scope="col">Of visits</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row, i) => {
            const key = row.keys[0] ?? null;
            const condition = conditionOf(level, key);
            return (
              <tr
                key={key ?? ''}
                tabIndex={condition === picked || (i === 0 && picked === null) ? 0 : -1}
                aria-selected={condition === picked}
                onClick={() => onPick(condition)}
                onKeyDown={(e) => onKey(e, condition)}
                className="h-[34px] cursor-pointer hover:bg-accent-wash aria-selected:bg-accent-wash [&>td]:border-b [&>td]:border-line [&>td]:px-3 [&>td]:text-right"
              >
                <td className={`!text-left ${key === null ? 'text-quiet' : ''}`}>{rowName(level, key)}</td>
                <td>{figureOf(figure, row.figures)}</td>
                <td>{total && total.visits > 0 ? rate(row.figures.visits / total.visits) : ''}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
      {level !== 'country' && rows.length > 0 && rows.every((row) => row.keys[0] == null) && (
        <p className="p-3 text-quiet">
          {levels[level]}s are known where the application is given a file of addresses that names them.
        </p>
      )}
    </div>
  );
}
