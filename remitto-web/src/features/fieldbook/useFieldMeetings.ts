import { useQuery } from '@tanstack/react-query';
import { api, ok } from '../../api/client';
import type { Ends, FieldMeeting, RouteSpec } from '../../api/types';

/** Fields of rules, saved or not, that other routes in service write too. */
export function useFieldMeetings(
  routeId: number,
  ends: Ends,
  spec: RouteSpec,
  enabled: boolean,
): FieldMeeting[] {
  const meetings = useQuery({
    queryKey: ['field-meetings', routeId, ends, spec],
    queryFn: () => ok(api.POST('/api/field-meetings', { body: { routeId, ends, spec } })),
    placeholderData: (before) => before,
    enabled,
  });
  return meetings.data ?? [];
}
