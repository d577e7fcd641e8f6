import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api, ok } from '../../../api/client';
import type { RouteSpec } from '../../../api/types';
import { counted } from '../../../components/format';
import { Card, Failure, Pill } from '../../../components/ui';
import { Act } from '../../session/Editors';

/** The pinned examples of a route, held against the rules as they stand on the page. */
export function Examples({ routeId, spec }: { routeId: number; spec: RouteSpec }) {
  const client = useQueryClient();
  const path = { params: { path: { id: routeId } } };
  const pinned = useQuery({
    queryKey: ['examples', routeId],
    queryFn: () => ok(api.GET('/api/routes/{id}/examples', path)),
  });
  const checked = useQuery({
    queryKey: ['examples-check', routeId, spec, pinned.data?.map((one) => one.id)],
    queryFn: () => ok(api.POST('/api/routes/{id}/examples/check', { ...path, body: { spec } })),
    enabled: (pinned.data?.length ?? 0) > 0,
    placeholderData: (before) => before,
  });
  const unpin = useMutation({
    mutationFn: (example: number) =>
      ok(api.DELETE('/api/routes/{id}/examples/{example}', { params: { path: { id: routeId, example } } })),
    onSuccess: (fresh) => client.setQueryData(['examples', routeId], fresh),
  });
  return (
    <Card title="Golden examples">
      <Failure error={pinned.error ?? checked.error ?? unpin.error} />
      <ul className="m-0 list-none px-4 pb-3">
        {(pinned.data ?? []).map((one) => {
          const misses = checked.data?.find((result) => result.id === one.id)?.misses;
          return (
            <li key={one.id} className="border-hairline flex items-start gap-3 border-b py-1.5 last:border-0">
              <span className="flex-1">
                <strong>{one.name}</strong>{' '}
                {misses === undefined ? null : misses.length === 0 ? (
                  <Pill tone="good">passes</Pill>
                ) : (
                  <Pill tone="bad">{counted(misses.length, 'value')} not as expected</Pill>
                )}{' '}
                <span className="text-soft">
                  expects {Object.keys(one.expected).join(', ')}; added by {one.addedBy}
                </span>
                {misses?.map((miss) => (
                  <span key={miss.field} className="text-removed block">
                    <span className="font-mono">{miss.field}</span>: expected{' '}
                    <span className="font-mono">{miss.expected || 'no value'}</span>, gets{' '}
                    {miss.problem || <span className="font-mono">{miss.got || 'no value'}</span>}
                  </span>
                ))}
              </span>
              <Act kind="quiet" onClick={() => unpin.mutate(one.id)}>
                Remove
              </Act>
            </li>
          );
        })}
        {pinned.data?.length === 0 && (
          <li className="text-soft">
            None yet. Add the record shown on the right once its values are correct. A version that gives it
            other values cannot be put in service.
          </li>
        )}
      </ul>
    </Card>
  );
}
