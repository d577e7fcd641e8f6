import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { api, ok } from '../../api/client';
import { Ago } from '../../components/Moment';
import { Card, Pill } from '../../components/ui';

/** The audiences a person is in, and those the person was in. */
export function PersonAudiences({ personId }: { personId: number }) {
  const stays = useQuery({
    queryKey: ['person-audiences', personId],
    queryFn: () => ok(api.GET('/api/audiences/of-person/{personId}', { params: { path: { personId } } })),
  });
  return (
    <Card title="Audiences">
      <ul className="m-0 list-none px-4 pb-3">
        {stays.data?.map((one) => (
          <li key={`${one.audienceId} ${one.since}`} className="py-0.5">
            <Link className="text-deep underline" to={`/audiences/${one.audienceId}`}>
              {one.audience}
            </Link>{' '}
            {one.inControlGroup && <Pill tone="held">control group</Pill>}
            <span className="text-soft">
              since <Ago at={one.since} />
              {one.until && (
                <>
                  , left <Ago at={one.until} />
                </>
              )}
            </span>
          </li>
        ))}
        {stays.data?.length === 0 && (
          <li className="text-soft">Not a member of any audience, now or earlier.</li>
        )}
      </ul>
    </Card>
  );
}
