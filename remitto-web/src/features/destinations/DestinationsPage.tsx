import { LabelledList } from '../labels/LabelledList';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { api, ok } from '../../api/client';
import type { DestinationView } from '../../api/types';
import { type ListColumn } from '../../components/ListTable';
import { Ago } from '../../components/Moment';
import { ProfilesCard } from '../profiles/ProfilesCard';
import { Empty, Failure, Page, Pill, Skeleton } from '../../components/ui';
import { ActLink } from '../session/Editors';

const COLUMNS: ListColumn<DestinationView>[] = [
  {
    id: 'name',
    title: 'Name',
    by: (destination) => destination.name,
    cell: (destination) => (
      <Link to={`/destinations/${destination.id}`} className="text-ink font-semibold">
        {destination.name}
      </Link>
    ),
  },
  {
    id: 'profile',
    title: 'Profile',
    by: (destination) => destination.title,
    cell: (destination) => `${destination.title}, version ${destination.profileVersion}`,
  },
  {
    id: 'address',
    title: 'Address',
    by: (destination) => destination.settings.base_address,
    cell: (destination) => destination.settings.base_address,
    className: 'font-mono',
  },
  {
    id: 'test',
    title: 'Last test',
    by: (destination) => destination.testedAt,
    cell: (destination) => (
      <>
        {destination.problem ? <Pill tone="bad">{destination.problem}</Pill> : <Pill tone="good">OK</Pill>}{' '}
        {destination.testedAt && (
          <span className="text-soft">
            <Ago at={destination.testedAt} />
          </span>
        )}
      </>
    ),
  },
  {
    id: 'routes',
    title: 'Routes',
    right: true,
    by: (destination) => destination.routes,
    cell: (destination) => destination.routes,
  },
];

export function DestinationsPage() {
  const { data, error } = useQuery({
    queryKey: ['destinations'],
    queryFn: () => ok(api.GET('/api/destinations')),
  });
  const add = (
    <ActLink to="/destinations/new" kind="primary">
      Connect a destination
    </ActLink>
  );
  return (
    <Page title="Destinations" note="Tools that receive data." actions={add}>
      <Failure error={error} />
      {!data ? (
        <Skeleton />
      ) : data.length === 0 ? (
        <Empty action={add}>A destination is a tool that receives data. Its profile describes its API.</Empty>
      ) : (
        <LabelledList
          kind="DESTINATION"
          main
          of={['destination', 'destinations']}
          rows={data}
          id={(destination) => destination.id}
          name={(destination) => destination.name}
          words={(destination) =>
            `${destination.name} ${destination.title} ${destination.settings.base_address ?? ''} ${destination.problem}`
          }
          columns={COLUMNS}
        />
      )}
      <ProfilesCard />
    </Page>
  );
}
