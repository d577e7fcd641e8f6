import { useMutation } from '@tanstack/react-query';
import { Link } from 'react-router';
import {
  CartesianGrid,
  Legend,
  Line,
  LineChart,
  ReferenceLine,
  ResponsiveContainer,
  Tooltip,
  XAxis,
  YAxis,
} from 'recharts';
import { api, ok } from '../../api/client';
import type { QualityView } from '../../api/types';
import { count, counted } from '../../components/format';
import { Card, Failure, TD } from '../../components/ui';
import { type Kin } from './entityTypes';
import { bits } from './words';

const share = (value: number) => `${(value * 100).toFixed(2)}%`;

/** How good the people are, measured by labels in a file. */
export function QualityCard({ whom }: { whom: Kin }) {
  const measure = useMutation({
    mutationFn: async (file: File) =>
      ok(
        api.POST('/api/people/quality', {
          params: { query: { entityType: whom.entityType } },
          body: { text: await file.text() },
        }),
      ),
  });
  return (
    <Card title="Match quality">
      <div className="px-4 pb-3">
        <label className="block">
          <span className="text-soft block pb-1">
            A CSV file with known matches: columns dataset, key and person
          </span>
          <input
            type="file"
            accept=".csv,text/csv"
            onChange={(event) => {
              const file = event.target.files?.[0];
              if (file) measure.mutate(file);
            }}
          />
        </label>
        <Failure error={measure.error} />
        {measure.data && <Measured quality={measure.data} />}
      </div>
    </Card>
  );
}

function Measured({ quality }: { quality: QualityView }) {
  return (
    <>
      <p role="status">
        {counted(quality.labelled, 'record')} with a label
        {quality.unknown > 0 && `; ${count(quality.unknown)} more labels refer to unknown records`}.
      </p>
      <table className="border-collapse" aria-label="Measured quality">
        <thead>
          <tr>
            <th>
              <span className="sr-only">Metric</span>
            </th>
            <th className="px-3 text-right font-medium">Precision</th>
            <th className="px-3 text-right font-medium">Recall</th>
            <th className="px-3 text-right font-medium">F1</th>
          </tr>
        </thead>
        <tbody>
          <tr>
            <th scope="row" className="text-left font-normal">
              of pairs
            </th>
            <td className="px-3 text-right font-mono">{share(quality.precision)}</td>
            <td className="px-3 text-right font-mono">{share(quality.recall)}</td>
            <td className="px-3 text-right font-mono">{share(quality.f1)}</td>
          </tr>
          <tr>
            <th scope="row" className="text-left font-normal">
              of records (B-cubed)
            </th>
            <td className="px-3 text-right font-mono">{share(quality.bCubedPrecision)}</td>
            <td className="px-3 text-right font-mono">{share(quality.bCubedRecall)}</td>
            <td className="px-3 text-right font-mono">{share(quality.bCubedF1)}</td>
          </tr>
        </tbody>
      </table>
      {quality.curve.length > 0 && <Curve quality={quality} />}
      <Mistakes title="Matched, but different people" mistakes={quality.wrong} />
      <Mistakes title="Same person, but not matched" mistakes={quality.missed} />
    </>
  );
}

/** Precision and recall over the weight from which records are joined. */
function Curve({ quality }: { quality: QualityView }) {
  const best = quality.curve.reduce((one, other) => (other.f1 > one.f1 ? other : one));
  return (
    <figure className="m-0 mt-3">
      <figcaption className="text-soft pb-1">
        Results for other match thresholds, on the labelled records only. The threshold is now{' '}
        {bits(quality.join)}; F1 is highest, {share(best.f1)}, at {bits(best.join)} .
      </figcaption>
      <div className="h-[170px]" role="img" aria-label="Precision and recall by threshold">
        <ResponsiveContainer>
          <LineChart data={quality.curve} margin={{ top: 8, right: 12, bottom: 0, left: 0 }}>
            <CartesianGrid stroke="var(--hairline)" vertical={false} />
            <XAxis
              dataKey="join"
              tick={{ fill: 'var(--soft)', fontSize: 11 }}
              tickLine={false}
              axisLine={{ stroke: 'var(--hairline)' }}
            />
            <YAxis
              domain={[0, 1]}
              width={44}
              tickFormatter={(value: number) => `${Math.round(value * 100)}%`}
              tick={{ fill: 'var(--soft)', fontSize: 11 }}
              tickLine={false}
              axisLine={false}
            />
            <Tooltip
              formatter={(value) => share(Number(value))}
              labelFormatter={(join) => `at ${bits(Number(join))}`}
              contentStyle={{
                background: 'var(--card)',
                border: '1px solid var(--hairline)',
                borderRadius: 8,
              }}
            />
            <Legend />
            <ReferenceLine x={quality.join} stroke="var(--buoy)" />
            <Line
              dataKey="precision"
              stroke="var(--deep)"
              strokeWidth={2}
              dot={false}
              isAnimationActive={false}
            />
            <Line
              dataKey="recall"
              stroke="var(--changed)"
              strokeWidth={2}
              strokeDasharray="6 3"
              dot={false}
              isAnimationActive={false}
            />
          </LineChart>
        </ResponsiveContainer>
      </div>
    </figure>
  );
}

function Mistakes({ title, mistakes }: { title: string; mistakes: QualityView['wrong'] }) {
  if (mistakes.length === 0) return null;
  return (
    <>
      <h3 className="mt-3 mb-1 text-[0.8125rem] font-semibold">{title}</h3>
      <table className="w-full border-collapse">
        <tbody>
          {mistakes.slice(0, 10).map((mistake) => (
            <tr key={mistake.one.key + mistake.other.key}>
              <td className={TD}>
                <Link to={`/people/${mistake.onePerson}`} className="text-deep font-mono underline">
                  {mistake.one.key}
                </Link>
              </td>
              <td className={TD}>
                <Link to={`/people/${mistake.otherPerson}`} className="text-deep font-mono underline">
                  {mistake.other.key}
                </Link>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  );
}
