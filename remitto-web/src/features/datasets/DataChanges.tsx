import { useQuery } from '@tanstack/react-query';
import { api, ok } from '../../api/client';
import type { ChangesOfDataset } from '../../api/types';
import { count } from '../../components/format';
import { Ago } from '../../components/Moment';
import { Card, Failure } from '../../components/ui';

const MEANS: Record<NonNullable<ChangesOfDataset['means']>, string> = {
  COUNTERS: 'The database counts the writes to its tables. A check reads no rows.',
  NEWEST_AND_COUNT:
    'Newest updated-at and row count. A change that leaves updated-at as it was is not detected.',
  COUNT: 'Row count only. Changed rows are not detected until a column has the role “updated at”.',
};

/** How changes of a dataset are noticed, and what begins then. */
export function DataChanges({ datasetId }: { datasetId: number }) {
  const changes = useQuery({
    queryKey: ['dataset-changes', datasetId],
    queryFn: () => ok(api.GET('/api/datasets/{id}/changes', { params: { path: { id: datasetId } } })),
    refetchInterval: 30_000,
  });
  const found = changes.data;
  if (changes.error) return <Failure error={changes.error} />;
  if (!found) return null;
  return (
    <Card className="mt-3" title="Change detection">
      <div className="px-4 pb-3">
        {found.waiting.length === 0 ? (
          <p className="text-soft m-0">
            Nothing starts when this dataset changes. Set the timetable of a route, of matching or of audience
            counting to “when its data changes”.
          </p>
        ) : (
          <>
            <p className="m-0">
              {found.made ? 'Starts after audiences have been counted:' : 'Starts when a change is detected:'}
            </p>
            <ul className="m-0 pl-5">
              {found.waiting.map((one) => (
                <li key={one}>{one}</li>
              ))}
            </ul>
            {!found.made && <Looks changes={found} />}
          </>
        )}
      </div>
    </Card>
  );
}

function Looks({ changes }: { changes: ChangesOfDataset }) {
  return (
    <dl className="m-0 mt-2 grid grid-cols-[max-content_1fr] gap-x-4 gap-y-1">
      <dt className="text-soft">Method</dt>
      <dd className="m-0">
        {changes.means ? MEANS[changes.means] : 'Not checked yet.'} All rows are read once a day in any case.
      </dd>
      {changes.lookedAt && (
        <>
          <dt className="text-soft">Last check</dt>
          <dd className="m-0">
            <Ago at={changes.lookedAt} />, took {count(changes.millis)} ms. Checked every{' '}
            {changes.everySeconds === 60 ? 'minute' : `${count(changes.everySeconds)} seconds`}.
          </dd>
        </>
      )}
      {changes.changedAt && (
        <>
          <dt className="text-soft">Last change</dt>
          <dd className="m-0">
            <Ago at={changes.changedAt} />
          </dd>
        </>
      )}
      {changes.problem !== '' && (
        <>
          <dt className="text-soft">Error</dt>
          <dd className="text-removed m-0" role="alert">
            {changes.problem}
          </dd>
        </>
      )}
    </dl>
  );
}
