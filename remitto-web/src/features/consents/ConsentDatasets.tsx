import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ok } from '../../api/client';
import type { ConsentColumnsOf, ConsentDataset } from '../../api/types';
import { count, counted } from '../../components/format';
import { Ago } from '../../components/Moment';
import { Button, Card, Failure, Input, Labelled, Select } from '../../components/ui';
import { Act } from '../session/Editors';

const KEY = ['consent-datasets'];

const FRESH: ConsentColumnsOf = {
  address: '',
  purpose: 'newsletter',
  channel: 'email',
  answer: '',
  tcfPurposes: [],
  saidAt: '',
  expires: '',
  evidence: '',
};

/** Datasets that say by address what somebody agreed to. */
export function ConsentDatasets() {
  const client = useQueryClient();
  const [adding, setAdding] = useState(false);
  const all = useQuery({ queryKey: KEY, queryFn: () => ok(api.GET('/api/consents/datasets')) });
  const taken = (saved: ConsentDataset[]) => {
    client.setQueryData(KEY, saved);
    void client.invalidateQueries({ queryKey: ['consents'] });
    setAdding(false);
  };
  const leave = useMutation({
    mutationFn: (datasetId: number) =>
      ok(api.DELETE('/api/consents/datasets/{datasetId}', { params: { path: { datasetId } } })),
    onSuccess: taken,
  });
  return (
    <Card title="Consent from datasets, by address">
      <div className="flex flex-col gap-2 px-4 pb-3">
        {all.data?.map((one) => (
          <div key={one.datasetId} className="border-hairline border-b pb-2">
            <div className="flex justify-between gap-2">
              <span>
                <strong>{one.dataset}</strong> holds consent to {one.columns.purpose} by {one.columns.channel}
                , in {one.columns.answer}
                {one.columns.tcfPurposes.length > 0 &&
                  ` (consent strings, purposes ${one.columns.tcfPurposes.join(', ')})`}
                .
              </span>
              <Act kind="quiet" disabled={leave.isPending} onClick={() => leave.mutate(one.datasetId)}>
                Cancel
              </Act>
            </div>
            <span className="text-soft">
              {counted(one.answers, 'answer')}
              {Object.entries(one.unusable).map(([why, rows]) => `, ${count(rows)} with ${why}`)}
              {one.readAt && (
                <>
                  , read <Ago at={one.readAt} />
                </>
              )}
              .
            </span>
            {one.problem !== '' && <Failure error={new Error(one.problem)} />}
          </div>
        ))}
        {all.data?.length === 0 && !adding && (
          <p className="text-soft m-0">
            A dataset with people's answers, for example from a preference page, or with consent strings from
            the website.
          </p>
        )}
        <Failure error={all.error ?? leave.error} />
        {adding ? (
          <Adding onTaken={taken} onLeave={() => setAdding(false)} />
        ) : (
          <div>
            <Act onClick={() => setAdding(true)}>Add a dataset</Act>
          </div>
        )}
      </div>
    </Card>
  );
}

function Adding({ onTaken, onLeave }: { onTaken: (all: ConsentDataset[]) => void; onLeave: () => void }) {
  const [datasetId, setDataset] = useState(0);
  const [columns, setColumns] = useState(FRESH);
  const [purposes, setPurposes] = useState('');
  const datasets = useQuery({ queryKey: ['datasets'], queryFn: () => ok(api.GET('/api/datasets')) });
  const dataset = useQuery({
    queryKey: ['dataset', datasetId],
    queryFn: () => ok(api.GET('/api/datasets/{id}', { params: { path: { id: datasetId } } })),
    enabled: datasetId > 0,
  });
  const take = useMutation({
    mutationFn: () =>
      ok(
        api.PUT('/api/consents/datasets/{datasetId}', {
          params: { path: { datasetId } },
          body: {
            ...columns,
            tcfPurposes: purposes
              .split(/[\s,;]+/)
              .filter((text) => /^\d+$/.test(text))
              .map(Number),
          },
        }),
      ),
    onSuccess: onTaken,
  });
  const names = (dataset.data?.definition?.columns ?? []).map((column) => column.name);
  const column = (label: string, part: 'address' | 'answer' | 'saidAt' | 'expires' | 'evidence') => (
    <Labelled label={label}>
      <Select
        className="w-full"
        value={columns[part]}
        onChange={(event) => setColumns({ ...columns, [part]: event.target.value })}
      >
        <option value="">none</option>
        {names.map((name) => (
          <option key={name} value={name}>
            {name}
          </option>
        ))}
      </Select>
    </Labelled>
  );
  return (
    <form
      className="grid grid-cols-2 gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        take.mutate();
      }}
    >
      <div className="col-span-2">
        <Labelled label="Dataset">
          <Select
            className="w-full"
            value={datasetId}
            onChange={(event) => setDataset(Number(event.target.value))}
          >
            <option value={0}>choose</option>
            {(datasets.data ?? []).map((one) => (
              <option key={one.id} value={one.id}>
                {one.name}
              </option>
            ))}
          </Select>
        </Labelled>
      </div>
      {column('Address or its hash in column', 'address')}
      {column('Answer or consent string in column', 'answer')}
      <Labelled label="Purpose">
        <Input
          className="w-full"
          value={columns.purpose}
          onChange={(event) => setColumns({ ...columns, purpose: event.target.value })}
        />
      </Labelled>
      <Labelled label="Channel">
        <Input
          className="w-full"
          value={columns.channel}
          onChange={(event) => setColumns({ ...columns, channel: event.target.value })}
        />
      </Labelled>
      {column('Time of the answer in column', 'saidAt')}
      {column('Expiry in column', 'expires')}
      {column('Evidence in column', 'evidence')}
      <Labelled
        label="Purposes of a consent string"
        note="TCF purpose numbers, for example 3 4. All of them must be granted."
      >
        <Input className="w-full" value={purposes} onChange={(event) => setPurposes(event.target.value)} />
      </Labelled>
      <div className="col-span-2 flex flex-col gap-2">
        <Failure error={take.error} />
        <div className="flex gap-2">
          <Button type="submit" disabled={take.isPending || datasetId === 0}>
            Use its answers
          </Button>
          <Button kind="quiet" onClick={onLeave}>
            Cancel
          </Button>
        </div>
      </div>
    </form>
  );
}
