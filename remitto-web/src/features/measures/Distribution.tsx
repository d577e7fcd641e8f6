import { useQuery } from '@tanstack/react-query';
import { api, ok } from '../../api/client';
import { count } from '../../components/format';
import { Card, Failure, Skeleton } from '../../components/ui';

/** How the values of a measure are spread over people. */
export function Distribution({ id }: { id: number }) {
  const spread = useQuery({
    queryKey: ['distribution', id],
    queryFn: () => ok(api.GET('/api/measures/{id}/distribution', { params: { path: { id } } })),
  });
  const most = Math.max(1, ...(spread.data?.bars.map((one) => one.people) ?? []));
  return (
    <Card
      title="Distribution of values"
      aside={spread.data && spread.data.middle !== '' ? `median ${spread.data.middle}` : undefined}
    >
      <div className="px-4 pb-3">
        <Failure error={spread.error} />
        {spread.isPending && <Skeleton rows={4} />}
        {spread.data && (
          <>
            <table className="w-full border-collapse">
              <caption className="text-soft pb-1 text-left">
                {count(spread.data.with)} people have a value, {count(spread.data.without)} have none.
              </caption>
              <tbody>
                {spread.data.bars.map((bar) => (
                  <tr key={bar.from}>
                    <th
                      scope="row"
                      className="w-[130px] py-0.5 pr-3 text-right font-mono font-normal whitespace-nowrap"
                    >
                      {bar.from === bar.to ? bar.from : `${bar.from} to ${bar.to}`}
                    </th>
                    <td className="py-0.5">
                      <div
                        aria-hidden
                        className="bg-deep h-[14px] rounded-sm"
                        style={{ width: `${Math.max(0.5, (100 * bar.people) / most)}%` }}
                      />
                    </td>
                    <td className="w-[72px] py-0.5 pl-2 text-right font-mono">{count(bar.people)}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </>
        )}
      </div>
    </Card>
  );
}
