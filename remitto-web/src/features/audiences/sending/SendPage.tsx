import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { api, ok } from '../../../api/client';
import type { AudienceView, Column, RowsRequest } from '../../../api/types';
import { count } from '../../../components/format';
import { COUNTRY, zone } from '../../../components/here';
import { Loaded } from '../../../components/Loaded';
import { Card, Failure, Input, Labelled, Page, Select } from '../../../components/ui';
import { lacking, type Receiver, type Travels, usualForFile, sendRequest } from './choice';
import { ReceiverChoice } from './ReceiverChoice';
import { RelatedRows } from './RelatedRows';
import { useFieldsThere } from './useFieldsThere';
import { TravelTable } from './TravelTable';
import { Act } from '../../session/Editors';

/** Sends an audience: to which destination, which columns, and the fields that receive them. */
export function SendPage() {
  const { id = '' } = useParams();
  const path = { id: Number(id) };
  const view = useQuery({
    queryKey: ['audience', id],
    queryFn: () => ok(api.GET('/api/audiences/{id}', { params: { path } })),
  });
  const columns = useQuery({
    queryKey: ['audience-columns', id],
    queryFn: () => ok(api.GET('/api/audiences/{id}/columns', { params: { path } })),
  });
  return (
    <Loaded
      title="Send an audience"
      query={{ data: view.data && columns.data, error: view.error ?? columns.error }}
    >
      {(found) => view.data && <Sending view={view.data} columns={found.columns} />}
    </Loaded>
  );
}

function Sending({ view, columns }: { view: AudienceView; columns: Column[] }) {
  const navigate = useNavigate();
  const { audience } = view;
  const consents = columns.filter((column) => column.role === 'CONSENT').map((column) => column.name);
  const [name, setName] = useState('');
  const [receiver, setReceiver] = useState<Receiver>({ destinationId: 0, object: '' });
  const [chosen, setChosen] = useState<Travels>();
  const [rows, setRows] = useState<RowsRequest[]>([]);
  const [consent, setConsent] = useState('');
  const there = useFieldsThere(receiver, columns);
  const travels = chosen ?? (receiver.file ? usualForFile(columns) : there.proposed);
  const missing = lacking(name, receiver, travels, rows);
  const lay = useMutation({
    mutationFn: () =>
      ok(
        api.POST('/api/audiences/{id}/routes', {
          params: { path: { id: audience.id } },
          body: sendRequest(name, receiver, travels, rows, consent, { country: COUNTRY, zone: zone() }),
        }),
      ),
    onSuccess: (route) => void navigate(`/routes/${route.id}`),
  });
  const latest = view.counts[0];
  return (
    <Page
      title="Send an audience"
      of={audience.name}
      note={
        <>
          {latest ? `${count(latest.members)} by the latest count. ` : 'Not counted yet. '}
          This creates a draft. Nothing is sent until the route is in service.{' '}
          <Link className="text-deep underline" to={`/audiences/${audience.id}`}>
            Back to the audience
          </Link>
        </>
      }
      actions={
        <Act
          kind="primary"
          disabled={lay.isPending || missing.length > 0}
          aria-describedby="still-lacking"
          onClick={() => lay.mutate()}
        >
          Create route
        </Act>
      }
    >
      <Failure error={lay.error} />
      <p id="still-lacking" className="text-soft m-0 mb-3" aria-live="polite">
        {missing.length > 0 ? `Missing: ${missing.join('; ')}.` : 'Ready to create.'}
      </p>
      <Card title="Destination" className="mb-4">
        <div className="grid grid-cols-2 gap-4 px-4 pb-4">
          <ReceiverChoice
            receiver={receiver}
            names={Object.values(travels)}
            onChange={(next) => {
              if (next.destinationId !== receiver.destinationId || next.object !== receiver.object)
                setChosen(undefined);
              setReceiver(next);
            }}
          />
          <Labelled label="Name of the route">
            <Input className="w-full" value={name} onChange={(e) => setName(e.target.value)} />
          </Labelled>
          <Labelled
            label="Legal basis"
            note="People who did not agree are left out, with a reason of their own."
          >
            <Select className="w-full" value={consent} onChange={(e) => setConsent(e.target.value)}>
              <option value="">none yet; state it on the route before it goes in service</option>
              {consents.map((column) => (
                <option key={column} value={column}>
                  consent: {column}
                </option>
              ))}
            </Select>
          </Labelled>
        </div>
      </Card>
      <Failure error={there.error} />
      <TravelTable
        columns={columns}
        travels={travels}
        fields={receiver.file ? undefined : there.fields}
        onChange={setChosen}
      />
      <RelatedRows rows={rows} fields={receiver.file ? undefined : there.fields} onChange={setRows} />
    </Page>
  );
}
