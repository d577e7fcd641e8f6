import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import { api, ok } from '../../api/client';
import { ById, ByTitle } from '../../components/Options';
import { Card, Failure, Input, Labelled, Page, Select } from '../../components/ui';
import { ByName } from '../destinations/ByName';
import { COUNTRY, zone } from '../../components/here';
import { Act } from '../session/Editors';

/** What a route joins; everything else is edited on its own page. */
export function NewRoutePage() {
  const navigate = useNavigate();
  const [name, setName] = useState('');
  const [search] = useSearchParams();
  const [datasetId, setDataset] = useState(Number(search.get('dataset') ?? 0));
  const [destinationId, setDestination] = useState(0);
  const [object, setObject] = useState('');
  const datasets = useQuery({ queryKey: ['datasets'], queryFn: () => ok(api.GET('/api/datasets')) });
  const destinations = useQuery({
    queryKey: ['destinations'],
    queryFn: () => ok(api.GET('/api/destinations')),
  });
  const dataset = datasetId || (datasets.data?.[0]?.id ?? 0);
  const destination = destinationId || (destinations.data?.[0]?.id ?? 0);
  const objects = useQuery({
    queryKey: ['objects', destination],
    queryFn: () => ok(api.GET('/api/destinations/{id}/objects', { params: { path: { id: destination } } })),
    enabled: destination > 0,
  });
  const chosen = object || (objects.data?.[0]?.name ?? '');
  const lay = useMutation({
    mutationFn: () =>
      ok(
        api.POST('/api/routes/laid', {
          body: {
            name,
            ends: { datasetId: dataset, destinationId: destination, object: chosen },
            basis: { kind: 'none' },
            country: COUNTRY,
            zone: zone(),
          },
        }),
      ),
    onSuccess: (route) => void navigate(`/routes/${route.id}`),
  });
  return (
    <Page
      title="New route"
      note="A rule is proposed for every column whose name matches a field. You review them next."
      actions={
        <Act kind="primary" disabled={lay.isPending || !name || !chosen} onClick={() => lay.mutate()}>
          Propose rules
        </Act>
      }
    >
      <Failure error={lay.error} />
      <Card className="grid max-w-[760px] grid-cols-2 gap-4 p-4">
        <div className="col-span-2">
          <Labelled label="Name">
            <Input className="w-full" value={name} onChange={(e) => setName(e.target.value)} />
          </Labelled>
        </div>
        <Labelled label="Dataset">
          <Select className="w-full" value={dataset} onChange={(e) => setDataset(Number(e.target.value))}>
            <ById of={datasets.data} />
          </Select>
        </Labelled>
        <div />
        <Labelled label="To">
          <Select
            className="w-full"
            value={destination}
            onChange={(e) => {
              setDestination(Number(e.target.value));
              setObject('');
            }}
          >
            <ById of={destinations.data} />
          </Select>
        </Labelled>
        <Labelled label="Object">
          <Select className="w-full" value={chosen} onChange={(e) => setObject(e.target.value)}>
            <ByTitle of={objects.data} />
          </Select>
        </Labelled>
        <div />
        {destination > 0 && <ByName key={destination} id={destination} onFound={setObject} />}
      </Card>
    </Page>
  );
}
