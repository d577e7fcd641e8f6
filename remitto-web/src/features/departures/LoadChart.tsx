import { Bar, BarChart, CartesianGrid, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts';
import type { Board } from '../../api/types';
import { count } from '../../components/format';

const COLOURS = ['var(--deep)', 'var(--changed)', 'var(--held)', 'var(--added)'];

/** Records acknowledged per hour of the reader's day, stacked by destination. */
export function LoadChart({ load }: { load: Board['load'] }) {
  const destinations = [...new Set(load.map((one) => one.destination))];
  const hours = Array.from({ length: 24 }, (_, hour) => {
    const row: Record<string, number | string> = { hour: String(hour).padStart(2, '0') };
    for (const one of load) if (new Date(one.hour).getHours() === hour) row[one.destination] = one.records;
    return row;
  });
  if (load.length === 0) return <p className="text-soft m-0 px-4 pt-1 pb-4">Nothing has been sent today.</p>;
  return (
    <div
      className="h-[190px] px-2 pb-2"
      role="img"
      aria-label={`Records accepted today: ${count(load.reduce((sum, one) => sum + one.records, 0))}`}
    >
      <ResponsiveContainer>
        <BarChart data={hours} margin={{ top: 8, right: 12, bottom: 0, left: 0 }}>
          <CartesianGrid stroke="var(--hairline)" vertical={false} />
          <XAxis
            dataKey="hour"
            tick={{ fill: 'var(--soft)', fontSize: 11 }}
            tickLine={false}
            axisLine={{ stroke: 'var(--hairline)' }}
          />
          <YAxis
            tick={{ fill: 'var(--soft)', fontSize: 11 }}
            tickLine={false}
            axisLine={false}
            width={44}
            allowDecimals={false}
          />
          <Tooltip
            cursor={{ fill: 'var(--sunk)' }}
            contentStyle={{ background: 'var(--card)', border: '1px solid var(--hairline)', borderRadius: 8 }}
          />
          {destinations.map((destination, i) => (
            <Bar
              key={destination}
              dataKey={destination}
              stackId="all"
              fill={COLOURS[i % COLOURS.length]}
              isAnimationActive={false}
            />
          ))}
        </BarChart>
      </ResponsiveContainer>
    </div>
  );
}
