import {
  Bar,
  CartesianGrid,
  ComposedChart,
  Line,
  ResponsiveContainer,
  Tooltip,
  XAxis,
  YAxis,
} from 'recharts';
import type { MemberCount } from '../../api/types';
import { count, moment } from '../../components/format';
import { Card } from '../../components/ui';

/** Members by count, with who joined and who left at each. */
export function Growth({ counts }: { counts: MemberCount[] }) {
  const good = counts.filter((one) => one.problem === '').reverse();
  // Everybody joins at the very first count, which says nothing of growth.
  const first = good[0];
  const grown = first && first.joined === first.members ? good.slice(1) : good;
  const joined = grown.reduce((sum, one) => sum + one.joined, 0);
  const gone = good.reduce((sum, one) => sum + one.gone, 0);
  const data = good.map((one) => ({
    at: moment(one.countedAt),
    members: one.members,
    joined: grown.includes(one) ? one.joined : 0,
    gone: one.gone,
  }));
  return (
    <Card title="Members" aside={`the last ${good.length === 1 ? 'count' : `${good.length} counts`}`}>
      {data.length > 1 && (
        <div aria-hidden className="h-[140px] px-2 pt-2">
          <ResponsiveContainer width="100%" height="100%">
            <ComposedChart data={data} margin={{ top: 4, right: 8, bottom: 0, left: 0 }}>
              <CartesianGrid stroke="var(--hairline)" vertical={false} />
              <XAxis dataKey="at" hide />
              <YAxis
                width={44}
                tick={{ fontSize: 11, fill: 'var(--soft)' }}
                tickLine={false}
                axisLine={false}
              />
              <Tooltip contentStyle={{ background: 'var(--card)', border: '1px solid var(--hairline)' }} />
              <Bar dataKey="joined" fill="var(--added)" isAnimationActive={false} />
              <Bar dataKey="gone" fill="var(--removed)" isAnimationActive={false} />
              <Line
                dataKey="members"
                stroke="var(--deep)"
                strokeWidth={2}
                dot={false}
                isAnimationActive={false}
              />
            </ComposedChart>
          </ResponsiveContainer>
        </div>
      )}
      <p className="m-0 flex justify-between px-4 pt-1 pb-1">
        <span className="text-added">
          + {count(joined)} joined{grown.length < good.length && ' since the first'}
        </span>
        <span className="text-removed">− {count(gone)} left</span>
      </p>
      <details className="px-4 pb-3">
        <summary className="text-deep cursor-pointer">All counts</summary>
        <table className="mt-1 w-full border-collapse">
          <thead>
            <tr className="text-soft text-left">
              <th className="font-medium">At</th>
              <th className="text-right font-medium">Members</th>
              <th className="text-right font-medium">+</th>
              <th className="text-right font-medium">−</th>
            </tr>
          </thead>
          <tbody>
            {[...good].reverse().map((one) => (
              <tr key={one.id} title={`version ${one.version}, by ${one.startedBy}`}>
                <td>{moment(one.countedAt)}</td>
                <td className="text-right font-mono">{count(one.members)}</td>
                <td className="text-right font-mono">{count(one.joined)}</td>
                <td className="text-right font-mono">{count(one.gone)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </details>
    </Card>
  );
}
