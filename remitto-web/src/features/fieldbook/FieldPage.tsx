import { useMutation, useQueryClient } from '@tanstack/react-query';
import { Link } from 'react-router';
import { api, ok } from '../../api/client';
import type { FieldBook } from '../../api/types';
import { count } from '../../components/format';
import { Ago } from '../../components/Moment';
import { Card, Failure, Labelled, Pill, Select } from '../../components/ui';
import { Order } from './Order';

/** One field: its rules as sentences, who else writes it, and which route owns it. */
export function FieldPage({ book, one }: { book: FieldBook; one: FieldBook['fields'][number] }) {
  const client = useQueryClient();
  const own = useMutation({
    mutationFn: (routeId: number | undefined) =>
      ok(
        api.PUT('/api/destinations/{id}/objects/{object}/book/{field}/owner', {
          params: { path: { id: book.destinationId, object: book.object, field: one.field.name } },
          body: { routeId },
        }),
      ),
    onSuccess: (fresh) => client.setQueryData(['book', book.destinationId, book.object], fresh),
  });
  const order = useMutation({
    mutationFn: (routeIds: number[]) =>
      ok(
        api.PUT('/api/destinations/{id}/objects/{object}/book/{field}/order', {
          params: { path: { id: book.destinationId, object: book.object, field: one.field.name } },
          body: { routeIds },
        }),
      ),
    onSuccess: (fresh) => client.setQueryData(['book', book.destinationId, book.object], fresh),
  });
  return (
    <Card title={`${one.field.title} (${one.field.name})`}>
      <div className="flex flex-col gap-2 px-4 pb-3">
        {one.conflict && (
          <p className={`m-0 ${one.conflict.settled ? 'text-soft' : 'text-removed'}`} role="status">
            {one.conflict.text}.
          </p>
        )}
        {one.rules.length > 1 && (
          <Labelled
            label="Owned by"
            note="Rules of other routes for this field are inactive from their next run. Existing values do not change."
          >
            <Select
              className="w-full"
              disabled={own.isPending}
              value={one.owner?.routeId ?? 0}
              onChange={(e) => own.mutate(Number(e.target.value) || undefined)}
            >
              <option value={0}>no one: every route writes it</option>
              {one.rules.map((rule) => (
                <option key={rule.routeId} value={rule.routeId}>
                  {rule.route}
                </option>
              ))}
            </Select>
          </Labelled>
        )}
        {one.rules.length > 1 && (
          <Order one={one} busy={order.isPending} onOrder={(routeIds) => order.mutate(routeIds)} />
        )}
        {one.owner && (
          <span className="text-soft">
            Settled by {one.owner.setBy} <Ago at={one.owner.setAt} />.
          </span>
        )}
        <Failure error={own.error ?? order.error} />
        {one.rules.map((rule) => (
          <div key={rule.routeId} className="border-hairline border-t pt-2">
            <Link to={`/routes/${rule.routeId}`} className="text-deep font-semibold">
              {rule.route}
            </Link>{' '}
            {!rule.inService && <Pill tone="warn">not in service</Pill>}
            {rule.setAside && <Pill>inactive</Pill>}
            <div>{rule.sentence}</div>
          </div>
        ))}
        {one.rules.length === 0 && <span className="text-soft">No rule writes it.</span>}
        {one.others.length > 0 && (
          <div className="border-hairline border-t pt-2">
            <span className="font-semibold">Values from other clients</span>
            <ul className="m-0 list-none p-0">
              {one.others.map((other) => (
                <li key={other.client} className="flex justify-between gap-2">
                  <span className="font-mono">{other.client}</span>
                  <span>
                    {count(other.values)}, newest <Ago at={other.newest} />
                  </span>
                </li>
              ))}
            </ul>
          </div>
        )}
        {one.field.choices.length > 0 && (
          <div className="text-soft border-hairline border-t pt-2">Type: {one.field.choices.join(', ')}</div>
        )}
      </div>
    </Card>
  );
}
