import { useMutation, useQuery } from '@tanstack/react-query';
import { Link, useNavigate } from 'react-router';
import { api, ok } from '../../api/client';
import { Ago } from '../../components/Moment';
import { Failure } from '../../components/ui';
import { Act } from '../session/Editors';

/** Starts a stocktake of an object, and leads to the last one. */
export function TakeStock({ destinationId, object }: { destinationId: number; object: string }) {
  const navigate = useNavigate();
  const stocktakes = useQuery({
    queryKey: ['stocktakes', destinationId],
    queryFn: () =>
      ok(api.GET('/api/destinations/{id}/stocktakes', { params: { path: { id: destinationId } } })),
  });
  const start = useMutation({
    mutationFn: () =>
      ok(
        api.POST('/api/destinations/{id}/objects/{object}/stocktakes', {
          params: { path: { id: destinationId, object } },
        }),
      ),
    onSuccess: (started) => void navigate(`/stocktakes/${started.id}`),
  });
  const last = stocktakes.data?.find((one) => one.object === object);
  return (
    <>
      {last && (
        <Link to={`/stocktakes/${last.id}`} className="text-deep underline">
          last stocktake <Ago at={last.startedAt} />
        </Link>
      )}
      <Act disabled={start.isPending || !object} onClick={() => start.mutate()}>
        Run stocktake
      </Act>
      <Failure error={start.error} />
    </>
  );
}
