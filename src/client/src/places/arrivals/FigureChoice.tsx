import { ArrowDown, ArrowUp, Columns3 } from 'lucide-react';
import { Popover } from 'radix-ui';
import type { ArrivalsAnswer } from '../../api/client';
import {
  figureLabel,
  isNamed,
  stationNames,
  usualColumns,
  usualNames,
  usualStations,
  type MeasureName,
} from '../../parts/board/measures';
import { count } from '../../parts/format';

type NamedFigures = ArrivalsAnswer['named'];

interface FigureChoiceProps {
  stations: MeasureName[];
  columns: MeasureName[];
  /** Kinds of conversions and names of events that occur, the commonest first. */
  named: NamedFigures;
  plain: boolean;
  onStations: (names: MeasureName[]) => void;
  onColumns: (names: MeasureName[]) => void;
  onPlain: (plain: boolean) => void;
  onReset: () => void;
}

/** Which figures stand on the line and which follow it, in which order. */
export function FigureChoice({
  stations,
  columns,
  named,
  plain,
  onStations,
  onColumns,
  onPlain,
  onReset,
}: FigureChoiceProps) {
  const isUsual = stations.join() === usualStations.join() && columns.join() === usualColumns.join() && !plain;
  return (
    <Popover.Root>
      <Popover.Trigger className="button h-7 px-2 text-xs max-sm:hidden">
        <Columns3 size={13} strokeWidth={1.5} /> Figures
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={4}
          aria-label="Figures"
          className="floating z-40 flex max-h-[70vh] w-80 flex-col gap-3 overflow-y-auto p-3"
        >
          <Chosen
            title="On the line"
            names={stations}
            offered={stationNames}
            named={named}
            least={1}
            onChange={onStations}
          />
          <Chosen
            title="Beside it"
            names={columns}
            offered={usualNames.filter((n) => !stations.includes(n))}
            named={named.filter((n) => !stations.some((s) => s === n.measure))}
            least={0}
            onChange={onColumns}
          />
          <label className="flex items-center gap-2">
            <input type="checkbox" checked={plain} onChange={(e) => onPlain(e.target.checked)} />
            Plain numbers, without dots and rates <kbd className="kbd ml-auto">n</kbd>
          </label>
          {!isUsual && (
            <button type="button" className="button-plain self-start" onClick={onReset}>
              Reset
            </button>
          )}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

interface ChosenProps {
  title: string;
  names: MeasureName[];
  offered: MeasureName[];
  named: NamedFigures;
  least: number;
  onChange: (names: MeasureName[]) => void;
}

function Chosen({ title, names, offered, named, least, onChange }: ChosenProps) {
  const move = (at: number, by: number) => {
    const next = [...names];
    const [name] = next.splice(at, 1);
    next.splice(at + by, 0, name!);
    onChange(next);
  };
  return (
    <fieldset>
      <legend className="caption mb-1 font-medium">{title}</legend>
      <ul className="flex flex-col">
        {names.map((name, i) => (
          <li key={name} className="flex items-center gap-2">
            <label className="flex flex-1 items-center gap-2 py-0.5">
              <input
                type="checkbox"
                checked
                disabled={names.length <= least}
                onChange={() => onChange(names.filter((n) => n !== name))}
              />
              {figureLabel(name)}
            </label>
            <button
              type="button"
              aria-label={`Move ${figureLabel(name)} up`}
              disabled={i === 0}
              className="flex size-6 items-center justify-center rounded text-quiet hover:text-ink disabled:opacity-30"
              onClick={() => move(i, -1)}
            >
              <ArrowUp size={13} strokeWidth={1.5} />
            </button>
            <button
              type="button"
              aria-label={`Move ${figureLabel(name)} down`}
              disabled={i === names.length - 1}
              className="flex size-6 items-center justify-center rounded text-quiet hover:text-ink disabled:opacity-30"
              onClick={() => move(i, 1)}
            >
              <ArrowDown size={13} strokeWidth={1.5} />
            </button>
          </li>
        ))}
        {offered
          .filter((name) => !names.includes(name))
          .map((name) => (
            <Offer key={name} name={name} onChoose={() => onChange([...names, name])} />
          ))}
        {groups.map(({ title: of, prefix }) => {
          const some = named.filter((n) => n.measure.startsWith(prefix) && !names.some((name) => name === n.measure));
          return (
            some.length > 0 && (
              <li key={prefix}>
                <p className="caption mt-1.5">{of}</p>
                <ul>
                  {some.map(
                    (n) =>
                      isNamed(n.measure) && (
                        <Offer
                          key={n.measure}
                          name={n.measure}
                          times={n.count}
                          onChoose={() => onChange([...names, n.measure as MeasureName])}
                        />
                      ),
                  )}
                </ul>
              </li>
            )
          );
        })}
      </ul>
    </fieldset>
  );
}

const groups = [
  { title: 'Conversions of one kind', prefix: 'conversions:' },
  { title: 'Events of one name', prefix: 'events:' },
];

function Offer({ name, times, onChoose }: { name: MeasureName; times?: number; onChoose: () => void }) {
  return (
    <li>
      <label className="flex items-center gap-2 py-0.5 text-quiet">
        <input type="checkbox" checked={false} onChange={onChoose} />
        <span className="min-w-0 flex-1 truncate">{figureLabel(name)}</span>
        {times !== undefined && <span className="tabular-nums text-2xs">{count(times)}</span>}
      </label>
    </li>
  );
}
