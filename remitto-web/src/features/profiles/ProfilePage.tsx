import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import { api, ok } from '../../api/client';
import type { SavedProfile } from '../../api/types';
import { counted } from '../../components/format';
import { Loaded } from '../../components/Loaded';
import { Ago } from '../../components/Moment';
import { TextDifferences } from '../../components/TextDifferences';
import { Card, Failure, Input, Page } from '../../components/ui';
import { VersionList } from '../../components/VersionList';
import { RouteEffects } from '../rehearsal/RouteEffects';
import { Bench } from './Bench';
import { Touched } from './Touched';
import { useSettled } from '../../components/settled';
import { YamlField } from './YamlField';
import { Act } from '../session/Editors';
import { useIsEditor } from '../session/useSession';

export function ProfilePage() {
  const { name = 'new' } = useParams();
  const saved = useQuery({
    queryKey: ['profile', name],
    queryFn: () => ok(api.GET('/api/profiles/{profile}', { params: { path: { profile: name } } })),
    enabled: name !== 'new',
  });
  const example = useQuery({
    queryKey: ['profile-example'],
    queryFn: () => ok(api.GET('/api/profiles/example')),
    enabled: name === 'new',
  });
  if (name === 'new')
    return (
      <Loaded title="New profile" query={example}>
        {(found) => <Editor begin={found.text} />}
      </Loaded>
    );
  return (
    <Loaded title="Profile" query={saved}>
      {(found) => <Editor key={`${name}-${found.latestVersion}`} begin={found.text} profile={found} />}
    </Loaded>
  );
}

function Editor({ begin, profile }: { begin: string; profile?: SavedProfile }) {
  const client = useQueryClient();
  const navigate = useNavigate();
  const [text, setText] = useState(begin);
  const [note, setNote] = useState('');
  const [compared, setCompared] = useState(0);
  const settled = useSettled(text, 250);
  const editor = useIsEditor();
  const checked = useQuery({
    queryKey: ['profile-check', settled],
    queryFn: () => ok(api.POST('/api/profiles/check', { body: { text: settled } })),
    placeholderData: (before) => before,
    enabled: editor,
  });
  const path = { path: { profile: profile?.profile ?? '' } };
  const versions = useQuery({
    queryKey: ['profile-versions', profile?.profile, profile?.latestVersion],
    queryFn: () => ok(api.GET('/api/profiles/{profile}/versions', { params: path })),
    enabled: profile !== undefined,
  });
  const other = useQuery({
    queryKey: ['profile-version', profile?.profile, compared],
    queryFn: () =>
      ok(
        api.GET('/api/profiles/{profile}/versions/{number}', {
          params: { path: { ...path.path, number: compared } },
        }),
      ),
    enabled: compared > 0,
  });
  const live = profile?.liveVersion ?? 0;
  const liveText = useQuery({
    queryKey: ['profile-version', profile?.profile, live],
    queryFn: () =>
      ok(
        api.GET('/api/profiles/{profile}/versions/{number}', {
          params: { path: { ...path.path, number: live } },
        }),
      ),
    enabled: live > 0,
  });
  const takeUp = useMutation({
    mutationFn: (number: number) =>
      ok(
        api.GET('/api/profiles/{profile}/versions/{number}', { params: { path: { ...path.path, number } } }),
      ),
    onSuccess: (found) => setText(found.text),
  });
  const updated = (fresh: SavedProfile) => {
    client.setQueryData(['profile', fresh.profile], fresh);
    void client.invalidateQueries({ queryKey: ['profiles'] });
    void client.invalidateQueries({ queryKey: ['destination'] });
    void client.invalidateQueries({ queryKey: ['profile-touched'] });
    void navigate(`/profiles/${fresh.profile}`, { replace: true });
  };
  const save = useMutation({
    mutationFn: () => {
      const body = { basedOn: profile?.latestVersion ?? 0, text, note };
      return profile
        ? ok(api.POST('/api/profiles/{profile}/versions', { params: path, body }))
        : ok(api.POST('/api/profiles', { body }));
    },
    onSuccess: updated,
  });
  const inService = useMutation({
    mutationFn: () =>
      ok(
        api.POST('/api/profiles/{profile}/in-service', {
          params: path,
          body: { version: profile?.latestVersion ?? 0 },
        }),
      ),
    onSuccess: updated,
  });
  const dirty = !profile || text !== profile.text;
  const faults = checked.data?.faults ?? [];
  const waits = profile && !dirty && profile.liveVersion !== profile.latestVersion;
  return (
    <Page
      title={profile?.title ?? 'New profile'}
      of="profile"
      note={
        profile ? (
          <>
            Version {profile.latestVersion}, saved by {profile.author} <Ago at={profile.savedAt} />.{' '}
            {profile.liveVersion
              ? profile.liveVersion === profile.latestVersion
                ? 'It is in service.'
                : `Version ${profile.liveVersion} is in service.`
              : 'No version is in service.'}{' '}
            {checked.data?.limits && `Rate limit ${checked.data.limits}.`}
          </>
        ) : (
          'Describes how to call a tool. This example is for a fictional tool; adapt it.'
        )
      }
      actions={
        waits ? (
          <Act kind="primary" disabled={inService.isPending} onClick={() => inService.mutate()}>
            Put version {profile.latestVersion} in service
          </Act>
        ) : (
          <>
            {dirty && profile && (
              <Input
                aria-label="Note on this version"
                placeholder="what changed, and why"
                value={note}
                onChange={(e) => setNote(e.target.value)}
              />
            )}
            <Act
              kind="primary"
              disabled={!dirty || save.isPending || faults.length > 0 || settled !== text}
              onClick={() => save.mutate()}
            >
              {dirty ? `Save version ${(profile?.latestVersion ?? 0) + 1}` : 'Saved'}
            </Act>
          </>
        )
      }
    >
      <Failure error={save.error ?? inService.error ?? takeUp.error ?? checked.error} />
      {waits && <Touched profile={profile.profile} version={profile.latestVersion} />}
      <div className="grid grid-cols-1 lg:grid-cols-[minmax(0,1fr)_minmax(0,1fr)] items-start gap-4">
        <div className="flex min-w-0 flex-col gap-2">
          <YamlField text={text} onChange={setText} faults={faults} />
          <Faults faults={faults} />
        </div>
        <div className="flex min-w-0 flex-col gap-3">
          <Bench
            profile={profile?.profile ?? checked.data?.profile ?? ''}
            text={text}
            calls={checked.data?.calls ?? []}
            sound={faults.length === 0}
          />
          {profile && (
            <RouteEffects
              changed={faults.length === 0 && settled === text && text !== liveText.data?.text}
              judge={() =>
                ok(api.POST('/api/profiles/{profile}/what-if', { params: path, body: { text: settled } }))
              }
            />
          )}
          {profile && (
            <Card title="Versions">
              <div className="px-4 pb-3">
                <VersionList
                  versions={versions.data ?? []}
                  latest={dirty ? 0 : profile.latestVersion}
                  live={profile.liveVersion}
                  compared={compared}
                  onCompare={setCompared}
                  onTakeUp={(number) => takeUp.mutate(number)}
                />
                {compared > 0 && other.data && (
                  <>
                    <p className="text-soft my-1">From version {compared} to the text on this page:</p>
                    <TextDifferences
                      label={`Differences from version ${compared}`}
                      before={other.data.text}
                      after={settled}
                    />
                  </>
                )}
              </div>
            </Card>
          )}
        </div>
      </div>
    </Page>
  );
}

function Faults({ faults }: { faults: { line: number; place: string; message: string }[] }) {
  return (
    <div role="status" className="min-h-6">
      {faults.length === 0 ? (
        <span className="text-added">No errors.</span>
      ) : (
        <>
          <span className="text-removed font-semibold">{counted(faults.length, 'fault')}</span>
          <ul className="m-0 list-none p-0">
            {faults.map((fault) => (
              <li key={`${fault.line}${fault.place}${fault.message}`}>
                <span className="font-mono">line {fault.line}</span>{' '}
                {fault.place && <span className="text-soft font-mono">{fault.place}</span>} {fault.message}
              </li>
            ))}
          </ul>
        </>
      )}
    </div>
  );
}
