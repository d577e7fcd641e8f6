import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { api, ok } from '../../api/client';
import type { Column, Expectation } from '../../api/types';
import { Ago } from '../../components/Moment';
import { Card, Failure } from '../../components/ui';
import { Act, Editors } from '../session/Editors';
import { fresh, subjectOf } from './demands';
import { ExpectationRow } from './ExpectationRow';

/** Proposals that are shown before somebody asks for the others. */
const SHOWN = 4;

interface Props {
  datasetId: number;
  /** The version in service, of which the states are; none while there is no such version. */
  live: number | undefined;
  columns: Column[];
  value: Expectation[];
  onChange: (value: Expectation[]) => void;
}

/** What is expected of a dataset: edited as sentences, each with what the last read found. */
export function ExpectationsCard({ datasetId, live, columns, value, onChange }: Props) {
  const client = useQueryClient();
  const [every, setEvery] = useState(false);
  const path = { path: { id: datasetId } };
  const states = useQuery({
    queryKey: ['expectations', datasetId, live],
    queryFn: () => ok(api.GET('/api/datasets/{id}/expectations', { params: path })),
    refetchInterval: (query) => (query.state.data?.checking ? 1_500 : 60_000),
  });
  const proposals = useQuery({
    queryKey: ['expectation-proposals', datasetId],
    queryFn: () => ok(api.GET('/api/datasets/{id}/expectations/proposals', { params: path })),
  });
  const check = useMutation({
    mutationFn: () => ok(api.POST('/api/datasets/{id}/check', { params: path })),
    onSuccess: (found) => client.setQueryData(['expectations', datasetId, live], found),
  });
  const checking = states.data?.checking ?? false;
  const was = useRef(false);
  useEffect(() => {
    if (was.current && !checking) {
      for (const key of ['column-profiles', 'expectation-proposals', 'unexpected-rows'])
        void client.invalidateQueries({ queryKey: [key, datasetId] });
      void client.invalidateQueries({ queryKey: ['dataset', String(datasetId)] });
    }
    was.current = checking;
  }, [checking, client, datasetId]);
  const known = new Map((states.data?.expectations ?? []).map((one) => [subjectOf(one.expectation), one]));
  const offered = (proposals.data ?? []).filter(
    (one) =>
      !value.some(
        (other) =>
          other.column === one.expectation.column && other.demand.kind === one.expectation.demand.kind,
      ),
  );
  const set = (at: number, changed: Expectation) =>
    onChange(value.map((one, i) => (i === at ? changed : one)));
  return (
    <Card
      className="mt-3"
      title="Expectations"
      aside={
        <span className="flex items-center gap-3">
          {states.data?.lastRead && (
            <span>
              last read in full <Ago at={states.data.lastRead} />
            </span>
          )}
          {live !== undefined && (
            <Act disabled={check.isPending || checking} onClick={() => check.mutate()}>
              {checking ? 'Checking' : 'Check now'}
            </Act>
          )}
        </span>
      }
    >
      <div className="px-4 pb-3">
        <Failure error={states.error ?? check.error ?? proposals.error} />
        {states.data?.problem && (
          <Failure error={new Error(`The last check failed. ${states.data.problem}`)} />
        )}
        {value.length === 0 ? (
          <p className="text-soft m-0 mb-2">
            Nothing is expected of this dataset yet. Expectations are checked each time the dataset is read in
            full, and once a day.
          </p>
        ) : (
          <ul className="m-0 list-none p-0">
            {value.map((one, i) => (
              <ExpectationRow
                key={i}
                datasetId={datasetId}
                columns={columns}
                value={one}
                state={known.get(subjectOf(one))}
                onChange={(changed) => set(i, changed)}
                onRemove={() => onChange(value.filter((_, at) => at !== i))}
              />
            ))}
          </ul>
        )}
        <Act
          onClick={() =>
            onChange([...value, { column: columns[0]?.name, demand: fresh('not-empty'), response: 'TELL' }])
          }
        >
          Add expectation
        </Act>
        {offered.length > 0 && (
          <Editors>
            <h3 className="mt-3 mb-1 text-[0.8125rem] font-semibold">Proposed from the last reads</h3>
            <ul className="m-0 list-none p-0">
              {(every ? offered : offered.slice(0, SHOWN)).map((one) => (
                <li
                  key={subjectOf(one.expectation)}
                  className="border-hairline flex flex-wrap items-center gap-x-3 border-t py-1"
                >
                  <span>{one.sentence}</span>
                  <span className="text-soft">{one.evidence}</span>
                  <span className="ml-auto">
                    <Act
                      kind="quiet"
                      aria-label={`Add: ${one.sentence}`}
                      onClick={() => onChange([...value, one.expectation])}
                    >
                      Add
                    </Act>
                  </span>
                </li>
              ))}
            </ul>
            {offered.length > SHOWN && (
              <Act kind="quiet" aria-expanded={every} onClick={() => setEvery(!every)}>
                {every ? 'Show fewer' : `Show ${offered.length - SHOWN} more`}
              </Act>
            )}
          </Editors>
        )}
      </div>
    </Card>
  );
}
