import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { campaignsQuery } from '../../api/queries';
import { live } from '../../api/live';
import { usePerson } from '../../parts/person';
import { Ruler, type RulerLine } from '../../parts/ruler/Ruler';
import { extentOf, type Extent } from '../../parts/ruler/rulerScale';
import { arrivalsQuery, dayNotesQuery } from './queries';
import { comparedWith, daysOf, isOpen } from './range';
import { rowName } from './rowName';
import type { Changes } from './useView';
import type { View } from './view';

interface ArrivalsRulerProps {
  view: View;
  set: (changes: Changes) => void;
  onNote: (day: string) => void;
}

/** Days that are shown hour by hour, at most. */
const mostDaysByHour = 3;

/** Visits over a longer stretch than the range, with the campaigns that ran; taller with a line for each of the first rows. */
export function ArrivalsRuler({ view, set, onNote }: ArrivalsRulerProps) {
  const { today } = usePerson();
  const compared = comparedWith(view.compare, view.range);
  const { from, to } = view.range;
  // Taller, a few days are shown hour by hour.
  const byHour = view.tall && daysOf(view.range) <= mostDaysByHour;
  const extent = useMemo(
    (): Extent =>
      byHour
        ? { from, to, unit: 'hour' }
        : extentOf({ from, to }, compared && { from: compared.from, to: compared.to }, today),
    // A range is made anew each time and has the same days.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [from, to, compared?.from, compared?.to, today, byHour],
  );
  const asked = useQuery({
    ...arrivalsQuery(
      { from: extent.from, to: extent.to },
      {
        rows: byHour ? 'day,hour' : view.tall ? view.rows[0]! : '',
        where: view.where,
        measures: 'visits',
        ...(byHour ? { size: 24 * mostDaysByHour } : { series: extent.unit, ...(view.tall && { size: 25 }) }),
      },
    ),
    placeholderData: keepPreviousData,
    ...(isOpen(extent, today) && live),
  });
  const campaigns = useQuery(campaignsQuery());
  const notes = useQuery(dayNotesQuery({ from: extent.from, to: extent.to }));
  const points = useMemo(
    () =>
      new Map(
        byHour
          ? asked.data?.rows.map((row) => [`${row.keys[0]}T${row.keys[1]?.padStart(2, '0')}:00`, row.figures.visits])
          : asked.data?.series.map((p) => [p.day, p.visits]),
      ),
    [asked.data, byHour],
  );
  const lines = useMemo(
    () =>
      view.tall && !byHour && asked.data
        ? asked.data.rows
            .filter((row) => row.series)
            .map((row): RulerLine => ({
              name: rowName(view.rows[0]!, row.keys[0] ?? null, asked.data.names[view.rows[0]!]),
              points: new Map(asked.data.series.map((p, i) => [p.day, row.series![i]!])),
            }))
        : [],
    [asked.data, view.tall, view.rows, byHour],
  );
  return (
    <Ruler
      extent={extent}
      counts="Visits"
      points={points}
      range={view.range}
      compared={compared}
      bars={campaigns.data?.filter((c) => c.startsOn !== null)}
      notes={notes.data}
      lines={lines}
      onNote={onNote}
      today={today}
      tall={view.tall}
      onRange={(range) => set({ from: range.from, to: range.to, span: null })}
    />
  );
}
