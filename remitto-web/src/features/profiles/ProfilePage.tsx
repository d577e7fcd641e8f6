import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import { api, ok } from '../../api/client';
import type { Draft, SavedProfile } from '../../api/types';
import { counted } from '../../components/format';
import { Loaded } from '../../components/Loaded';
import { Ago } from '../../components/Moment';
import { TextDifferences } from '../../components/TextDifferences';
import { PutInService } from '../../components/PutInService';
import { Card, Failure, Page } from '../../components/ui';
import { VersionList } from '../../components/VersionList';
import { Drafted } from '../drafts/Drafted';
import { EditBar } from '../drafts/EditBar';
import { useDraft } from '../drafts/useDraft';
import { RouteEffects } from '../rehearsal/RouteEffects';
import { Bench } from './Bench';
import { Touched } from './Touched';
import { useSettled } from '../../components/settled';
import { YamlField } from './YamlField';
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
        {(found) => (
          <Drafted place={{ kind: 'PROFILE', subject: 'new' }} title="New profile">
            {(draft) => <Editor begin={found.text} draft={draft} />}
          </Drafted>
        )}
      </Loaded>
    );
  return (
    <Loaded title="Profile" query={saved}>
      {(found) => (
        <Drafted place={{ kind: 'PROFILE', subject: name }} title={found.title}>
          {(draft) => (
            <Editor key={`${name}-${found.latestVersion}`} begin={found.text} profile={found} draft={draft} />
          )}
        </Drafted>
      )}
    </Loaded>
  );
}

interface Editing {
  begin: string;
  profile?: SavedProfile;
  draft: Draft | undefined;
}

function Editor({ begin, profile, draft }: Editing) {
  const client = useQueryClient();
  const navigate = useNavigate();
  const edit = useDraft({
    place: { kind: 'PROFILE', subject: profile?.profile ?? 'new', title: profile?.title ?? 'New profile' },
    saved: { text: begin },
    version: profile?.latestVersion ?? 0,
    draft,
  });
  const { text } = edit.value;
  const setText = (text: string) => edit.change({ text });
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
    mutationFn: (note: string) => {
      const body = { basedOn: edit.basedOn, text, note };
      return profile
        ? ok(api.POST('/api/profiles/{profile}/versions', { params: path, body }))
        : ok(api.POST('/api/profiles', { body }));
    },
    onSuccess: (fresh) => {
      edit.saved();
      updated(fresh);
    },
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
  const dirty = !profile || edit.changed;
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
        waits && (
          <PutInService version={profile.latestVersion} live={profile.liveVersion} act={inService}>
            {liveText.data && (
              <TextDifferences label="What goes live" before={liveText.data.text} after={profile.text} />
            )}
            <Touched profile={profile.profile} version={profile.latestVersion} />
          </PutInService>
        )
      }
    >
      <Failure error={save.error ?? takeUp.error ?? checked.error} />
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
      <EditBar
        edit={edit}
        version={profile?.latestVersion ?? 0}
        author={profile?.author}
        pending={save.isPending || settled !== text}
        blocked={faults.length > 0 ? 'Correct the errors first.' : ''}
        onSave={(note) => save.mutate(note)}
      />
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
          <span className="text-removed font-semibold">{counted(faults.length, 'error')}</span>
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
