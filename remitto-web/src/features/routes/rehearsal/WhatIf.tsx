import { useMutation } from '@tanstack/react-query';
import { api, ok } from '../../../api/client';
import type { RouteSpec } from '../../../api/types';
import { Button, Card, Failure, Skeleton } from '../../../components/ui';
import { EffectTable } from '../../rehearsal/EffectTable';

/** What unsaved rules would do to the rows as they are, beside what the version in service does. */
export function WhatIf({ routeId, spec, blocked }: { routeId: number; spec: RouteSpec; blocked: boolean }) {
  const look = useMutation({
    mutationFn: () =>
      ok(api.POST('/api/routes/{id}/what-if', { params: { path: { id: routeId } }, body: { spec } })),
  });
  return (
    <Card title="What would this change do">
      <div className="px-4 pb-3">
        <div className="flex items-center gap-3">
          <Button disabled={look.isPending || blocked} onClick={() => look.mutate()}>
            {look.data ? 'Look again' : 'Judge the rows by both'}
          </Button>
          <span className="text-soft">
            {blocked
              ? 'Mend the faults first.'
              : 'Nothing is sent, and nothing is written down; the rows are judged by both versions as they are now.'}
          </span>
        </div>
        <Failure error={look.error} />
        {look.isPending && <Skeleton rows={3} />}
        {look.data && !look.isPending && <EffectTable effect={look.data} />}
      </div>
    </Card>
  );
}
