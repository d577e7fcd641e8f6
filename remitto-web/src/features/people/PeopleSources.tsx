import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { api, ok } from '../../api/client';
import type { AttributeKind, PeopleSource } from '../../api/types';
import { Button, Card, Failure, Input, Labelled, Select, TD, TH } from '../../components/ui';
import { attributeWords } from './words';

const KINDS: AttributeKind[] = [
  'GIVEN_NAME',
  'FAMILY_NAME',
  'FULL_NAME',
  'EMAIL',
  'PHONE',
  'BIRTH_DATE',
  'ADDRESS',
  'POSTCODE',
  'TOWN',
  'COMPANY',
  'IDENTIFIER',
  'TEXT',
];

/** Datasets that describe people, with what their columns say of them. */
export function PeopleSources({ sources }: { sources: PeopleSource[] }) {
  const [edited, setEdited] = useState<PeopleSource>();
  const datasets = useQuery({ queryKey: ['datasets'], queryFn: () => ok(api.GET('/api/datasets')) });
  const suggest = useMutation({
    mutationFn: (datasetId: number) =>
      ok(api.GET('/api/people/sources/{datasetId}/suggestion', { params: { path: { datasetId } } })),
    onSuccess: setEdited,
  });
  const free = (datasets.data ?? []).filter(
    (dataset) => dataset.liveVersion && !sources.some((source) => source.datasetId === dataset.id),
  );
  return (
    <Card title="Datasets that describe people" aside="The first ones decide ties">
      <Failure error={suggest.error} />
      <ul className="m-0 list-none p-0">
        {sources.map((source) => (
          <li
            key={source.datasetId}
            className="border-hairline flex items-baseline gap-2 border-b px-4 py-1.5"
          >
            <Link to={`/datasets/${source.datasetId}`} className="text-deep underline">
              {source.dataset}
            </Link>
            <span className="text-soft min-w-0 flex-1">
              {source.columns.map((tied) => attributeWords(tied.attribute).toLowerCase()).join(', ')}
            </span>
            <Button kind="quiet" aria-label={`Change ${source.dataset}`} onClick={() => setEdited(source)}>
              Change
            </Button>
          </li>
        ))}
      </ul>
      {edited ? (
        <Tie key={edited.datasetId} source={edited} onDone={() => setEdited(undefined)} />
      ) : (
        <div className="px-4 py-2">
          <Select
            aria-label="Add a dataset"
            value=""
            onChange={(event) => suggest.mutate(Number(event.target.value))}
          >
            <option value="">Add a dataset…</option>
            {free.map((dataset) => (
              <option key={dataset.id} value={dataset.id}>
                {dataset.name}
              </option>
            ))}
          </Select>
        </div>
      )}
    </Card>
  );
}

function Tie({ source, onDone }: { source: PeopleSource; onDone: () => void }) {
  const client = useQueryClient();
  const [columns, setColumns] = useState(source.columns);
  const [country, setCountry] = useState(source.country);
  const dataset = useQuery({
    queryKey: ['dataset', source.datasetId],
    queryFn: () => ok(api.GET('/api/datasets/{id}', { params: { path: { id: source.datasetId } } })),
  });
  const path = { path: { datasetId: source.datasetId } };
  const done = () => {
    void client.invalidateQueries({ queryKey: ['people'] });
    onDone();
  };
  const save = useMutation({
    mutationFn: () =>
      ok(
        api.PUT('/api/people/sources/{datasetId}', {
          params: path,
          body: { columns, country, countryColumn: source.countryColumn },
        }),
      ),
    onSuccess: done,
  });
  const remove = useMutation({
    mutationFn: () => ok(api.DELETE('/api/people/sources/{datasetId}', { params: path })),
    onSuccess: done,
  });
  const tie = (column: string, kind: string) =>
    setColumns((before) => {
      const others = before.filter((tied) => tied.column !== column);
      if (!kind) return others;
      const attribute = kind === 'IDENTIFIER' || kind === 'TEXT' ? column : kind.toLowerCase();
      return [...others, { column, attribute, kind: kind as AttributeKind }];
    });
  return (
    <div className="px-4 py-2">
      <h3 className="m-0 text-[13px] font-semibold">What the columns of {source.dataset} say of a person</h3>
      <Failure error={save.error ?? remove.error ?? dataset.error} />
      <table className="w-full border-collapse">
        <thead>
          <tr>
            <th className={TH}>Column</th>
            <th className={TH}>is the person&apos;s</th>
          </tr>
        </thead>
        <tbody>
          {(dataset.data?.definition.columns ?? [])
            .filter((column) => column.role !== 'KEY')
            .map((column) => (
              <tr key={column.name}>
                <td className={`${TD} font-mono`}>{column.name}</td>
                <td className={TD}>
                  <Select
                    aria-label={`What ${column.name} is`}
                    value={columns.find((tied) => tied.column === column.name)?.kind ?? ''}
                    onChange={(event) => tie(column.name, event.target.value)}
                  >
                    <option value="">not used</option>
                    {KINDS.map((kind) => (
                      <option key={kind} value={kind}>
                        {attributeWords(kind).toLowerCase()}
                      </option>
                    ))}
                  </Select>
                </td>
              </tr>
            ))}
        </tbody>
      </table>
      <div className="mt-2 flex flex-wrap items-end gap-2">
        <Labelled label="Phones without a country are of">
          <Input
            className="w-[70px]"
            value={country}
            onChange={(event) => setCountry(event.target.value.toUpperCase())}
          />
        </Labelled>
        <Button disabled={save.isPending} onClick={() => save.mutate()}>
          Save
        </Button>
        <Button kind="quiet" onClick={onDone}>
          Leave it as it was
        </Button>
        <Button kind="quiet" disabled={remove.isPending} onClick={() => remove.mutate()}>
          Take it out of people
        </Button>
      </div>
    </div>
  );
}
