import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { api, ok } from '../../api/client';
import type { DestinationView, ProfileView } from '../../api/types';
import { ArchiveButton } from '../../components/ArchiveButton';
import { Loaded } from '../../components/Loaded';
import { Ago } from '../../components/Moment';
import { Card, Failure, Page } from '../../components/ui';
import { Files } from '../files/Files';
import { AccountChoice } from './AccountChoice';
import { Changes } from './Changes';
import { Connection, type Settings } from './Connection';
import { DelegatedSignIn } from './DelegatedSignIn';
import { Objects } from './Objects';
import { Origins } from './Origins';
import { Prerequisites } from './Prerequisites';
import { Act, Editable } from '../session/Editors';

export function DestinationPage() {
  const { id = 'new' } = useParams();
  const profiles = useQuery({ queryKey: ['profiles'], queryFn: () => ok(api.GET('/api/profiles')) });
  const destination = useQuery({
    queryKey: ['destination', id],
    queryFn: () => ok(api.GET('/api/destinations/{id}', { params: { path: { id: Number(id) } } })),
    enabled: id !== 'new',
  });
  return (
    <Loaded title="Destination" query={profiles}>
      {(all) =>
        id === 'new' ? (
          <DestinationForm key="new" profiles={all} />
        ) : (
          <Loaded title="Destination" query={destination}>
            {(found) => <DestinationForm key={id} profiles={all} destination={found} />}
          </Loaded>
        )
      }
    </Loaded>
  );
}

function DestinationForm({
  destination,
  profiles,
}: {
  destination?: DestinationView;
  profiles: ProfileView[];
}) {
  const client = useQueryClient();
  const navigate = useNavigate();
  const [chosen, setChosen] = useState(destination?.profile ?? '');
  const usable = profiles.filter((one) => one.liveVersion !== undefined);
  const profile = profiles.find((one) => one.profile === chosen) ?? usable[0];
  const [name, setName] = useState(destination?.name ?? '');
  const [signIn, setSignIn] = useState(destination?.signIn ?? '');
  const [settings, setSettings] = useState<Settings>(destination?.settings ?? {});
  const save = useMutation({
    mutationFn: () => {
      const body = {
        name,
        profile: profile?.profile ?? '',
        settings,
        signIn,
        limitsOff: destination?.limitsOff ?? false,
      };
      return destination
        ? ok(api.PUT('/api/destinations/{id}', { params: { path: { id: destination.id } }, body }))
        : ok(api.POST('/api/destinations', { body }));
    },
    onSuccess: (saved) => {
      client.setQueryData(['destination', String(saved.id)], saved);
      for (const key of [
        'destinations',
        'line',
        'accounts',
        'prerequisites',
        'delegated',
        'fields',
        'origins',
      ])
        void client.invalidateQueries({ queryKey: [key] });
      void client.invalidateQueries({ queryKey: ['objects', saved.id] });
      void navigate(`/destinations/${saved.id}`, { replace: true });
    },
  });
  const version = destination?.profileVersion ?? profile?.liveVersion;
  return (
    <Page
      title={destination?.name ?? 'New destination'}
      note={
        <>
          {profile && (
            <>
              Profile{' '}
              <Link to={`/profiles/${profile.profile}`} className="text-deep underline">
                {profile.title}
              </Link>
              , version {version}.{' '}
            </>
          )}
          {destination?.testedAt && (
            <>
              {destination.result && `${destination.result}. `}Tested <Ago at={destination.testedAt} />.
            </>
          )}
        </>
      }
      actions={
        <>
          {destination && (
            <ArchiveButton
              kind="destination"
              name={destination.name}
              consequence="Nothing more is sent to it. Records already in it stay."
              to="/destinations"
              archive={() =>
                ok(api.DELETE('/api/destinations/{id}', { params: { path: { id: destination.id } } }))
              }
            />
          )}
          <Act kind="primary" disabled={save.isPending || !profile} onClick={() => save.mutate()}>
            {save.isPending ? 'Testing' : 'Save and test'}
          </Act>
        </>
      }
    >
      <Failure error={save.error} />
      {destination?.problem && <Failure error={new Error(destination.problem)} />}
      <div className="grid grid-cols-1 lg:grid-cols-[320px_minmax(0,1fr)] items-start gap-4">
        <div className="flex min-w-0 flex-col gap-3">
          {profile && (
            <Editable>
              <Connection
                destination={destination}
                profile={profile}
                profiles={usable}
                name={name}
                signIn={signIn}
                settings={settings}
                onProfile={(next) => {
                  setChosen(next);
                  setSignIn('');
                }}
                onName={setName}
                onSignIn={setSignIn}
                onSettings={setSettings}
              />
            </Editable>
          )}
          {destination && (
            <>
              <DelegatedSignIn destination={destination} tool={profile?.title ?? 'the tool'} />
              <AccountChoice
                destination={destination}
                onChoose={(setting, account) => setSettings({ ...settings, [setting]: account })}
                chosen={settings}
              />
              <Prerequisites id={destination.id} />
            </>
          )}
        </div>
        {destination ? (
          <div className="flex min-w-0 flex-col gap-3">
            <Origins id={destination.id} />
            <Changes id={destination.id} />
            <Files id={destination.id} />
            <Objects id={destination.id} />
          </div>
        ) : (
          <Card className="px-4 py-6">
            <p className="text-soft m-0">
              After the test, the destination's objects and fields are listed here.
            </p>
          </Card>
        )}
      </div>
    </Page>
  );
}
