import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ok } from '../../api/client';
import { Card } from '../../components/ui';

/** The fields of a destination object, to have in sight while a query is written. */
export function FieldsBeside() {
  const [chosen, setChosen] = useState('');
  const destinations = useQuery({
    queryKey: ['destinations'],
    queryFn: () => ok(api.GET('/api/destinations')),
  });
  const id = destinations.data?.[0]?.id;
  const objects = useQuery({
    queryKey: ['objects', id],
    queryFn: () => ok(api.GET('/api/destinations/{id}/objects', { params: { path: { id: id ?? 0 } } })),
    enabled: id !== undefined,
  });
  const object = chosen || objects.data?.[0]?.name || '';
  const fields = useQuery({
    queryKey: ['fields', id, object],
    queryFn: () =>
      ok(api.GET('/api/destinations/{id}/objects/{object}', { params: { path: { id: id ?? 0, object } } })),
    enabled: id !== undefined && object !== '',
  });
  return (
    <Card title="Destination fields" className="max-h-[300px] overflow-auto">
      {id === undefined ? (
        <p className="text-soft m-0 px-4 pb-3">Connect a destination to see its fields here.</p>
      ) : (
        <>
          <select
            aria-label="Object whose fields are shown"
            className="bg-sunk mx-4 mb-1 rounded px-1 py-0.5"
            value={object}
            onChange={(e) => setChosen(e.target.value)}
          >
            {(objects.data ?? []).map((one) => (
              <option key={one.name} value={one.name}>
                {destinations.data?.[0]?.name}, {one.title}
              </option>
            ))}
          </select>
          <ul className="m-0 list-none px-4 pb-2">
            {(fields.data?.object.fields ?? []).map((field) => (
              <li key={field.name} className="flex justify-between gap-1 font-mono text-[0.75rem]">
                <span className="truncate">
                  {field.name}
                  {field.required && <span title="required">*</span>}
                </span>
                <span className="text-soft">{field.kind.toLowerCase()}</span>
              </li>
            ))}
          </ul>
        </>
      )}
    </Card>
  );
}
