import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { api, ok } from '../../api/client';
import { count } from '../../components/format';
import { Ago } from '../../components/Moment';
import { Card, Failure, Pill, TD, TH } from '../../components/ui';

/** The crosswalk tables, below the datasets. */
export function Crosswalks() {
  const { data, error } = useQuery({
    queryKey: ['crosswalks'],
    queryFn: () => ok(api.GET('/api/crosswalks')),
  });
  return (
    <Card className="mt-4" title="Crosswalks">
      <Failure error={error} />
      <p className="text-soft m-0 px-4">
        Tables that map our values to a destination's.{' '}
        <Link to="/crosswalks/new" className="text-deep underline">
          New crosswalk
        </Link>
      </p>
      {data && data.length > 0 && (
        <table className="w-full border-collapse">
          <thead>
            <tr>
              <th className={TH}>Name</th>
              <th className={`${TH} text-right`}>Values</th>
              <th className={TH}>Saved</th>
              <th className={TH}>Version</th>
            </tr>
          </thead>
          <tbody>
            {data.map((one) => (
              <tr key={one.id}>
                <td className={TD}>
                  <Link to={`/crosswalks/${one.id}`} className="text-ink font-semibold">
                    {one.name}
                  </Link>
                  <div className="text-soft">{one.description}</div>
                </td>
                <td className={`${TD} text-right font-mono`}>{count(one.entries.length)}</td>
                <td className={TD}>
                  {one.author}, <Ago at={one.savedAt} />
                </td>
                <td className={TD}>
                  {one.liveVersion ? (
                    <Pill tone="good">{`${one.liveVersion} in service`}</Pill>
                  ) : (
                    <Pill tone="warn">not in service</Pill>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </Card>
  );
}
