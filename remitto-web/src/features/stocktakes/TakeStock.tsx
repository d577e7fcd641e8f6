import { useMutation, useQuery } from '@tanstack/react-query';
import { Link, useNavigate } from 'react-router';
import { api, ok } from '../../api/client';
import { Ago } from '../../components/Moment';
import { Failure } from '../../components/ui';
import { Act } from '../session/Editors';

/** Starts a stocktake and opens it. @param changesOnly reads what changed since the last one */
export function useStocktake(destinationId: number, object: string) {
  const navigate = useNavigate();
  return useMutation({
    mutationFn: (changesOnly: boolean) =>
      ok(
        api.POST('/api/destinations/{id}/objects/{object}/stocktakes', {
          params: { path: { id: destinationId, object }, query: { changesOnly } },
        }),
      ),
    onSuccess: (started) => void navigate(`/stocktakes/${started.id}`),
  });
}

/** Starts a stocktake of an object, and leads to the last one. */
export function TakeStock({ destinationId, object }: { destinationId: number; object: string }) {
  const stocktakes = useQuery({
    queryKey: ['stocktakes', destinationId],
    queryFn: () =>
      ok(api.GET('/api/destinations/{id}/stocktakes', { params: { path: { id: destinationId } } })),
  });
  const start = useStocktake(destinationId, object);
  const last = stocktakes.data?.find((one) => one.object === object);
  return (
    <>
      {last && (
        <Link to={`/stocktakes/${last.id}`} className="text-deep underline">
          last stocktake <Ago at={last.startedAt} />
        </Link>
      )}
      {last?.changesCanFollow && (
        <Act disabled={start.isPending} onClick={() => start.mutate(true)}>
          Check changes
        </Act>
      )}
      <Act disabled={start.isPending || !object} onClick={() => start.mutate(false)}>
        Run stocktake
      </Act>
      <Failure error={start.error} />
    </>
  );
}
