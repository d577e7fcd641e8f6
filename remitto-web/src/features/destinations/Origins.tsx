import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api, ok } from '../../api/client';
import { Card, Failure } from '../../components/ui';
import { useIsAdministrator } from '../session/useSession';
import { Act } from '../session/Editors';

/** Addresses that no data goes to before an administrator allows it. Nothing is shown once all are allowed. */
export function Origins({ id }: { id: number }) {
  const client = useQueryClient();
  const mayAllow = useIsAdministrator();
  const state = useQuery({
    queryKey: ['origins', id],
    queryFn: () => ok(api.GET('/api/destinations/{id}/origins', { params: { path: { id } } })),
  });
  const allow = useMutation({
    mutationFn: () =>
      ok(
        api.POST('/api/destinations/{id}/let-in', {
          params: { path: { id } },
          body: { origins: state.data?.origins ?? [] },
        }),
      ),
    onSuccess: (fresh) => client.setQueryData(['origins', id], fresh),
  });
  const waiting = state.data?.waiting ?? [];
  if (waiting.length === 0) return null;
  return (
    <Card title="Addresses not allowed yet">
      <div className="flex flex-col gap-3 px-4 pb-4">
        <p className="m-0">
          An administrator must allow these addresses before any route can send to them or look up records:
        </p>
        <ul className="m-0 list-disc pl-5 font-mono">
          {waiting.map((origin) => (
            <li key={origin}>{origin}</li>
          ))}
        </ul>
        <Failure error={allow.error} />
        {mayAllow ? (
          <div>
            <Act kind="primary" disabled={allow.isPending} onClick={() => allow.mutate()}>
              Allow addresses
            </Act>
          </div>
        ) : (
          <p className="text-soft m-0">Ask an administrator to allow them on this page.</p>
        )}
      </div>
    </Card>
  );
}
