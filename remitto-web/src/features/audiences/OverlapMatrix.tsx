import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { api, ok } from '../../api/client';
import { count } from '../../components/format';
import { Card } from '../../components/ui';

/** How many people every two audiences have in common: the number, and its share of the audience of the row. */
export function OverlapMatrix() {
  const matrix = useQuery({
    queryKey: ['audiences', 'overlap'],
    queryFn: () => ok(api.GET('/api/audiences/overlap')),
  });
  const rows = (matrix.data?.audiences ?? []).filter((one) => (one.latest?.members ?? 0) > 0);
  if (rows.length < 2) return null;
  const common = (one: number, other: number) =>
    matrix.data?.overlaps.find(
      (pair) =>
        (pair.oneId === one && pair.otherId === other) || (pair.oneId === other && pair.otherId === one),
    )?.people ?? 0;
  return (
    <Card
      title="People in common"
      aside="and their share of the audience on the left"
      className="mt-3 overflow-x-auto"
    >
      <table className="mb-2 border-collapse">
        <thead>
          <tr>
            <td />
            {rows.map((column) => (
              <th
                key={column.audience.id}
                scope="col"
                className="text-soft max-w-[120px] px-3 py-1.5 text-right align-bottom font-medium"
              >
                {column.audience.name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => {
            const own = row.latest?.members ?? 0;
            return (
              <tr key={row.audience.id}>
                <th scope="row" className="px-4 py-1.5 text-left font-medium">
                  <Link className="text-deep underline" to={`/audiences/${row.audience.id}`}>
                    {row.audience.name}
                  </Link>
                </th>
                {rows.map((column) => {
                  const people =
                    column.audience.id === row.audience.id
                      ? own
                      : common(row.audience.id, column.audience.id);
                  const share = own === 0 ? 0 : people / own;
                  const same = column.audience.id === row.audience.id;
                  return (
                    <td
                      key={column.audience.id}
                      className="border-hairline border px-3 py-1.5 text-right font-mono"
                      style={{
                        background: same
                          ? 'var(--sunk)'
                          : `color-mix(in srgb, var(--deep) ${Math.round(share * 22)}%, var(--card))`,
                      }}
                    >
                      {count(people)}
                      {!same && <span className="block text-[0.6875rem]">{Math.round(share * 100)}%</span>}
                    </td>
                  );
                })}
              </tr>
            );
          })}
        </tbody>
      </table>
    </Card>
  );
}
