import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { api, ok } from '../../api/client';
import type { AudienceSpec } from '../../api/types';
import { count } from '../../components/format';
import { useSettled } from '../../components/settled';
import { Card, Failure } from '../../components/ui';

/** What an unsaved condition would change of who is in the audience now. */
export function Effect({ id, spec }: { id: number; spec: AudienceSpec }) {
  const settled = useSettled(spec, 400);
  const effect = useQuery({
    queryKey: ['audience-effect', id, settled],
    queryFn: () => ok(api.POST('/api/audiences/{id}/effect', { params: { path: { id } }, body: settled })),
    retry: false,
  });
  const found = effect.data;
  return (
    <Card title="What would this change?" aside="compared with the members at the latest count">
      <div className="px-4 pb-3">
        <Failure error={effect.error} />
        {found ? (
          <>
            <p className="m-0">
              <span className="text-added font-semibold">+ {count(found.joins)} would join</span>,{' '}
              <span className="text-removed font-semibold">− {count(found.goes)} would leave</span>:{' '}
              {count(found.now)} now, {count(found.then)} then. Routes that send it follow at their next
              departure, once a version with this is in service.
            </p>
            <ul className="m-0 mt-1 flex list-none flex-wrap gap-x-4 p-0">
              {found.examples.map((one) => (
                <li key={`${one.personId}${one.joins}`}>
                  <span className={one.joins ? 'text-added' : 'text-removed'}>{one.joins ? '+' : '−'}</span>{' '}
                  <Link className="text-deep underline" to={`/people/${one.personId}`}>
                    {one.label}
                  </Link>
                </li>
              ))}
            </ul>
          </>
        ) : (
          !effect.error && <p className="text-soft m-0">Computing…</p>
        )}
      </div>
    </Card>
  );
}
