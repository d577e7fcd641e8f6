import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api, ok } from '../../api/client';
import type { Label, LabelChange } from '../../api/types';
import type { paths } from '../../api/schema';

export type LabelKind = paths['/api/labels/{kind}']['get']['parameters']['path']['kind'];

/** Owners and tags of a kind of things, by id. */
export function useLabels(kind: LabelKind) {
  const labels = useQuery({
    queryKey: ['labels', kind],
    queryFn: () => ok(api.GET('/api/labels/{kind}', { params: { path: { kind } } })),
  });
  const of = new Map<string, Label>((labels.data ?? []).map((one) => [String(one.id), one]));
  const tags = [...new Set((labels.data ?? []).flatMap((one) => one.tags))].sort((a, b) =>
    a.localeCompare(b),
  );
  return { of, tags, error: labels.error };
}

/** Changes owner and tags of several things at once. */
export function useChangeLabels(kind: LabelKind) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (change: LabelChange) =>
      ok(api.PUT('/api/labels/{kind}', { params: { path: { kind } }, body: change })),
    onSuccess: (labels) => client.setQueryData(['labels', kind], labels),
  });
}
