import { api, ok } from '../../../api/client';
import type { RouteSpec } from '../../../api/types';
import { Card, Failure } from '../../../components/ui';
import { EffectTable } from '../../rehearsal/EffectTable';
import { useWhatIf } from '../../rehearsal/useWhatIf';
import { WhatIfProgress } from '../../rehearsal/WhatIfProgress';
import { Act } from '../../session/Editors';

/** What unsaved rules would do to the rows as they are, beside what the version in service does. */
export function WhatIf({ routeId, spec, blocked }: { routeId: number; spec: RouteSpec; blocked: boolean }) {
  const look = useWhatIf(() =>
    ok(api.POST('/api/routes/{id}/what-if', { params: { path: { id: routeId } }, body: { spec } })),
  );
  const effect = look.job?.effects[0]?.effect;
  return (
    <Card title="What would this change?">
      <div className="px-4 pb-3">
        <div className="flex items-center gap-3">
          <Act disabled={look.underWay || blocked} onClick={look.ask}>
            {effect ? 'Compare again' : 'Compare on all rows'}
          </Act>
          <span className="text-soft">
            {blocked
              ? 'Fix the errors first.'
              : 'Sends nothing. All rows are evaluated by both versions as they are now.'}
          </span>
        </div>
        <Failure error={look.error} />
        {look.underWay && <WhatIfProgress job={look.job} onGiveUp={look.giveUp} />}
        {effect && !look.underWay && <EffectTable effect={effect} />}
      </div>
    </Card>
  );
}
