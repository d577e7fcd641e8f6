import { useMutation } from '@tanstack/react-query';
import { Link } from 'react-router';
import type { RouteEffect } from '../../api/types';
import { Button, Card, Failure, Skeleton } from '../../components/ui';
import { EffectTable } from './EffectTable';

interface Props {
  /** Judges the rows with what is on the page, unsaved. */
  judge: () => Promise<RouteEffect[]>;
  changed: boolean;
}

/** What an unsaved change would do to every route in service that uses what is changed. */
export function RouteEffects({ judge, changed }: Props) {
  const look = useMutation({ mutationFn: judge });
  return (
    <Card title="What would this change do" className="mt-3">
      <div className="px-4 pb-3">
        <div className="flex items-center gap-3">
          <Button disabled={look.isPending || !changed} onClick={() => look.mutate()}>
            {look.data ? 'Look again' : 'Judge the rows by both'}
          </Button>
          <span className="text-soft">
            {changed
              ? 'Nothing is sent, and nothing is written down; each route in service judges its rows as it is and with the change.'
              : 'Change something first; then each route in service that uses it can be judged with the change.'}
          </span>
        </div>
        <Failure error={look.error} />
        {look.isPending && <Skeleton rows={3} />}
        {look.data?.length === 0 && !look.isPending && (
          <p className="text-soft mb-0" role="status">
            No route in service uses it.
          </p>
        )}
        {!look.isPending &&
          (look.data ?? []).map((one) => (
            <section key={one.routeId} className="border-hairline mt-3 border-t pt-2">
              <h3 className="m-0 text-[13px] font-semibold">
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
