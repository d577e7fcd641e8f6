import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { api, ok } from '../../api/client';
import type { EntityType, AudienceSpec, LiveCount } from '../../api/types';
import { useSettled } from '../../components/settled';

const SETTLED_MILLIS = 250;

export interface Live {
  count?: LiveCount;
  /** Whether a newer count is on its way. */
  counting: boolean;
  error: Error | null;
}

/** Counts a condition as it is edited: first what a sample says, if there are so many people, then exactly. */
export function useLiveCount(entityType: EntityType, spec: AudienceSpec, asked: boolean): Live {
  const settled = useSettled(spec, SETTLED_MILLIS);
  const ask = (exact: boolean) => ({
    queryKey: ['live-count', entityType, settled, exact],
    queryFn: () => ok(api.POST('/api/conditions/count', { body: { entityType, spec: settled, exact } })),
    retry: false,
  });
  const first = useQuery({ ...ask(false), enabled: asked, placeholderData: keepPreviousData });
  const estimated = first.data?.margin !== undefined && !first.isPlaceholderData;
  const exact = useQuery({ ...ask(true), enabled: asked && estimated });
  return {
    count: asked ? (exact.data ?? first.data) : undefined,
    counting: first.isFetching || exact.isFetching || settled !== spec,
    error: first.error ?? exact.error,
  };
}
