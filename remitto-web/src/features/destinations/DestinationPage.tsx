import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { Changes } from './Changes';
import { TakeStock } from '../stocktakes/TakeStock';
import { api, ok } from '../../api/client';
import type { DestinationView, Field } from '../../api/types';
import { counted } from '../../components/format';
import { Loaded } from '../../components/Loaded';
import { Ago } from '../../components/Moment';
import { Button, Card, Failure, Input, Labelled, Page, Pill, Select, TD, TH } from '../../components/ui';

export function DestinationPage() {
  const { id = 'new' } = useParams();
  const destination = useQuery({
    queryKey: ['destination', id],
    queryFn: () => ok(api.GET('/api/destinations/{id}', { params: { path: { id: Number(id) } } })),
    enabled: id !== 'new',
  });
  if (id === 'new') return <DestinationForm key="new" />;
  return (
    <Loaded title="Destination" query={destination}>
      {(found) => <DestinationForm key={id} destination={found} />}
    </Loaded>
  );
}

function DestinationForm({ destination }: { destination?: DestinationView }) {
  const client = useQueryClient();
  const navigate = useNavigate();
  const profiles = useQuery({ queryKey: ['profiles'], queryFn: () => ok(api.GET('/api/profiles')) });
  const [chosen, setChosen] = useState(destination?.profile ?? '');
  const profile = profiles.data?.find((one) => one.profile === chosen) ?? profiles.data?.[0];
  const [name, setName] = useState(destination?.name ?? '');
  const [settings, setSettings] = useState<Record<string, string>>(destination?.settings ?? {});
  const save = useMutation({
    mutationFn: () => {
      const body = {
        name,
        profile: profile?.profile ?? '',
        settings,
        limitsOff: destination?.limitsOff ?? false,
      };
      return destination
        ? ok(api.PUT('/api/destinations/{id}', { params: { path: { id: destination.id } }, body }))
        : ok(api.POST('/api/destinations', { body }));
    },
    onSuccess: (saved) => {
      client.setQueryData(['destination', String(saved.id)], saved);
      void client.invalidateQueries({ queryKey: ['destinations'] });
      void client.invalidateQueries({ queryKey: ['objects', saved.id] });
      void client.invalidateQueries({ queryKey: ['line'] });
      void navigate(`/destinations/${saved.id}`, { replace: true });
    },
  });
  return (
    <Page
      title={destination?.name ?? 'New destination'}
      of={
        profile && `by profile ${profile.profile}, version ${destination?.profileVersion ?? profile.version}`
      }
      note={
        destination?.testedAt && (
          <>
            {destination.result && `${destination.result}. `}Tested <Ago at={destination.testedAt} />.
          </>
        )
      }
      actions={
        <Button kind="primary" disabled={save.isPending || !profile} onClick={() => save.mutate()}>
          {save.isPending ? 'Testing' : 'Save and test'}
        </Button>
      }
    >
      <Failure error={save.error} />
      {destination?.problem && <Failure error={new Error(destination.problem)} />}
      <div className="grid grid-cols-[300px_minmax(0,1fr)] items-start gap-4">
        <Card title="Connection" className="pb-4">
          <div className="flex flex-col gap-3 px-4 pt-2">
            <Labelled label="Profile" note={profile && `It allows ${profile.limits}.`}>
              <Select
                className="w-full"
                value={profile?.profile}
                disabled={destination !== undefined}
                onChange={(e) => setChosen(e.target.value)}
              >
                {(profiles.data ?? []).map((one) => (
                  <option key={one.profile} value={one.profile}>
                    {one.title}, version {one.version}
                  </option>
                ))}
              </Select>
            </Labelled>
            <Labelled label="Name">
              <Input className="w-full" value={name} onChange={(e) => setName(e.target.value)} />
            </Labelled>
            {(profile?.connection ?? []).map((setting) => (
              <Labelled key={setting.name} label={setting.label}>
                <Input
                  className="w-full"
                  type={setting.secret ? 'password' : 'text'}
                  autoComplete={setting.secret ? 'new-password' : 'off'}
                  placeholder={setting.secret && destination ? 'unchanged' : (setting.example ?? '')}
                  value={settings[setting.name] ?? ''}
                  onChange={(e) => setSettings({ ...settings, [setting.name]: e.target.value })}
                />
              </Labelled>
            ))}
          </div>
        </Card>
        {destination ? (
          <div className="flex min-w-0 flex-col gap-3">
            <Changes id={destination.id} />
            <Objects id={destination.id} />
          </div>
        ) : (
          <Card className="px-4 py-6">
            <p className="text-soft m-0">
              After the test you see here which objects the tool has, and its fields as it describes them.
            </p>
          </Card>
        )}
      </div>
    </Page>
  );
}

function Objects({ id }: { id: number }) {
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
      ok(
        api.GET('/api/destinations/{id}/objects/{object}', {
          params: { path: { id, object }, query: { refresh: true } },
        }),
      ),
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
          <Button disabled={refresh.isPending || !object} onClick={() => refresh.mutate()}>
            Ask again
          </Button>
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
              <th className={TH}>Takes</th>
              <th className={TH}>Rules it keeps</th>
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
