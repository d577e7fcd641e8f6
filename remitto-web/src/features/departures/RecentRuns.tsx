import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { api, ok } from '../../api/client';
import { count, moment } from '../../components/format';
import { Card, Pill, TD, TH } from '../../components/ui';
import { VERDICTS } from '../../components/verdicts';
import { stateOf } from '../manifests/state';

/** The latest runs of every route. */
export function RecentRuns({ zone }: { zone: string }) {
  const runs = useQuery({
    queryKey: ['runs'],
    queryFn: () => ok(api.GET('/api/runs')),
    refetchInterval: 4000,
  });
  return (
    <Card title="Latest manifests" aside={zone}>
      <table className="w-full border-collapse">
        <thead>
          <tr>
            <th className={TH}>No.</th>
            <th className={TH}>Route</th>
            <th className={TH}>When</th>
            {(['ADDED', 'CHANGED', 'UNCHANGED', 'HELD', 'LEFT_OUT'] as const).map((verdict) => (
              <th key={verdict} className={`${TH} text-right`}>
                {VERDICTS[verdict].word}
              </th>
            ))}
            <th className={TH}>State</th>
          </tr>
        </thead>
        <tbody>
          {(runs.data?.runs ?? []).slice(0, 8).map((run) => (
            <tr key={run.id}>
              <td className={`${TD} font-mono`}>
                <Link to={`/manifests/${run.id}`} className="text-deep">
                  {run.id}
                </Link>
              </td>
              <td className={TD}>
                {run.route}
                {run.trigger === 'TRIAL' && <span className="text-soft">, one tried</span>}
              </td>
              <td className={`${TD} font-mono`}>{moment(run.startedAt)}</td>
              <td className={`${TD} text-added text-right font-mono`}>{count(run.counts.added)}</td>
              <td className={`${TD} text-changed text-right font-mono`}>{count(run.counts.changed)}</td>
              <td className={`${TD} text-soft text-right font-mono`}>{count(run.counts.unchanged)}</td>
              <td className={`${TD} text-held text-right font-mono`}>{count(run.counts.held)}</td>
              <td className={`${TD} text-soft text-right font-mono`}>{count(run.counts.leftOut)}</td>
              <td className={TD}>
                <Pill tone={stateOf(run).tone}>{stateOf(run).label}</Pill>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </Card>
  );
}
