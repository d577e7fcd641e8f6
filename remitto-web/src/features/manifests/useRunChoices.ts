import { useQuery } from '@tanstack/react-query';
import { api, ok } from '../../api/client';
import type { Run, RunChoice } from '../../api/types';

/** What the server says may be done with a run now, by whoever is signed in; asked again with every change of its state. */
export function useRunChoices(run: Run): RunChoice[] {
  const choices = useQuery({
    queryKey: ['run', run.id, 'choices', run.state, run.suspension],
    queryFn: () => ok(api.GET('/api/runs/{id}/choices', { params: { path: { id: run.id } } })),
  });
  return choices.data ?? [];
}
