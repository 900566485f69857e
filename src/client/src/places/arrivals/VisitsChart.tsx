import { eachDayOfInterval, eachMonthOfInterval, format, parseISO } from 'date-fns';
import { Line, LineChart, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts';
import type { ArrivalsAnswer } from '../../api/client';
import { count } from '../../parts/format';

interface VisitsChartProps {
  days: ArrivalsAnswer['series'];
  per: string;
  from: string;
  to: string;
}

/** Visits by day or month, from zero; one without any stands at zero. */
export function VisitsChart({ days, per, from, to }: VisitsChartProps) {
  const visits = new Map(days.map((d) => [d.day, d.visits]));
  const byMonth = per === 'month';
  const every = (byMonth ? eachMonthOfInterval : eachDayOfInterval)({ start: parseISO(from), end: parseISO(to) });
  const data = every.map((date) => {
    const day = format(date, 'yyyy-MM-dd');
    return { day, visits: visits.get(day) ?? 0 };
  });
  const title = byMonth ? 'Visits by month' : 'Visits by day';
  return (
    <figure className="px-5 pt-3 pb-1" aria-label={title}>
      <figcaption className="caption">{title}</figcaption>
      <ResponsiveContainer width="100%" height={130}>
        <LineChart data={data} margin={{ top: 8, right: 8, bottom: 0, left: 0 }}>
          <XAxis
            dataKey="day"
            tickFormatter={(day: string) => format(parseISO(day), byMonth ? 'MMM yyyy' : 'd MMM')}
            tick={{ fontSize: 11, fill: 'var(--quiet)' }}
            stroke="var(--line-strong)"
            minTickGap={48}
          />
          <YAxis
            domain={[0, 'auto']}
            allowDecimals={false}
            width={40}
            tick={{ fontSize: 11, fill: 'var(--quiet)' }}
            stroke="var(--line-strong)"
            tickCount={3}
          />
          <Tooltip
            isAnimationActive={false}
            contentStyle={{
              background: 'var(--sheet)',
              border: '1px solid var(--line-strong)',
              borderRadius: 4,
              fontSize: 12,
            }}
            labelFormatter={(day) => format(parseISO(String(day)), byMonth ? 'MMMM yyyy' : 'EEEE d MMMM yyyy')}
            formatter={(value) => [count(Number(value)), 'visits']}
          />
          <Line
            type="linear"
            dataKey="visits"
            stroke="var(--accent)"
            strokeWidth={1.5}
            dot={false}
            isAnimationActive={false}
          />
        </LineChart>
      </ResponsiveContainer>
    </figure>
  );
}
