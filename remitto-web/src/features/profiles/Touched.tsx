import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { api, ok } from '../../api/client';

/** What putting a version in service touches, said before it is done. */
export function Touched({ profile, version }: { profile: string; version: number }) {
  const touched = useQuery({
    queryKey: ['profile-touched', profile],
    queryFn: () => ok(api.GET('/api/profiles/{profile}/touched', { params: { path: { profile } } })),
  });
  if (!touched.data) return null;
  if (touched.data.length === 0)
    return <p className="text-soft mt-0">No destination uses this profile yet.</p>;
  return (
    <div className="rounded-card border-hairline bg-card mb-3 border px-4 py-2">
      Putting version {version} in service changes how these destinations are called. Waiting manifests are
      prepared again:
      <ul className="m-0 list-disc pl-5">
        {touched.data.map((one) => (
          <li key={one.id}>
            <Link to={`/destinations/${one.id}`} className="text-deep underline">
              {one.name}
            </Link>
            , by version {one.version} now
            {one.routes.length > 0 ? `; routes ${one.routes.join(', ')}` : '; no routes'}
          </li>
        ))}
      </ul>
    </div>
  );
}
