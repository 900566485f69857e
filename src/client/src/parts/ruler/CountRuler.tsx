import { useMemo } from 'react';
import type { Schema } from '../../api/client';
import { Ruler, type RulerNote } from './Ruler';
import { firstDayOf, type Unit } from './rulerScale';

interface CountRulerProps {
  counts: Schema['LinkCounts'];
  /** Visits by the first days of the same units; left out by hour, since visits are known by day. */
  visits?: Schema['ArrivalsDay'][];
  today: string;
  notes?: RulerNote[];
}

/** Clicks and scans of one link as bars, by hour, day or month as they were counted, and its visits as a line over them. */
export function CountRuler({ counts, visits = [], today, notes }: CountRulerProps) {
  const unit = counts.unit as Unit;
  const points = useMemo(
    () =>
      new Map(
        counts.series.map((s) => [
          firstDayOf(unit, unit === 'hour' ? s.from : s.from.slice(0, 10)),
          s.clicks + s.scans,
        ]),
      ),
    [counts, unit],
  );
  const clicked = [...points.values()].some((n) => n > 0);
  const arrived = new Map(visits.map((p) => [p.day, p.visits]));
  const days = {
    from: counts.series[0]?.from.slice(0, 10) ?? today,
    to: counts.series.at(-1)?.from.slice(0, 10) ?? today,
  };
  // A month on the ruler ends with its last day, or today.
  const to = unit === 'month' && days.to < today ? today : days.to;
  return (
    <Ruler
      extent={{ from: days.from, to, unit }}
      counts={clicked || arrived.size === 0 ? 'Clicks and scans' : 'Visits'}
      points={clicked || arrived.size === 0 ? points : arrived}
      lines={clicked && arrived.size > 0 ? [{ name: 'Visits', points: arrived }] : undefined}
      range={{ from: days.from, to }}
      today={today}
      notes={notes}
    />
  );
}
