import { Link } from 'react-router';
import type { WhatIfJob } from '../../api/types';
import { Card, Failure } from '../../components/ui';
import { EffectTable } from './EffectTable';
import { useWhatIf } from './useWhatIf';
import { WhatIfProgress } from './WhatIfProgress';
import { Act } from '../session/Editors';

interface Props {
  /** Begins to judge the rows with what is on the page, unsaved. */
  judge: () => Promise<WhatIfJob>;
  changed: boolean;
}

/** What an unsaved change would do to every route in service that uses what is changed. */
export function RouteEffects({ judge, changed }: Props) {
  const look = useWhatIf(judge);
  const effects = look.job?.state === 'DONE' ? look.job.effects : undefined;
  return (
    <Card title="What would this change?" className="mt-3">
      <div className="px-4 pb-3">
        <div className="flex items-center gap-3">
          <Act disabled={look.underWay || !changed} onClick={look.ask}>
            {effects ? 'Compare again' : 'Compare on all rows'}
          </Act>
          <span className="text-soft">
            {changed
              ? 'Sends nothing. Each route in service evaluates its rows with and without the change.'
              : 'Change something first. Then the effect on each route in service can be compared.'}
          </span>
        </div>
        <Failure error={look.error} />
        {look.underWay && <WhatIfProgress job={look.job} onGiveUp={look.giveUp} />}
        {effects?.length === 0 && !look.underWay && (
          <p className="text-soft mb-0" role="status">
            No route in service uses it.
          </p>
        )}
        {!look.underWay &&
          (effects ?? []).map((one) => (
            <section key={one.routeId} className="border-hairline mt-3 border-t pt-2">
              <h3 className="m-0 text-[0.8125rem] font-semibold">
                <Link to={`/routes/${one.routeId}`} className="text-deep underline">
                  {one.route}
                </Link>
              </h3>
              {one.problem && <Failure error={new Error(one.problem)} />}
              {one.effect && <EffectTable effect={one.effect} />}
            </section>
          ))}
      </div>
    </Card>
  );
}
