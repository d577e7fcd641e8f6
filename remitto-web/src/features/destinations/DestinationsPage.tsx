import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { api, ok } from '../../api/client';
import { Ago } from '../../components/Moment';
import { ProfilesCard } from '../profiles/ProfilesCard';
import { Card, Empty, Failure, Page, Pill, Skeleton, TD, TH } from '../../components/ui';
import { ActLink } from '../session/Editors';

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
        <Card>
          <table className="w-full border-collapse">
            <thead>
              <tr>
                <th className={TH}>Name</th>
                <th className={TH}>Profile</th>
                <th className={TH}>Address</th>
                <th className={TH}>Last test</th>
                <th className={`${TH} text-right`}>Routes</th>
              </tr>
            </thead>
            <tbody>
              {data.map((destination) => (
                <tr key={destination.id}>
                  <td className={TD}>
                    <Link to={`/destinations/${destination.id}`} className="text-ink font-semibold">
                      {destination.name}
                    </Link>
                  </td>
                  <td className={TD}>
                    {destination.title}, version {destination.profileVersion}
                  </td>
                  <td className={`${TD} font-mono`}>{destination.settings.base_address}</td>
                  <td className={TD}>
                    {destination.problem ? (
                      <Pill tone="bad">{destination.problem}</Pill>
                    ) : (
                      <Pill tone="good">OK</Pill>
                    )}{' '}
                    {destination.testedAt && (
                      <span className="text-soft">
                        <Ago at={destination.testedAt} />
                      </span>
                    )}
                  </td>
                  <td className={`${TD} text-right font-mono`}>{destination.routes}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </Card>
      )}
      <ProfilesCard />
    </Page>
  );
}
