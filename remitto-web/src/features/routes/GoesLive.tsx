import { useQuery } from '@tanstack/react-query';
import { api, ok } from '../../api/client';
import type { Ends, FieldMeeting, Route } from '../../api/types';
import { counted } from '../../components/format';
import { Failure } from '../../components/ui';
import { Meetings } from '../fieldbook/Meetings';
import { DifferencesCard } from './rehearsal/DifferencesCard';

interface Props {
  route: Route;
  ends: Ends;
  meetings: FieldMeeting[];
  left: string[];
  onLeft: (fields: string[]) => void;
}

/** What goes live with the latest version of a route. */
export function GoesLive({ route, ends, meetings, left, onLeft }: Props) {
  const live = route.liveVersion ?? 0;
  const differences = useQuery({
    queryKey: ['route-differences', route.id, live, route.latestVersion],
    queryFn: () =>
      ok(
        api.GET('/api/routes/{id}/versions/{number}/differences/{other}', {
          params: { path: { id: route.id, number: live, other: route.latestVersion } },
        }),
      ),
    enabled: live > 0,
  });
  return (
    <>
      <Failure error={differences.error} />
      {differences.data && (
        <DifferencesCard
          title={`From version ${live} to ${route.latestVersion}`}
          differences={differences.data}
        />
      )}
      {live === 0 && (
        <p className="m-0">
          {counted(route.spec.rules.length, 'field rule')} to {route.destination}, {route.object}. Nothing is
          sent before a manifest is prepared and sent.
        </p>
      )}
      {meetings.length > 0 && (
        <Meetings routeId={route.id} ends={ends} meetings={meetings} left={left} onLeft={onLeft} />
      )}
    </>
  );
}
