import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { api, ok } from '../../api/client';
import type { Run, Verdict } from '../../api/types';
import { count } from '../../components/format';
import { Card } from '../../components/ui';
import { VERDICTS } from '../../components/verdicts';

const SHOWN: [Verdict, 'added' | 'changed' | 'removed' | 'unchanged' | 'held'][] = [
  ['ADDED', 'added'],
  ['CHANGED', 'changed'],
  ['REMOVED', 'removed'],
  ['UNCHANGED', 'unchanged'],
  ['HELD', 'held'],
];

/** A manifest that waits, beside the one sent before it. */
export function Comparison({ run }: { run: Run }) {
  const { data } = useQuery({
    queryKey: ['run-comparison', run.id],
    queryFn: () => ok(api.GET('/api/runs/{id}/comparison', { params: { path: { id: run.id } } })),
  });
  if (!data?.before || !data.counts) return null;
  const { counts } = data;
  return (
    <Card
      title="Compared with the previous manifest"
      aside={
        <Link to={`/manifests/${data.before}`} className="text-deep">
          no. {data.before}
        </Link>
      }
    >
      <table className="mx-4 mb-3 w-[calc(100%-32px)] border-collapse">
        <thead>
          <tr className="text-soft text-right">
            <td />
            <th className="font-medium">now</th>
            <th className="font-medium">then</th>
          </tr>
        </thead>
        <tbody>
          <tr>
            <th scope="row" className="text-left font-normal">
              read
            </th>
            <td className="text-right font-mono">{count(run.counts.read)}</td>
            <td className="text-soft text-right font-mono">{count(counts.read)}</td>
          </tr>
          {SHOWN.map(([verdict, name]) => (
            <tr key={name}>
              <th scope="row" className="text-left font-normal">
                <span className={`font-mono ${VERDICTS[verdict].text}`}>{VERDICTS[verdict].sign}</span> {name}
              </th>
              <td className="text-right font-mono">{count(run.counts[name])}</td>
              <td className="text-soft text-right font-mono">{count(counts[name])}</td>
            </tr>
          ))}
          {data.fields.slice(0, 4).map((field) => (
            <tr key={field.field}>
              <th scope="row" className="text-soft text-left font-normal">
                {field.field}
              </th>
              <td className="text-right font-mono">{count(field.now)}</td>
              <td className="text-soft text-right font-mono">{count(field.before)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="text-soft m-0 px-4 pb-3">
        {data.versions.length > 0
          ? `Put in service since then: ${data.versions.join('; ')}.`
          : 'The versions in service are the same.'}
      </p>
    </Card>
  );
}
