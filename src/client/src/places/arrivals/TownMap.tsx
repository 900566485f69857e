import { useQuery } from '@tanstack/react-query';
import type { ArrivalsAnswer } from '../../api/client';
import { figureLabel, figureOf, sizeOf, type MeasureName } from '../../parts/board/measures';
import { rate } from '../../parts/format';
import { conditionOf } from './conditions';
import { labelled, townRadius } from './countryOutline';
import { countryOutlineQuery } from './queries';
import { rowName } from './rowName';
import { mapSize } from './worldMap';

interface TownMapProps {
  /** ISO 3166-1 alpha-2. */
  country: string;
  figure: MeasureName;
  /** Rows by region and town. */
  answer: ArrivalsAnswer;
  picked: string | null;
  onPick: (condition: string) => void;
}

/** So many towns have their names on the map. */
const mostNames = 12;

/** True where it is known of a row where its town lies. */
export const hasPoints = (answer: ArrivalsAnswer | undefined): boolean =>
  answer?.rows.some((row) => row.point != null) ?? false;

/** The towns of a country as dots, each as large as its figure; the list beside it goes by regions and towns. */
export function TownMap({ country, figure, answer, picked, onPick }: TownMapProps) {
  const towns = answer.rows.flatMap((row) =>
    row.point && row.keys[1] != null
      ? [{ key: row.keys.join('\n'), name: row.keys[1], point: row.point, figures: row.figures }]
      : [],
  );
  const { data: outline } = useQuery(
    countryOutlineQuery(
      country,
      towns.map((t) => t.point),
    ),
  );
  const most = Math.max(0, ...towns.map((t) => sizeOf(figure, t.figures) ?? 0));
  const dots = towns
    .map((t) => {
      const [x, y] = outline?.place(t.point) ?? [0, 0];
      return { ...t, x, y, radius: townRadius(sizeOf(figure, t.figures) ?? 0, most) };
    })
    .filter((d) => d.radius > 0)
    .sort((a, b) => b.radius - a.radius);
  const names = new Set(labelled(dots, mostNames));
  const placed = towns.reduce((sum, t) => sum + t.figures.visits, 0);
  const { visits } = answer.total;
  return (
    <figure data-picture className="flex min-w-0 flex-1 flex-col p-5">
      <svg
        viewBox={`0 0 ${mapSize.width} ${mapSize.height}`}
        role="img"
        aria-label={`${figureLabel(figure)} by town of ${rowName('country', country)}; the list beside it says the same`}
        className="min-h-0 w-full flex-1"
      >
        {outline?.paths.map(({ code, path }, i) => (
          <path
            key={i}
            d={path}
            strokeWidth={0.5}
            className={`stroke-sheet ${code === country ? 'fill-accent opacity-20' : 'fill-line'}`}
          />
        ))}
        {outline &&
          dots.map((d) => {
            const condition = conditionOf('town', d.name);
            return (
              <circle
                key={d.key}
                cx={d.x}
                cy={d.y}
                r={d.radius}
                className={`cursor-pointer fill-accent opacity-80 hover:stroke-ink ${condition === picked ? 'stroke-ink' : 'stroke-sheet'}`}
                onClick={() => onPick(condition)}
              >
                <title>{`${d.name}: ${figureOf(figure, d.figures)}`}</title>
              </circle>
            );
          })}
        {outline &&
          dots
            .filter((d) => names.has(d.key))
            .map((d) => (
              <text
                key={d.key}
                x={d.x + d.radius + 3}
                y={d.y}
                dominantBaseline="central"
                className="pointer-events-none fill-ink text-2xs"
              >
                {d.name}
              </text>
            ))}
      </svg>
      <figcaption className="mt-2 flex flex-wrap items-center gap-x-4 gap-y-1 text-xs text-quiet">
        <span>{figureLabel(figure)}; a dot’s area is its figure</span>
        {visits > 0 && placed < visits && (
          <span className="ml-auto">
            Town unknown, or not among the largest, for {rate(1 - placed / visits)} of visits
          </span>
        )}
      </figcaption>
    </figure>
  );
}
