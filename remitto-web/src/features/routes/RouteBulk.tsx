import { useMutation, useQueryClient } from '@tanstack/react-query';
import { api, ok } from '../../api/client';
import type { Route } from '../../api/types';
import { counted } from '../../components/format';
import { Button, Failure } from '../../components/ui';

type Deed = 'pause' | 'resume' | 'prepare';
const DONE: Record<Deed, string> = { pause: 'paused', resume: 'resumed', prepare: 'being prepared' };

/** What is done with several routes at once: one after the other, and what fails at one is told and stops no other. */
export function RouteBulk({ routes }: { routes: Route[] }) {
  const client = useQueryClient();
  const act = useMutation({
    mutationFn: async ({ deed, concerned }: { deed: Deed; concerned: Route[] }) => {
      const failed: string[] = [];
      for (const route of concerned) {
        try {
          await once(deed, route.id);
        } catch (e) {
          failed.push(`${route.name}: ${(e as Error).message}`);
        }
      }
      return { deed, done: concerned.length - failed.length, failed };
    },
    onSettled: () => client.invalidateQueries({ queryKey: ['routes'] }),
  });
  const live = routes.filter((route) => route.liveVersion !== undefined);
  const active = live.filter((route) => !route.paused);
  const paused = live.filter((route) => route.paused);
  const button = (deed: Deed, label: string, concerned: Route[]) =>
    concerned.length > 0 && (
      <Button disabled={act.isPending} onClick={() => act.mutate({ deed, concerned })}>
        {label} {counted(concerned.length, 'route')}
      </Button>
    );
  return (
    <>
      {button('pause', 'Pause', active)}
      {button('resume', 'Resume', paused)}
      {button('prepare', 'Prepare', live)}
      {live.length === 0 && <span className="text-soft">None of them is in service.</span>}
      {act.data && (
        <span role="status">
          {counted(act.data.done, 'route')} {DONE[act.data.deed]}.
        </span>
      )}
      {act.data && act.data.failed.length > 0 && <Failure error={new Error(act.data.failed.join(' '))} />}
    </>
  );
}

function once(deed: Deed, id: number) {
  const params = { path: { id } };
  return deed === 'prepare'
    ? ok(api.POST('/api/routes/{id}/runs', { params }))
    : ok(api.POST('/api/routes/{id}/pause', { params, body: { paused: deed === 'pause' } }));
}
