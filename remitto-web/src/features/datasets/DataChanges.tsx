import { useQuery } from '@tanstack/react-query';
import { api, ok } from '../../api/client';
import type { ChangesOfDataset } from '../../api/types';
import { count } from '../../components/format';
import { Ago } from '../../components/Moment';
import { Card, Failure } from '../../components/ui';

const MEANS: Record<NonNullable<ChangesOfDataset['means']>, string> = {
  COUNTERS: 'By what the database counts of writes to its tables. No row is read for that.',
  NEWEST_AND_COUNT:
    'By the newest updated-at and the number of rows. A row that changes without its updated-at is not noticed.',
  COUNT:
    'By the number of rows alone. Give the column that says when a row changed the role “updated at”; otherwise rows that change are not noticed.',
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
    <Card className="mt-3" title="When its data changes">
      <div className="px-4 pb-3">
        {found.waiting.length === 0 ? (
          <p className="text-soft m-0">
            Nothing begins. Give a route, matching or the counting of audiences the timetable “when its data
            changes”.
          </p>
        ) : (
          <>
            <p className="m-0">
              {found.made ? 'Begins after audiences have been counted:' : 'Begins when a change is noticed:'}
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
      <dt className="text-soft">Noticed</dt>
      <dd className="m-0">
        {changes.means ? MEANS[changes.means] : 'Not looked at yet.'} Once a day the rows are read all the
        same.
      </dd>
      {changes.lookedAt && (
        <>
          <dt className="text-soft">Last look</dt>
          <dd className="m-0">
            <Ago at={changes.lookedAt} />, took {count(changes.millis)} ms; looked at every{' '}
            {changes.everySeconds === 60 ? 'minute' : `${count(changes.everySeconds)} seconds`}
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
          <dt className="text-soft">Fault</dt>
          <dd className="text-removed m-0" role="alert">
            {changes.problem}
          </dd>
        </>
      )}
    </dl>
  );
}
