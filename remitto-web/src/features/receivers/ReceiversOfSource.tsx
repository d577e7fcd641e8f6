import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { api, ok } from '../../api/client';
import type { Source } from '../../api/types';
import { count } from '../../components/format';
import { Ago } from '../../components/Moment';
import { Card, Failure, Pill, Skeleton, TD, TH } from '../../components/ui';
import { ActLink } from '../session/Editors';
import { checkWords } from './words';

/** Receivers of a source, which take the calls of other tools. */
export function ReceiversOfSource({ source }: { source: Source }) {
  const receivers = useQuery({
    queryKey: ['receivers'],
    queryFn: () => ok(api.GET('/api/receivers')),
    refetchInterval: 15_000,
  });
  const here = receivers.data?.filter((one) => one.sourceId === source.id);
  return (
    <Card
      title="Receivers"
      aside={<ActLink to={`/sources/${source.id}/receivers/new`}>New receiver</ActLink>}
    >
      <Failure error={receivers.error} />
      {!here ? (
        !receivers.error && <Skeleton rows={2} />
      ) : here.length === 0 ? (
        <p className="text-soft m-0 max-w-[65ch] px-4 pt-1 pb-4">
          A receiver has an address that another tool calls when something happens there. Its calls become a
          table that datasets are made from.
        </p>
      ) : (
        <table className="w-full border-collapse">
          <thead>
            <tr>
              <th className={TH}>Receiver</th>
              <th className={TH}>Checked by</th>
              <th className={`${TH} text-right`}>Calls in 24 hours</th>
              <th className={`${TH} text-right`}>Held</th>
              <th className={TH}>Last call</th>
            </tr>
          </thead>
          <tbody>
            {here.map((one) => (
              <tr key={one.id}>
                <td className={TD}>
                  <Link to={`/sources/${source.id}/receivers/${one.id}`} className="text-ink font-semibold">
                    {one.name}
                  </Link>{' '}
                  {one.paused && <Pill>paused</Pill>}{' '}
                  {one.catching && <Pill tone="warn">no columns yet</Pill>}
                  <div className="text-soft font-mono">landed.{one.table}</div>
                </td>
                <td className={TD}>{checkWords(one.definition.check)}</td>
                <td className={`${TD} text-right font-mono`}>{upTo(one.counts.lastDay)}</td>
                <td className={`${TD} text-right font-mono`}>
                  {one.counts.held > 0 ? <Pill tone="held">‖ {upTo(one.counts.held)}</Pill> : count(0)}
                </td>
                <td className={TD}>
                  {one.counts.lastAt ? (
                    <Ago at={one.counts.lastAt} />
                  ) : (
                    <span className="text-soft">never</span>
                  )}
                  {one.problem && <div className="text-removed">{one.problem}</div>}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </Card>
  );
}

/** Counts go up to 10,000. */
export function upTo(value: number): string {
  return value >= 10_000 ? `${count(10_000)}+` : count(value);
}
