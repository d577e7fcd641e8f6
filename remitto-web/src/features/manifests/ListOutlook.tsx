import { useQuery } from '@tanstack/react-query';
import { api, ok } from '../../api/client';
import { count, counted } from '../../components/format';

/** Warns of a list that is too small for the destination to make use of, before and after it is sent. */
export function ListOutlook({ runId, state }: { runId: number; state: string }) {
  const outlook = useQuery({
    queryKey: ['list-outlook', runId, state],
    queryFn: () => ok(api.GET('/api/runs/{id}/list', { params: { path: { id: runId } } })),
  });
  const { after, smallest, members } = outlook.data ?? {};
  if (after === undefined || smallest === undefined || members === undefined || after >= smallest)
    return null;
  return (
    <p
      role="status"
      className="rounded-button border-changed bg-changed-on text-changed my-2 border px-3 py-2 font-semibold"
    >
      {members === after ? 'List size now ' : 'List size afterwards '}
      {counted(after, 'member')}. The destination does not use lists smaller than {count(smallest)}.
    </p>
  );
}
