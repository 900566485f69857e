import { ArrowDown, ArrowUp, Columns3 } from 'lucide-react';
import { Popover } from 'radix-ui';
import { measures, stationNames, usualColumns, usualStations, type MeasureName } from '../../parts/board/measures';

interface FigureChoiceProps {
  stations: MeasureName[];
  columns: MeasureName[];
  plain: boolean;
  onStations: (names: MeasureName[]) => void;
  onColumns: (names: MeasureName[]) => void;
  onPlain: (plain: boolean) => void;
  onReset: () => void;
}

/** Which figures stand on the line and which follow it, in which order. */
export function FigureChoice({ stations, columns, plain, onStations, onColumns, onPlain, onReset }: FigureChoiceProps) {
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
          <Chosen title="On the line" names={stations} offered={stationNames} least={1} onChange={onStations} />
          <Chosen
            title="Beside it"
            names={columns}
            offered={(Object.keys(measures) as MeasureName[]).filter((n) => !stations.includes(n))}
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
  least: number;
  onChange: (names: MeasureName[]) => void;
}

function Chosen({ title, names, offered, least, onChange }: ChosenProps) {
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
              {measures[name].label}
            </label>
            <button
              type="button"
              aria-label={`Move ${measures[name].label} up`}
              disabled={i === 0}
              className="flex size-6 items-center justify-center rounded text-quiet hover:text-ink disabled:opacity-30"
              onClick={() => move(i, -1)}
            >
              <ArrowUp size={13} strokeWidth={1.5} />
            </button>
            <button
              type="button"
              aria-label={`Move ${measures[name].label} down`}
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
            <li key={name}>
              <label className="flex items-center gap-2 py-0.5 text-quiet">
                <input type="checkbox" checked={false} onChange={() => onChange([...names, name])} />
                {measures[name].label}
              </label>
            </li>
          ))}
      </ul>
    </fieldset>
  );
}
