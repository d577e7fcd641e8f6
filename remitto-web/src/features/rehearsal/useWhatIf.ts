import { skipToken, useMutation, useQuery } from '@tanstack/react-query';
import { useEffect, useRef } from 'react';
import { api, ok } from '../../api/client';
import type { WhatIfJob } from '../../api/types';

const LOOK_MILLIS = 700;

const path = (id: number) => ({ params: { path: { id } } });

/** A what-if question: begun by a click, looked at while it goes on, given up when the page is left. */
export function useWhatIf(begin: () => Promise<WhatIfJob>) {
  const asked = useMutation({ mutationFn: begin });
  const id = asked.data?.id;
  const look = useQuery({
    queryKey: ['what-if', id],
    queryFn: id === undefined ? skipToken : () => ok(api.GET('/api/what-if/{id}', path(id))),
    // What came of it does not change, and is gone after an hour.
    staleTime: Infinity,
    refetchInterval: (query) =>
      (query.state.data?.state ?? 'UNDER_WAY') === 'UNDER_WAY' ? LOOK_MILLIS : false,
  });
  const giveUp = useMutation({
    mutationFn: (one: number) => ok(api.DELETE('/api/what-if/{id}', path(one))),
    onSuccess: () => look.refetch(),
  });
  const job = look.data ?? asked.data;
  const underWay = asked.isPending || job?.state === 'UNDER_WAY';

  const left = useRef<() => void>(() => undefined);
  useEffect(() => {
    left.current = () => {
      if (id !== undefined && underWay) giveUp.mutate(id);
    };
  });
  useEffect(() => () => left.current(), []);

  return {
    job,
    underWay,
    ask: () => asked.mutate(),
    giveUp: () => id !== undefined && giveUp.mutate(id),
    error:
      asked.error ??
      look.error ??
      (job?.state === 'FAILED' && !asked.isPending ? new Error(job.problem) : null),
  };
}
