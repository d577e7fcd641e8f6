import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { api, ok } from '../../api/client';
import type { Arrival, FollowedRecord } from '../../api/types';
import { exact } from '../../components/format';
import { Button, Card, Failure, Pill, Skeleton } from '../../components/ui';
import { KINDS, subjectPage } from './words';

const LINK = 'text-deep underline';

/** One arrival with its rows, and how far they came. Asked again while it is open, since it goes on. */
export function FollowedArrival({ arrival, onClose }: { arrival: string; onClose: () => void }) {
  const [kind = '', id = ''] = arrival.split('-');
  const followed = useQuery({
    queryKey: ['arrival', arrival],
    queryFn: () =>
      ok(
        api.GET('/api/arrivals/{kind}/{id}', {
          params: { path: { kind: kind as Arrival['kind'], id: Number(id) } },
        }),
      ),
    refetchInterval: 5_000,
  });
  const found = followed.data;
  return (
    <Card
      title={found ? `${found.arrival.subject.name}, followed` : 'Followed'}
      aside={
        <Button kind="quiet" onClick={onClose}>
          Close
        </Button>
      }
    >
      <div className="px-4 pb-3">
        <Failure error={followed.error} />
        {!found && !followed.error && <Skeleton rows={3} />}
        {found && (
          <>
            <p className="m-0">
              The {KINDS[found.arrival.kind]} arrived at {exact(found.arrival.at)}.{' '}
              <Link to={subjectPage(found.arrival)} className={LINK}>
                Open {found.arrival.subject.name}
              </Link>
            </p>
            {found.rows.map((row, i) => (
              <dl
                key={i}
                className="border-hairline m-0 mt-2 grid grid-cols-[max-content_minmax(0,1fr)] gap-x-3 gap-y-0.5 border-t pt-2"
              >
                {found.columns.map((column, j) => (
                  <div key={column} className="contents">
                    <dt className="text-soft font-mono">{column}</dt>
                    <dd className="m-0 font-mono break-words">
                      {row[j] ?? <span className="text-soft">empty</span>}
                    </dd>
                  </div>
                ))}
              </dl>
            ))}
            {found.rows.length === 0 && (
              <p className="text-soft m-0 mt-2">
                {found.arrival.kind === 'READ'
                  ? 'A read brings all rows of the dataset. Open the dataset to see its columns.'
                  : 'No row of it is in the table.'}
              </p>
            )}
            {found.rows.length > 0 && found.records.length === 0 && (
              <p className="text-soft m-0 mt-2">No dataset reads these rows yet.</p>
            )}
            {found.records.map((record) => (
              <Record key={`${record.datasetId}-${record.key}`} record={record} />
            ))}
          </>
        )}
      </div>
    </Card>
  );
}

function Record({ record }: { record: FollowedRecord }) {
  return (
    <div className="border-hairline mt-2 border-t pt-2">
      <p className="m-0">
        <Link to={`/datasets/${record.datasetId}`} className={LINK}>
          {record.dataset}
        </Link>{' '}
        <span className="font-mono">{record.key}</span>
      </p>
      <ul className="m-0 list-none p-0">
        <li className="flex justify-between gap-3 py-0.5">
          <span className="text-soft">Person</span>
          {record.person !== undefined ? (
            <Link to={`/people/${record.person}`} className={LINK}>
              Person {record.person}
            </Link>
          ) : (
            <span className="text-soft">not matched</span>
          )}
        </li>
        {record.audiences.map((audience) => (
          <li key={audience.id} className="flex justify-between gap-3 py-0.5">
            <span className="text-soft">In audience</span>
            <Link to={`/audiences/${audience.id}`} className={LINK}>
              {audience.name}
            </Link>
          </li>
        ))}
        {record.records.map((reached) => (
          <li key={reached.routeId} className="flex items-start justify-between gap-3 py-0.5">
            <span className="min-w-0">
              <Link to={`/routes/${reached.routeId}`} className={LINK}>
                {reached.route}
              </Link>
              {reached.held && <span className="text-removed block break-words">{reached.held}</span>}
            </span>
            {reached.held ? (
              <Pill tone="held">held</Pill>
            ) : reached.remoteId ? (
              <Link
                className={LINK}
                to={`/explain?destination=${reached.destinationId}&object=${encodeURIComponent(reached.object)}&record=${encodeURIComponent(reached.remoteId)}`}
              >
                in {reached.destination}
              </Link>
            ) : (
              <span className="text-soft whitespace-nowrap">not sent</span>
            )}
          </li>
        ))}
        {record.records.length === 0 && (
          <li className="text-soft py-0.5">No route has this record or its person yet.</li>
        )}
      </ul>
    </div>
  );
}
