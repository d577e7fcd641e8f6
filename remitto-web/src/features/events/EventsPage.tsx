import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { api, ok } from '../../api/client';
import type { EventSet, EventSetRequest } from '../../api/types';
import { count, counted } from '../../components/format';
import { Loaded } from '../../components/Loaded';
import { Ago } from '../../components/Moment';
import { Button, Card, Failure, Input, Labelled, Page, Pill, Select, TD, TH } from '../../components/ui';
import { Act } from '../session/Editors';

const RIGHT = `${TD} text-right font-mono`;

/** Datasets whose rows are events of people: kept here, so that audiences and measures can be computed over them. */
export function EventsPage() {
  const sets = useQuery({ queryKey: ['event-sets'], queryFn: () => ok(api.GET('/api/events')) });
  return (
    <Loaded title="Events" query={sets}>
      {(found) => <Events sets={found} />}
    </Loaded>
  );
}

function Events({ sets }: { sets: EventSet[] }) {
  const [adding, setAdding] = useState(false);
  return (
    <Page
      title="Events"
      note={
        <>
          What people did, read from the rows of datasets.{' '}
          <Link className="text-deep underline" to="/audiences">
            Audiences
          </Link>{' '}
          and{' '}
          <Link className="text-deep underline" to="/audiences/measures">
            measures
          </Link>{' '}
          are computed from them.
        </>
      }
      actions={
        <Act kind="primary" onClick={() => setAdding(!adding)} aria-expanded={adding}>
          Add events from a dataset
        </Act>
      }
    >
      {adding && <NewEvents onDone={() => setAdding(false)} />}
      {sets.length > 0 ? (
        <Card className="overflow-x-auto">
          <table className="w-full border-collapse">
            <thead>
              <tr>
                <th className={TH}>Events</th>
                <th className={TH}>Of</th>
                <th className={TH}>Columns kept</th>
                <th className={`${TH} text-right`}>Events</th>
                <th className={`${TH} text-right`}>Unassigned</th>
                <th className={TH}>Newest</th>
                <th className={TH}>Read</th>
                <th className={TH}>
                  <span className="sr-only">Actions</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {sets.map((set) => (
                <Row key={set.id} set={set} />
              ))}
            </tbody>
          </table>
        </Card>
      ) : (
        !adding && <p className="text-soft">No events are kept yet. Add them from a dataset.</p>
      )}
    </Page>
  );
}

function Row({ set }: { set: EventSet }) {
  const client = useQueryClient();
  const done = () => client.invalidateQueries({ queryKey: ['event-sets'] });
  const path = { path: { id: set.id } };
  const read = useMutation({
    mutationFn: (all: boolean) =>
      ok(api.POST('/api/events/{id}/readings', { params: { ...path, query: { all } } })),
    onSuccess: done,
  });
  const remove = useMutation({
    mutationFn: () => ok(api.DELETE('/api/events/{id}', { params: path })),
    onSuccess: done,
  });
  const lost = set.withoutKey + set.withoutTime;
  return (
    <tr>
      <td className={TD}>
        <span className="font-medium">{set.name}</span>
        <span className="text-soft block">
          rows of{' '}
          <Link className="text-deep underline" to={`/datasets/${set.datasetId}`}>
            {set.dataset}
          </Link>
        </span>
        <Failure error={set.problem === '' ? (read.error ?? remove.error) : new Error(set.problem)} />
      </td>
      <td className={TD}>
        whoever <span className="font-mono">{set.personColumn}</span> is in {set.personDataset}
      </td>
      <td className={`${TD} font-mono`}>{set.columns.map((one) => one.name).join(', ')}</td>
      <td className={RIGHT}>
        {count(set.rows)}
        {lost > 0 && (
          <span className="block">
            <Pill tone="warn">{counted(lost, 'row')} without a key or time</Pill>
          </span>
        )}
      </td>
      <td className={RIGHT}>{count(set.unlinked)}</td>
      <td className={TD}>{set.newestAt && <Ago at={set.newestAt} />}</td>
      <td className={TD}>{set.readAt ? <Ago at={set.readAt} /> : 'never'}</td>
      <td className={`${TD} whitespace-nowrap`}>
        <Act
          kind="quiet"
          disabled={read.isPending}
          title={`Reads events newer than ${set.overlapDays} days before the newest one`}
          aria-label={`Read ${set.name}`}
          onClick={() => read.mutate(false)}
        >
          Read
        </Act>
        <Act
          kind="quiet"
          disabled={read.isPending}
          aria-label={`Read all of ${set.name} again`}
          onClick={() => read.mutate(true)}
        >
          Read all again
        </Act>
        <Act
          kind="quiet"
          disabled={remove.isPending}
          aria-label={`Remove ${set.name}`}
          onClick={() => remove.mutate()}
        >
          Remove
        </Act>
      </td>
    </tr>
  );
}

function NewEvents({ onDone }: { onDone: () => void }) {
  const client = useQueryClient();
  const datasets = useQuery({ queryKey: ['datasets'], queryFn: () => ok(api.GET('/api/datasets')) });
  const people = useQuery({
    queryKey: ['people', 'PERSON'],
    queryFn: () => ok(api.GET('/api/people/overview', { params: { query: { entityType: 'PERSON' } } })),
  });
  const companies = useQuery({
    queryKey: ['people', 'COMPANY'],
    queryFn: () => ok(api.GET('/api/people/overview', { params: { query: { entityType: 'COMPANY' } } })),
  });
  const [request, setRequest] = useState<EventSetRequest>({
    name: '',
    datasetId: 0,
    personDatasetId: 0,
    personColumn: '',
    timeColumn: '',
    columns: [],
    overlapDays: 3,
  });
  const dataset = datasets.data?.find((one) => one.id === request.datasetId);
  const columns = dataset?.definition.columns ?? [];
  const times = columns.filter((one) => one.type === 'TIMESTAMP' || one.type === 'DATE');
  const describing = [...(people.data?.sources ?? []), ...(companies.data?.sources ?? [])];
  const add = useMutation({
    mutationFn: () => ok(api.POST('/api/events', { body: request })),
    onSuccess: () => {
      void client.invalidateQueries({ queryKey: ['event-sets'] });
      void client.invalidateQueries({ queryKey: ['condition-words'] });
      onDone();
    },
  });
  return (
    <Card className="mb-3 px-4 py-3">
      <Failure error={add.error} />
      <div className="grid grid-cols-3 gap-3">
        <Labelled label="Dataset with the events">
          <Select
            className="w-full"
            value={request.datasetId}
            onChange={(event) => {
              const chosen = datasets.data?.find((one) => one.id === Number(event.target.value));
              const fresh = chosen?.definition.columns ?? [];
              const time =
                fresh.find((one) => one.role === 'EVENT_TIME') ??
                fresh.find((one) => one.type === 'TIMESTAMP' || one.type === 'DATE');
              setRequest({
                ...request,
                datasetId: chosen?.id ?? 0,
                name: request.name === '' ? (chosen?.name ?? '') : request.name,
                personColumn: '',
                timeColumn: time?.name ?? '',
                columns: [],
              });
            }}
          >
            <option value={0}>Choose one</option>
            {datasets.data
              ?.filter((one) => one.liveVersion !== undefined)
              .map((one) => (
                <option key={one.id} value={one.id}>
                  {one.name}
                </option>
              ))}
          </Select>
        </Labelled>
        <Labelled label="Name">
          <Input
            className="w-full"
            value={request.name}
            onChange={(event) => setRequest({ ...request, name: event.target.value })}
          />
        </Labelled>
        <Labelled label="Time column">
          <Select
            className="w-full"
            value={request.timeColumn}
            onChange={(event) => setRequest({ ...request, timeColumn: event.target.value })}
          >
            <option value="">Choose a column</option>
            {times.map((one) => (
              <option key={one.name}>{one.name}</option>
            ))}
          </Select>
        </Labelled>
        <Labelled label="Person column">
          <Select
            className="w-full"
            value={request.personColumn}
            onChange={(event) => setRequest({ ...request, personColumn: event.target.value })}
          >
            <option value="">Choose a column</option>
            {columns.map((one) => (
              <option key={one.name}>{one.name}</option>
            ))}
          </Select>
        </Labelled>
        <Labelled label="Refers to the key of">
          <Select
            className="w-full"
            value={request.personDatasetId}
            onChange={(event) => setRequest({ ...request, personDatasetId: Number(event.target.value) })}
          >
            <option value={0}>Choose a dataset</option>
            {describing.map((one) => (
              <option key={one.datasetId} value={one.datasetId}>
                {one.dataset}
              </option>
            ))}
          </Select>
        </Labelled>
        <Labelled label="Re-read window (days)">
          <Input
            type="number"
            className="w-full"
            value={request.overlapDays}
            onChange={(event) => setRequest({ ...request, overlapDays: Number(event.target.value) })}
          />
        </Labelled>
      </div>
      {columns.length > 0 && (
        <fieldset className="m-0 mt-3 flex flex-wrap gap-x-4 gap-y-1 border-0 p-0">
          <legend className="text-soft mb-1">Columns to keep for conditions</legend>
          {columns
            .filter((one) => one.name !== request.timeColumn && one.name !== request.personColumn)
            .map((one) => (
              <label key={one.name} className="flex items-center gap-1.5">
                <input
                  type="checkbox"
                  checked={request.columns.includes(one.name)}
                  onChange={() =>
                    setRequest({
                      ...request,
                      columns: request.columns.includes(one.name)
                        ? request.columns.filter((name) => name !== one.name)
                        : [...request.columns, one.name],
                    })
                  }
                />
                <span className="font-mono">{one.name}</span>
              </label>
            ))}
        </fieldset>
      )}
      <div className="mt-3 flex gap-2">
        <Act
          disabled={
            add.isPending ||
            request.datasetId === 0 ||
            request.personDatasetId === 0 ||
            request.personColumn === '' ||
            request.timeColumn === ''
          }
          onClick={() => add.mutate()}
        >
          {add.isPending ? 'Reading…' : 'Add and read events'}
        </Act>
        <Button kind="quiet" onClick={onDone}>
          Cancel
        </Button>
      </div>
    </Card>
  );
}
