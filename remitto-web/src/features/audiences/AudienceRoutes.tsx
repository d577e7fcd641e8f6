import { useMutation, useQueryClient } from '@tanstack/react-query';
import { Link } from 'react-router';
import { api, ok } from '../../api/client';
import type { AudienceView } from '../../api/types';
import { Card, Failure } from '../../components/ui';
import { Ladder } from '../manifests/Ladder';
import { Editors } from '../session/Editors';

/** Routes that send the audience, and how many of its people each reaches. */
export function AudienceRoutes({ view }: { view?: AudienceView }) {
  const client = useQueryClient();
  const id = view?.audience.id ?? 0;
  const first = useMutation({
    mutationFn: (on: boolean) =>
      ok(api.PUT('/api/audiences/{id}/count-first', { params: { path: { id } }, body: { on } })),
    onSuccess: (saved) => client.setQueryData(['audience', `${id}`], saved),
  });
  if (!view) return null;
  return (
    <Card
      title="From people to people reached"
      aside="From each route's latest manifest. Every number opens its records."
    >
      <div className="px-4 pb-3">
        <Failure error={first.error} />
        {view.routes.map((route) => (
          <div key={route.id} className="border-hairline border-b py-2 last:border-b-0">
            <Link className="text-deep underline" to={`/routes/${route.id}`}>
              {route.name}
            </Link>{' '}
            <span className="text-soft">
              {route.destination}, {route.object}
              {route.runId === undefined ? (
                '; never run'
              ) : (
                <>
                  ,{' '}
                  <Link className="text-deep underline" to={`/manifests/${route.runId}`}>
                    manifest {route.runId}
                  </Link>
                </>
              )}
            </span>
            {route.runId !== undefined && <Ladder runId={route.runId} />}
          </div>
        ))}
        {view.routes.length === 0 && <p className="text-soft m-0 mb-2">No route sends this audience yet.</p>}
        {view.routes.length > 0 && (
          <label className="my-2 flex items-center gap-2">
            <input
              type="checkbox"
              checked={view.audience.countFirst}
              onChange={(event) => first.mutate(event.target.checked)}
            />
            Count this audience again before a route prepares a manifest
          </label>
        )}
        {view.audience.liveVersion !== undefined && (
          <Editors>
            {' '}
            <Link className="text-deep underline" to={`/audiences/${id}/send`}>
              Send to a destination
            </Link>
          </Editors>
        )}
      </div>
    </Card>
  );
}
