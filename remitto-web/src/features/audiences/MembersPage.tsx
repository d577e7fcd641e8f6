import { useInfiniteQuery, useQuery } from '@tanstack/react-query';
import { Link, useParams } from 'react-router';
import { api, ok } from '../../api/client';
import { counted } from '../../components/format';
import { Ago } from '../../components/Moment';
import { Button, Card, Failure, Page, Pill, Skeleton, TD, TH } from '../../components/ui';
import { kin } from '../people/entityTypes';

const PAGE = 100;

/** Everybody in an audience by its latest count. */
export function MembersPage() {
  const { id = '' } = useParams();
  const path = { id: Number(id) };
  const view = useQuery({
    queryKey: ['audience', id],
    queryFn: () => ok(api.GET('/api/audiences/{id}', { params: { path } })),
  });
  const members = useInfiniteQuery({
    queryKey: ['audience-members', id],
    queryFn: ({ pageParam }) =>
      ok(api.GET('/api/audiences/{id}/members', { params: { path, query: { after: pageParam } } })),
    initialPageParam: 0,
    getNextPageParam: (last) => (last.length < PAGE ? undefined : last[last.length - 1]?.personId),
  });
  const latest = view.data?.counts[0];
  return (
    <Page
      title="Members"
      of={view.data?.audience.name}
      note={
        <>
          {latest &&
            `${counted(latest.members, 'member')}, ${counted(latest.inControlGroup, 'person')} in the control group. `}
          <Link className="text-deep underline" to={`/audiences/${id}`}>
            Back to the audience
          </Link>
        </>
      }
    >
      <Failure error={view.error ?? members.error} />
      {members.isPending ? (
        <Skeleton />
      ) : (
        <Card>
          <table className="w-full border-collapse">
            <thead>
              <tr>
                <th className={TH}>Name</th>
                <th className={TH}>Id</th>
                <th className={TH}>Member since</th>
                <th className={TH}>
                  <span className="sr-only">Control group</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {members.data?.pages.flat().map((one) => (
                <tr key={one.personId}>
                  <td className={TD}>
                    <Link
                      className="text-deep underline"
                      to={`${kin(view.data?.audience.entityType ?? 'PERSON').base}/${one.personId}`}
                    >
                      {one.label}
                    </Link>
                  </td>
                  <td className={`${TD} font-mono`}>{one.personId}</td>
                  <td className={TD}>
                    <Ago at={one.since} />
                  </td>
                  <td className={TD}>{one.inControlGroup && <Pill tone="held">control group</Pill>}</td>
                </tr>
              ))}
            </tbody>
          </table>
          {members.hasNextPage && (
            <div className="px-3 py-2">
              <Button disabled={members.isFetchingNextPage} onClick={() => void members.fetchNextPage()}>
                More
              </Button>
            </div>
          )}
        </Card>
      )}
    </Page>
  );
}
