import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Link, useNavigate } from 'react-router';
import { api, ok } from '../../api/client';
import { moment } from '../../components/format';
import { Card, Empty, Failure, Page, Pill, Skeleton, TD, TH } from '../../components/ui';
import { sentence } from './schedule';
import { Act, ActLink } from '../session/Editors';

export function RoutesPage() {
  const client = useQueryClient();
  const navigate = useNavigate();
  const { data, error } = useQuery({ queryKey: ['routes'], queryFn: () => ok(api.GET('/api/routes')) });
  const draw = useMutation({
    mutationFn: (id: number) => ok(api.POST('/api/routes/{id}/runs', { params: { path: { id } } })),
    onSuccess: (started) => void navigate(`/manifests/${started.runId}`),
  });
  const pause = useMutation({
    mutationFn: ({ id, paused }: { id: number; paused: boolean }) =>
      ok(api.POST('/api/routes/{id}/pause', { params: { path: { id } }, body: { paused } })),
    onSuccess: () => client.invalidateQueries({ queryKey: ['routes'] }),
  });
  const add = (
    <ActLink to="/routes/new" kind="primary">
      New route
    </ActLink>
  );
  return (
    <Page title="Routes" note="MatchResult lines from a dataset to a destination object." actions={add}>
      <Failure error={error ?? draw.error ?? pause.error} />
      {!data ? (
        <Skeleton />
      ) : data.length === 0 ? (
        <Empty action={add}>
          A route sends the records of a dataset to an object of a destination, with a rule for every field it
          writes.
        </Empty>
      ) : (
        <Card>
          <table className="w-full border-collapse">
            <thead>
              <tr>
                <th className={TH}>Name</th>
                <th className={TH}>From</th>
                <th className={TH}>To</th>
                <th className={TH}>Departs</th>
                <th className={TH}>Version</th>
                <th className={TH}>
                  <span className="sr-only">Actions</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {data.map((route) => (
                <tr key={route.id}>
                  <td className={TD}>
                    <Link to={`/routes/${route.id}`} className="text-ink font-semibold">
                      {route.name}
                    </Link>
                  </td>
                  <td className={TD}>
                    <Link to={`/datasets/${route.datasetId}`} className="text-deep">
                      {route.dataset}
                    </Link>
                  </td>
                  <td className={TD}>
                    {route.destination} <span className="text-soft">/ {route.object}</span>
                  </td>
                  <td className={TD}>
                    {sentence(route.liveSpec?.schedule ?? route.spec.schedule)}
                    <div className="text-soft">
                      {route.paused
                        ? 'paused'
                        : route.nextDeparture
                          ? `next ${moment(route.nextDeparture)}`
                          : ''}
                    </div>
                  </td>
                  <td className={TD}>
                    {route.liveVersion ? (
                      <Pill tone="good">{`${route.liveVersion} in service`}</Pill>
                    ) : (
                      <Pill tone="warn">not in service</Pill>
                    )}
                    {route.latestVersion !== route.liveVersion && (
                      <div className="text-soft">{route.latestVersion} saved</div>
                    )}
                  </td>
                  <td className={`${TD} text-right whitespace-nowrap`}>
                    <Act
                      disabled={!route.liveVersion}
                      onClick={() => pause.mutate({ id: route.id, paused: !route.paused })}
                    >
                      {route.paused ? 'Resume' : 'Pause'}
                    </Act>{' '}
                    <Act
                      disabled={!route.liveVersion || draw.isPending}
                      onClick={() => draw.mutate(route.id)}
                    >
                      Prepare manifest
                    </Act>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </Card>
      )}
    </Page>
  );
}
