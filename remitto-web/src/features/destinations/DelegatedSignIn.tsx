import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api, ok } from '../../api/client';
import type { DestinationView } from '../../api/types';
import { Ago } from '../../components/Moment';
import { Card, Failure } from '../../components/ui';
import { Act } from '../session/Editors';

/** Signing in at the tool itself; nothing that was built has to be built again. */
export function DelegatedSignIn({ destination, tool }: { destination: DestinationView; tool: string }) {
  const client = useQueryClient();
  const path = { path: { id: destination.id } };
  const state = useQuery({
    queryKey: ['delegated', destination.id, destination.signIn],
    queryFn: () => ok(api.GET('/api/destinations/{id}/sign-in', { params: path })),
  });
  const go = useMutation({
    mutationFn: () => ok(api.POST('/api/destinations/{id}/sign-in', { params: path })),
    onSuccess: (found) => location.assign(found.address),
  });
  const leave = useMutation({
    mutationFn: () => ok(api.DELETE('/api/destinations/{id}/sign-in', { params: path })),
    onSuccess: () => client.invalidateQueries({ queryKey: ['delegated', destination.id] }),
  });
  if (!state.data?.delegated) return null;
  const { at, by, renewedAt } = state.data;
  return (
    <Card title={`Sign-in at ${tool}`}>
      <div className="flex flex-col gap-2 px-4 pb-3">
        {at ? (
          <span>
            {by} signed in <Ago at={at} />
            {renewedAt && (
              <>
                ; renewed <Ago at={renewedAt} />
              </>
            )}
            . Records are sent on their behalf, with their rights.
          </span>
        ) : (
          <span className="text-soft">
            No one has signed in yet. Signing in opens {tool} and returns here. Routes and rules do not
            change.
          </span>
        )}
        <div className="flex gap-2">
          <Act disabled={go.isPending} onClick={() => go.mutate()}>
            {at ? 'Sign in again' : `Sign in at ${tool}`}
          </Act>
          {at && (
            <Act kind="quiet" disabled={leave.isPending} onClick={() => leave.mutate()}>
              Sign out
            </Act>
          )}
        </div>
        <Failure error={go.error ?? leave.error ?? state.error} />
      </div>
    </Card>
  );
}
