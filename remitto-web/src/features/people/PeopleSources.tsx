import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { api, ok } from '../../api/client';
import type { PeopleSource } from '../../api/types';
import { Card, Failure, Select } from '../../components/ui';
import { type Kin } from './entityTypes';
import { TieColumns } from './TieColumns';
import { attributeWords } from './words';
import { Act } from '../session/Editors';

/** Datasets that describe people or companies, with what their columns say of them. */
export function PeopleSources({ sources, whom }: { sources: PeopleSource[]; whom: Kin }) {
  const client = useQueryClient();
  const [edited, setEdited] = useState<PeopleSource>();
  const datasets = useQuery({ queryKey: ['datasets'], queryFn: () => ok(api.GET('/api/datasets')) });
  const query = { entityType: whom.entityType };
  const suggest = useMutation({
    mutationFn: (datasetId: number) =>
      ok(api.GET('/api/people/sources/{datasetId}/suggestion', { params: { path: { datasetId }, query } })),
    onSuccess: setEdited,
  });
  const move = useMutation({
    mutationFn: ({ datasetId, place }: { datasetId: number; place: number }) =>
      ok(
        api.POST('/api/people/sources/{datasetId}/place', {
          params: { path: { datasetId }, query },
          body: { place },
        }),
      ),
    onSuccess: () => client.invalidateQueries({ queryKey: ['people'] }),
  });
  const free = (datasets.data ?? []).filter(
    (dataset) => dataset.liveVersion && !sources.some((source) => source.datasetId === dataset.id),
  );
  return (
    <Card title={`Datasets of ${whom.many}`} aside="Ties are resolved in this order">
      <Failure error={suggest.error ?? move.error} />
      <ul className="m-0 list-none p-0">
        {sources.map((source, place) => (
          <li
            key={source.datasetId}
            className="border-hairline flex items-baseline gap-2 border-b px-4 py-1.5"
          >
            <span className="min-w-0 flex-1">
              <Link to={`/datasets/${source.datasetId}`} className="text-deep underline">
                {source.dataset}
              </Link>{' '}
              <span className="text-soft">
                {source.columns.map((tied) => attributeWords(tied.attribute).toLowerCase()).join(', ')}
              </span>
            </span>
            <Act
              kind="quiet"
              className="px-1"
              disabled={place === 0 || move.isPending}
              aria-label={`Move ${source.dataset} up`}
              onClick={() => move.mutate({ datasetId: source.datasetId, place: place - 1 })}
            >
              Up
            </Act>
            <Act
              kind="quiet"
              className="px-1"
              aria-label={`Change ${source.dataset}`}
              onClick={() => setEdited(source)}
            >
              Change
            </Act>
          </li>
        ))}
      </ul>
      {edited ? (
        <TieColumns key={edited.datasetId} source={edited} whom={whom} onDone={() => setEdited(undefined)} />
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
