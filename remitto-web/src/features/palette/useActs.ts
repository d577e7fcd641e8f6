import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useNavigate } from 'react-router';
import { api, ok } from '../../api/client';
import type { Route } from '../../api/types';
import { useIsEditor } from '../session/useSession';

/** Something that can be done at once. */
export interface PaletteAct {
  id: string;
  name: string;
  /** @returns where to see what came of it */
  run: () => Promise<string>;
}

/** What can be done from the palette, for whoever may do it. */
export function useActs(routes: Route[], done: () => void) {
  const client = useQueryClient();
  const navigate = useNavigate();
  const editor = useIsEditor();
  const act = useMutation({
    mutationFn: (one: PaletteAct) => one.run(),
    onSuccess: async (to) => {
      done();
      await navigate(to);
      await client.invalidateQueries();
    },
  });
  const path = (route: Route) => ({ params: { path: { id: route.id } } });
  const acts: PaletteAct[] = editor
    ? [
        ...routes
          .filter((route) => route.liveVersion !== undefined)
          .flatMap((route): PaletteAct[] => [
            {
              id: `pause ${route.id}`,
              name: `${route.paused ? 'Resume' : 'Pause'} ${route.name}`,
              run: async () => {
                await ok(
                  api.POST('/api/routes/{id}/pause', { ...path(route), body: { paused: !route.paused } }),
                );
                return `/routes/${route.id}`;
              },
            },
            {
              id: `prepare ${route.id}`,
              name: `Prepare manifest of ${route.name}`,
              run: async () => {
                const started = await ok(api.POST('/api/routes/{id}/runs', path(route)));
                return `/manifests/${started.runId}`;
              },
            },
          ]),
        {
          id: 'match people',
          name: 'Run matching of people',
          run: async () => {
            await ok(api.POST('/api/people/runs', { params: { query: { entityType: 'PERSON' } } }));
            return '/people';
          },
        },
      ]
    : [];
  return { acts, act };
}
