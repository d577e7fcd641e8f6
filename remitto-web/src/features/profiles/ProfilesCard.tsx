import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { api, ok } from '../../api/client';
import { Ago } from '../../components/Moment';
import { Card, Failure, Pill, TD, TH } from '../../components/ui';
import { ActLink } from '../session/Editors';

/** How tools are called: every profile, with the version that is in service. */
export function ProfilesCard() {
  const profiles = useQuery({ queryKey: ['profiles'], queryFn: () => ok(api.GET('/api/profiles')) });
  return (
    <Card
      title="Profiles"
      className="mt-4"
      aside={
        <span className="flex items-center gap-3">
          Describes how to call a tool.
          <ActLink to="/profiles/new">New profile</ActLink>
        </span>
      }
    >
      <Failure error={profiles.error} />
      <table className="w-full border-collapse">
        <thead>
          <tr>
            <th className={TH}>Tool</th>
            <th className={TH}>In service</th>
            <th className={TH}>Last saved</th>
            <th className={TH}>Rate limit</th>
            <th className={`${TH} text-right`}>Destinations</th>
          </tr>
        </thead>
        <tbody>
          {(profiles.data ?? []).map((one) => (
            <tr key={one.profile}>
              <td className={TD}>
                <Link to={`/profiles/${one.profile}`} className="text-ink font-semibold">
                  {one.title}
                </Link>{' '}
                <span className="text-soft font-mono">{one.profile}</span>
              </td>
              <td className={TD}>
                {one.liveVersion ? `version ${one.liveVersion}` : <Pill>none</Pill>}{' '}
                {one.latestVersion !== one.liveVersion && (
                  <Pill tone="warn">version {one.latestVersion} not in service</Pill>
                )}
              </td>
              <td className={TD}>
                {one.author}, <Ago at={one.savedAt} />
              </td>
              <td className={TD}>{one.limits}</td>
              <td className={`${TD} text-right font-mono`}>{one.destinations}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </Card>
  );
}
