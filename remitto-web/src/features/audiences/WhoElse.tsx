import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { api, ok } from '../../api/client';
import { count } from '../../components/format';
import { Card } from '../../components/ui';

/** Other audiences that have its people. */
export function WhoElse({ id }: { id: number }) {
  const matrix = useQuery({
    queryKey: ['audiences', 'overlap'],
    queryFn: () => ok(api.GET('/api/audiences/overlap')),
  });
  const own = matrix.data?.audiences.find((one) => one.audience.id === id)?.latest?.members ?? 0;
  const rows = (matrix.data?.overlaps ?? [])
    .filter((one) => one.oneId === id || one.otherId === id)
    .map((one) => ({ other: one.oneId === id ? one.otherId : one.oneId, people: one.people }))
    .sort((a, b) => b.people - a.people);
  const name = (other: number) =>
    matrix.data?.audiences.find((one) => one.audience.id === other)?.audience.name ?? '';
  return (
    <Card title="Overlap with other audiences">
      <table className="w-full border-collapse">
        <tbody>
          {rows.map((row) => (
            <tr key={row.other} className="border-hairline border-b last:border-b-0">
              <td className="px-4 py-1.5">
                <Link className="text-deep underline" to={`/audiences/${row.other}`}>
                  {name(row.other)}
                </Link>
              </td>
              <td className="py-1.5 text-right font-mono">{count(row.people)}</td>
              <td className="text-soft w-[64px] px-4 py-1.5 text-right">
                {own === 0 ? '' : `${Math.round((100 * row.people) / own)}%`}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {rows.length === 0 && (
        <p className="text-soft m-0 px-4 pb-3">No other audience shares members with this one.</p>
      )}
    </Card>
  );
}
