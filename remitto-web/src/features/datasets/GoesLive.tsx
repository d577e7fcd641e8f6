import { useQuery } from '@tanstack/react-query';
import { api, ok } from '../../api/client';
import type { Dataset } from '../../api/types';
import { counted } from '../../components/format';
import { Failure } from '../../components/ui';
import { DatasetDifferences } from './DatasetDifferences';

/** What of a dataset goes live, and for which routes. */
export function GoesLive({ dataset, routes }: { dataset: Dataset; routes: string[] }) {
  const live = dataset.liveVersion ?? 0;
  const differences = useQuery({
    queryKey: ['dataset-differences', dataset.id, live, dataset.latestVersion],
    queryFn: () =>
      ok(
        api.GET('/api/datasets/{id}/versions/{number}/differences/{other}', {
          params: { path: { id: dataset.id, number: live, other: dataset.latestVersion } },
        }),
      ),
    enabled: live > 0,
  });
  return (
    <>
      <Failure error={differences.error} />
      {live === 0 && (
        <p className="m-0">
          {counted(dataset.definition.columns.length, 'column')}. Routes and identity resolution can read it
          from now on.
        </p>
      )}
      {differences.data && <DatasetDifferences differences={differences.data} />}
      {live > 0 && (
        <p className="m-0">
          {routes.length === 0
            ? 'No route reads it.'
            : `Read by ${routes.join(', ')}. Their next run uses this version.`}
        </p>
      )}
    </>
  );
}
