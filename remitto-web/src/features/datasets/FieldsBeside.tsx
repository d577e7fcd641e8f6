import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ok } from '../../api/client';
import { Card, Failure } from '../../components/ui';

interface Props {
  /** 0 for a dataset that was never saved. */
  datasetId: number;
  columns: string[];
}

const plain = (name: string) => name.toLowerCase().replaceAll('_', '');

/** The fields of a destination object, to have in sight while a query is written; those that a column covers are marked. */
export function FieldsBeside({ datasetId, columns }: Props) {
  const [chosen, setChosen] = useState('');
  const fits = useQuery({
    queryKey: ['field-fits', datasetId, columns],
    queryFn: () =>
      ok(api.GET('/api/field-fits', { params: { query: { dataset: datasetId, column: columns } } })),
    placeholderData: keepPreviousData,
  });
  const name = (fit: { destinationId: number; object: string }) => `${fit.destinationId} ${fit.object}`;
  const fit = fits.data?.find((one) => name(one) === chosen) ?? fits.data?.[0];
  const fields = useQuery({
    queryKey: ['fields', fit?.destinationId, fit?.object],
    queryFn: () =>
      ok(
        api.GET('/api/destinations/{id}/objects/{object}', {
          params: { path: { id: fit?.destinationId ?? 0, object: fit?.object ?? '' } },
        }),
      ),
    enabled: fit !== undefined,
  });
  const covered = new Set(columns.map(plain));
  return (
    <Card title="Destination fields" className="max-h-[300px] overflow-auto">
      <Failure error={fits.error ?? fields.error} />
      {fits.data && !fit ? (
        <p className="text-soft m-0 px-4 pb-3">Connect a destination to see its fields here.</p>
      ) : (
        <>
          <select
            aria-label="Object whose fields are shown"
            className="bg-sunk mx-4 mb-1 max-w-[calc(100%-2rem)] rounded px-1 py-0.5"
            value={fit ? name(fit) : ''}
            onChange={(e) => setChosen(e.target.value)}
          >
            {(fits.data ?? []).map((one) => (
              <option key={name(one)} value={name(one)}>
                {one.destination}, {one.title}
              </option>
            ))}
          </select>
          <ul className="m-0 list-none px-4 pb-2">
            {(fields.data?.object.fields ?? []).map((field) => {
              const has = covered.has(plain(field.name));
              return (
                <li key={field.name} className="flex justify-between gap-1 font-mono text-[0.75rem]">
                  <span className={`truncate ${has ? 'text-added' : ''}`}>
                    {has && (
                      <>
                        <span aria-hidden>✓ </span>
                        <span className="sr-only">covered by a column: </span>
                      </>
                    )}
                    {field.name}
                    {field.required && <span title="required">*</span>}
                  </span>
                  <span className="text-soft">{field.kind.toLowerCase()}</span>
                </li>
              );
            })}
          </ul>
        </>
      )}
    </Card>
  );
}
