import { LabelledList } from '../labels/LabelledList';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Link, useNavigate } from 'react-router';
import { api, ok } from '../../api/client';
import type { Route } from '../../api/types';
import { moment } from '../../components/format';
import { type ListColumn } from '../../components/ListTable';
import { Empty, Failure, Page, Pill, Skeleton } from '../../components/ui';
import { Act, ActLink } from '../session/Editors';
import { useIsEditor } from '../session/useSession';
import { RouteBulk } from './RouteBulk';
import { RunBars } from './RunBars';
import { sentence } from './schedule';

/** A change stays due while a manifest waits; it has no moment of its own. */
function next(route: Route, at: string): string {
  return route.liveSpec?.schedule.kind === 'on-change' ? 'change waiting' : `next ${moment(at)}`;
}

const COLUMNS: ListColumn<Route>[] = [
  {
    id: 'name',
    title: 'Name',
    by: (route) => route.name,
    cell: (route) => (
      <Link to={`/routes/${route.id}`} className="text-ink font-semibold">
        {route.name}
      </Link>
    ),
  },
  {
    id: 'from',
    title: 'From',
    by: (route) => route.dataset,
    cell: (route) => (
      <Link to={`/datasets/${route.datasetId}`} className="text-deep">
        {route.dataset}
      </Link>
    ),
  },
  {
    id: 'to',
    title: 'To',
    by: (route) => `${route.destination} ${route.object}`,
    cell: (route) => (
      <>
        {route.destination} <span className="text-soft">/ {route.object}</span>
      </>
    ),
  },
  {
    id: 'departs',
    title: 'Departs',
    by: (route) => (route.paused ? undefined : route.nextDeparture),
    cell: (route) => (
      <>
        {sentence(route.liveSpec?.schedule ?? route.spec.schedule)}
        <div className="text-soft">
          {route.paused ? 'paused' : route.nextDeparture ? next(route, route.nextDeparture) : ''}
        </div>
      </>
    ),
  },
  {
    id: 'version',
    title: 'Version',
    by: (route) => route.liveVersion,
    cell: (route) => (
      <>
        {route.liveVersion ? (
          <Pill tone="good">{`${route.liveVersion} in service`}</Pill>
        ) : (
          <Pill tone="warn">not in service</Pill>
        )}
        {route.latestVersion !== route.liveVersion && (
          <div className="text-soft">{route.latestVersion} saved</div>
        )}
      </>
    ),
  },
];

/** All routes; several can be paused, resumed or prepared at once. */
export function RoutesPage() {
  const client = useQueryClient();
  const navigate = useNavigate();
  const isEditor = useIsEditor();
  const { data, error } = useQuery({ queryKey: ['routes'], queryFn: () => ok(api.GET('/api/routes')) });
  const recent = useQuery({
    queryKey: ['recent-runs'],
    queryFn: () => ok(api.GET('/api/runs/recent')),
    refetchInterval: 15_000,
  });
  const runs: ListColumn<Route> = {
    id: 'runs',
    title: 'Latest runs',
    by: (route) => recent.data?.find((one) => one.routeId === route.id)?.lastSentAt,
    cell: (route) => recent.data && <RunBars of={recent.data.find((one) => one.routeId === route.id)} />,
  };
  const prepare = useMutation({
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
  const acts: ListColumn<Route> = {
    id: 'actions',
    title: <span className="sr-only">Actions</span>,
    className: 'text-right whitespace-nowrap',
    cell: (route) => (
      <>
        <Act
          disabled={!route.liveVersion}
          onClick={() => pause.mutate({ id: route.id, paused: !route.paused })}
        >
          {route.paused ? 'Resume' : 'Pause'}
        </Act>{' '}
        <Act disabled={!route.liveVersion || prepare.isPending} onClick={() => prepare.mutate(route.id)}>
          Prepare manifest
        </Act>
      </>
    ),
  };
  return (
    <Page
      title="Routes"
      note="Each route sends the records of a dataset to an object of a destination."
      actions={add}
    >
      <Failure error={error ?? recent.error ?? prepare.error ?? pause.error} />
      {!data ? (
        <Skeleton />
      ) : data.length === 0 ? (
        <Empty action={add}>
          A route sends the records of a dataset to an object of a destination, with a rule for every field it
          writes.
        </Empty>
      ) : (
        <LabelledList
          kind="ROUTE"
          main
          of={['route', 'routes']}
          rows={data}
          id={(route) => route.id}
          name={(route) => route.name}
          words={(route) =>
            `${route.name} ${route.dataset} ${route.destination} ${route.object} ${route.paused ? 'paused' : ''}`
          }
          columns={[...COLUMNS, runs, acts]}
          acts={isEditor ? (chosen) => <RouteBulk routes={chosen} /> : undefined}
        />
      )}
    </Page>
  );
}
