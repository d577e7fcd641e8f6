import { useQuery } from '@tanstack/react-query';
import { api, ok } from '../../api/client';
import type { Expectation } from '../../api/types';
import { count, counted } from '../../components/format';
import { Failure, Skeleton, TD, TH } from '../../components/ui';
import { subjectOf } from './demands';

/** The first rows that do not meet an expectation, read from the source when somebody asks for them. */
export function UnexpectedRows({ datasetId, expectation }: { datasetId: number; expectation: Expectation }) {
  const rows = useQuery({
    queryKey: ['unexpected-rows', datasetId, subjectOf(expectation)],
    queryFn: () =>
      ok(
        api.POST('/api/datasets/{id}/expectations/rows', {
          params: { path: { id: datasetId } },
          body: expectation,
        }),
      ),
    retry: false,
    staleTime: 0,
    gcTime: 0,
  });
  const found = rows.data;
  if (rows.error) return <Failure error={rows.error} />;
  if (!found) return <Skeleton rows={2} />;
  if (found.rows.length === 0)
    return (
      <p className="m-0" role="status">
        All {counted(found.read, 'row')} meet this.
      </p>
    );
  return (
    <>
      <p className="text-soft m-0" role="status">
        {found.whole
          ? `${counted(found.rows.length, 'row does', 'rows do')} not meet this, of ${count(found.read)}.`
          : `The first ${count(found.rows.length)} rows that do not meet this, found in ${counted(found.read, 'row')}.`}
      </p>
      <table className="border-collapse">
        <thead>
          <tr>
            {found.columns.map((column) => (
              <th key={column} className={`${TH} font-mono`}>
                {column}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {found.rows.map((row, i) => (
            <tr key={i}>
              {row.map((cell, j) => (
                <td key={j} className={`${TD} max-w-[320px] truncate font-mono`}>
                  {cell ?? <span className="text-soft">empty</span>}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </>
  );
}
