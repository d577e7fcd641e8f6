import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ok } from '../../api/client';
import type { Dataset, DatasetDefinition } from '../../api/types';
import { Card, Failure } from '../../components/ui';
import { VersionList } from '../../components/VersionList';
import { DatasetDifferences } from './DatasetDifferences';

interface Props {
  dataset: Dataset;
  /** As it stands on the page. */
  unsaved: DatasetDefinition;
  onTakeUp: (definition: DatasetDefinition) => void;
}

/** Saved versions of a dataset, compared in words and taken up again. */
export function DatasetVersions({ dataset, unsaved, onTakeUp }: Props) {
  const [compared, setCompared] = useState(0);
  const path = { path: { id: dataset.id } };
  const versions = useQuery({
    queryKey: ['dataset-versions', dataset.id, dataset.latestVersion],
    queryFn: () => ok(api.GET('/api/datasets/{id}/versions', { params: path })),
  });
  const stored = useQuery({
    queryKey: ['dataset-differences', dataset.id, compared, dataset.latestVersion],
    queryFn: () =>
      ok(
        api.GET('/api/datasets/{id}/versions/{number}/differences/{other}', {
          params: { path: { id: dataset.id, number: compared, other: dataset.latestVersion } },
        }),
      ),
    enabled: compared > 0,
  });
  const dirty = JSON.stringify(unsaved) !== JSON.stringify(dataset.definition);
  const fresh = useQuery({
    queryKey: ['dataset-unsaved', dataset.id, dataset.latestVersion, JSON.stringify(unsaved)],
    queryFn: () => ok(api.POST('/api/datasets/{id}/differences', { params: path, body: unsaved })),
    enabled: dirty,
    placeholderData: (before) => before,
  });
  const take = useMutation({
    mutationFn: (number: number) =>
      ok(api.GET('/api/datasets/{id}/versions/{number}', { params: { path: { id: dataset.id, number } } })),
    onSuccess: onTakeUp,
  });
  const shown = compared > 0 ? stored.data : dirty ? fresh.data : undefined;
  return (
    <Card title="Versions" className="mt-3">
      <div className="grid grid-cols-1 lg:grid-cols-[minmax(0,2fr)_minmax(0,3fr)] items-start gap-4 px-4 pb-3">
        <div>
          <Failure error={versions.error ?? take.error} />
          <VersionList
            versions={versions.data ?? []}
            latest={dataset.latestVersion}
            live={dataset.liveVersion}
            compared={compared}
            onCompare={setCompared}
            onTakeUp={(number) => take.mutate(number)}
          />
        </div>
        {shown && (
          <div className="flex min-w-0 flex-col gap-2">
            <span className="text-soft">
              {compared > 0
                ? `From version ${compared} to version ${dataset.latestVersion}:`
                : `From version ${dataset.latestVersion} to the unsaved changes:`}
            </span>
            <DatasetDifferences differences={shown} />
          </div>
        )}
      </div>
    </Card>
  );
}
