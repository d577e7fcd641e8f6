import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { api, ok } from '../../api/client';
import type { RunNews } from '../../api/types';
import { at } from '../../components/base';

const UNDER_WAY = ['PREPARING', 'SENDING'];

/** A run, with live news from the server while it is under way. */
export function useRun(id: number) {
  const client = useQueryClient();
  const [news, setNews] = useState<RunNews>();
  const run = useQuery({
    queryKey: ['run', id],
    queryFn: () => ok(api.GET('/api/runs/{id}', { params: { path: { id } } })),
  });
  const state = run.data?.state;
  useEffect(() => {
    if (!state || !UNDER_WAY.includes(state)) return undefined;
    const events = new EventSource(at(`/api/runs/${id}/events`));
    events.onmessage = (event: MessageEvent<string>) => {
      const fresh = JSON.parse(event.data) as RunNews;
      setNews(fresh);
      if (fresh.state !== state) {
        events.close();
        setNews(undefined);
        void client.invalidateQueries({ queryKey: ['run', id] });
        void client.invalidateQueries({ queryKey: ['lines', id] });
        void client.invalidateQueries({ queryKey: ['line'] });
      }
    };
    return () => events.close();
  }, [client, id, state]);
  return { run, news };
}
