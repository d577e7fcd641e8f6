import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { api, ok } from '../../api/client';
import type { Field } from '../../api/types';
import { counted } from '../../components/format';
import { Ago } from '../../components/Moment';
import { Card, Failure, Pill, TD, TH } from '../../components/ui';
import { TakeStock } from '../stocktakes/TakeStock';
import { Act } from '../session/Editors';

/** The tool's objects, with their fields as it describes them. */
export function Objects({ id }: { id: number }) {
  const client = useQueryClient();
  const [chosen, setChosen] = useState('');
  const objects = useQuery({
    queryKey: ['objects', id],
    queryFn: () => ok(api.GET('/api/destinations/{id}/objects', { params: { path: { id } } })),
  });
  const object =
    chosen || (objects.data?.find((one) => one.name === 'contact') ?? objects.data?.[0])?.name || '';
  const fields = useQuery({
    queryKey: ['fields', id, object],
    queryFn: () =>
      ok(api.GET('/api/destinations/{id}/objects/{object}', { params: { path: { id, object } } })),
    enabled: object !== '',
  });
  const refresh = useMutation({
    mutationFn: () =>
      ok(api.POST('/api/destinations/{id}/objects/{object}/refresh', { params: { path: { id, object } } })),
    onSuccess: (fresh) => client.setQueryData(['fields', id, object], fresh),
  });
  return (
    <Card>
      <div
        className="border-hairline flex flex-wrap items-center gap-1 border-b px-3 py-2"
        role="group"
        aria-label="Objects"
      >
        {(objects.data ?? []).map((one) => (
          <button
            key={one.name}
            type="button"
            aria-pressed={one.name === object}
            className={`rounded-button cursor-pointer px-2.5 py-1 ${one.name === object ? 'bg-board text-board-ink font-semibold' : 'hover:bg-sunk'}`}
            onClick={() => setChosen(one.name)}
          >
            {one.title}
          </button>
        ))}
        <span className="text-soft ml-auto flex items-center gap-2">
          {fields.data && (
            <span>
              {counted(fields.data.object.fields.length, 'field')}, described{' '}
              <Ago at={fields.data.describedAt} />
            </span>
          )}
          <Act disabled={refresh.isPending || !object} onClick={() => refresh.mutate()}>
            Refresh fields
          </Act>
          {object && (
            <Link to={`/destinations/${id}/${object}`} className="text-deep underline">
              Field book
            </Link>
          )}
          <TakeStock destinationId={id} object={object} />
        </span>
      </div>
      <Failure error={fields.error ?? refresh.error} />
      {fields.data && (
        <table className="w-full border-collapse">
          <thead>
            <tr>
              <th className={TH}>Field</th>
              <th className={TH}>Title</th>
              <th className={TH}>Type</th>
              <th className={TH}>Restrictions</th>
            </tr>
          </thead>
          {(
            [
              ['Standard fields', fields.data.object.fields.filter((field) => !field.custom)],
              ['Custom fields', fields.data.object.fields.filter((field) => field.custom)],
            ] as const
          ).map(
            ([title, some]) =>
              some.length > 0 && (
                <tbody key={title}>
                  <tr>
                    <th
                      colSpan={4}
                      scope="rowgroup"
                      className="bg-sunk text-soft px-3 py-1 text-left font-medium"
                    >
                      {title}, {some.length}
                    </th>
                  </tr>
                  {some.map((field) => (
                    <FieldRow key={field.name} field={field} />
                  ))}
                </tbody>
              ),
          )}
        </table>
      )}
    </Card>
  );
}

function FieldRow({ field }: { field: Field }) {
  return (
    <tr>
      <td className={`${TD} font-mono font-semibold`}>{field.name}</td>
      <td className={TD}>{field.title}</td>
      <td className={TD}>
        {field.kind.toLowerCase()}
        {field.maxLength !== undefined && <span className="text-soft">, {field.maxLength} characters</span>}
        {field.choices.length > 0 && <span className="text-soft">: {field.choices.join(', ')}</span>}
      </td>
      <td className={`${TD} space-x-1`}>
        {field.required && <Pill tone="warn">required</Pill>}
        {field.unique && <Pill>unique</Pill>}
        {field.readOnly && <Pill tone="held">read-only</Pill>}
        {!field.writable && !field.readOnly && <Pill tone="held">not writable by this login</Pill>}
      </td>
    </tr>
  );
}
