import type { FieldBook } from '../../api/types';
import { Ago } from '../../components/Moment';
import {} from '../../components/ui';
import { Act } from '../session/Editors';

interface Props {
  one: FieldBook['fields'][number];
  busy: boolean;
  onOrder: (routeIds: number[]) => void;
}

function moved(ids: number[], from: number, to: number): number[] {
  const next = [...ids];
  const [one] = next.splice(from, 1);
  if (one !== undefined) next.splice(to, 0, one);
  return next;
}

/** Settles in which order several routes write a field, record by record. */
export function Order({ one, busy, onOrder }: Props) {
  const ids = one.order?.routeIds ?? [];
  const name = (id: number) => one.rules.find((rule) => rule.routeId === id)?.route ?? `route ${id}`;
  if (ids.length === 0)
    return (
      <div className="flex items-start justify-between gap-3">
        <span className="text-soft">
          Or by priority: in each record, the highest-priority route that wrote the field keeps it.
        </span>
        <Act disabled={busy} onClick={() => onOrder(one.rules.map((rule) => rule.routeId))}>
          Set priority
        </Act>
      </div>
    );
  return (
    <div>
      <div className="flex items-baseline justify-between gap-3">
        <span>
          Priority per record, set by {one.order?.setBy} {one.order && <Ago at={one.order.setAt} />}.
        </span>
        <Act kind="quiet" disabled={busy} onClick={() => onOrder([])}>
          Remove priority
        </Act>
      </div>
      <ol className="m-0 list-decimal pl-5">
        {ids.map((id, at) => (
          <li key={id} className="py-0.5">
            <span className="flex items-center justify-between gap-2">
              {name(id)}
              <span className="whitespace-nowrap">
                <Act
                  kind="quiet"
                  aria-label={`${name(id)} earlier`}
                  disabled={busy || at === 0}
                  onClick={() => onOrder(moved(ids, at, at - 1))}
                >
                  Earlier
                </Act>
                <Act
                  kind="quiet"
                  aria-label={`${name(id)} later`}
                  disabled={busy || at === ids.length - 1}
                  onClick={() => onOrder(moved(ids, at, at + 1))}
                >
                  Later
                </Act>
              </span>
            </span>
          </li>
        ))}
      </ol>
    </div>
  );
}
