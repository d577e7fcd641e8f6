import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { api, ok } from '../../api/client';
import { Card, Failure, TD, TH } from '../../components/ui';

/** Everywhere the columns of a dataset go. */
export function ColumnsGo({ datasetId, columns }: { datasetId: number; columns: string[] }) {
  const { data, error } = useQuery({
    queryKey: ['dataset-use', datasetId],
    queryFn: () => ok(api.GET('/api/datasets/{id}/use', { params: { path: { id: datasetId } } })),
  });
  return (
    <Card title="Where its columns are sent" className="mt-4">
      <Failure error={error} />
      <table className="w-full border-collapse">
        <thead>
          <tr>
            <th className={TH}>Column</th>
            <th className={TH}>Sent to</th>
          </tr>
        </thead>
        <tbody>
          {columns.map((column) => {
            const goes = (data ?? []).filter((one) => one.column === column);
            return (
              <tr key={column}>
                <td className={`${TD} font-mono font-semibold`}>{column}</td>
                <td className={TD}>
                  {goes.length === 0 && <span className="text-soft">not sent</span>}
                  {goes.map((one, i) => (
                    <span key={`${one.routeId}${one.field}${one.how}`}>
                      {i > 0 && '; '}
                      <Link to={`/routes/${one.routeId}`} className="text-deep underline">
                        {one.route}
                      </Link>{' '}
                      {one.field ? (
                        <span className="font-mono">
                          {one.object}.{one.field}
                        </span>
                      ) : (
                        one.how
                      )}
                      {one.field && one.how !== 'received' && <span className="text-soft"> ({one.how})</span>}
                    </span>
                  ))}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </Card>
  );
}
