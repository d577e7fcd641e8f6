import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { api, ok } from '../../api/client';
import type { Crosswalk, Draft } from '../../api/types';
import { ArchiveButton } from '../../components/ArchiveButton';
import { counted } from '../../components/format';
import { Loaded } from '../../components/Loaded';
import { Ago } from '../../components/Moment';
import { TextDifferences } from '../../components/TextDifferences';
import { PutInService } from '../../components/PutInService';
import { Card, Failure, Input, Page } from '../../components/ui';
import { VersionList } from '../../components/VersionList';
import { Drafted } from '../drafts/Drafted';
import { EditBar } from '../drafts/EditBar';
import { useDraft } from '../drafts/useDraft';
import { RouteEffects } from '../rehearsal/RouteEffects';
import { EntryGrid } from './EntryGrid';
import { UnmappedWords } from './UnmappedWords';
import { Editable, Editors } from '../session/Editors';
import { at } from '../../components/base';

type Entry = Crosswalk['entries'][number];

const NEW: Crosswalk = {
  id: 0,
  name: '',
  description: '',
  latestVersion: 0,
  author: '',
  savedAt: '',
  entries: [],
};

export function CrosswalkPage() {
  const { id = '0' } = useParams();
  const number = Number(id);
  const found = useQuery({
    queryKey: ['crosswalk', number],
    queryFn: () => ok(api.GET('/api/crosswalks/{id}', { params: { path: { id: number } } })),
    enabled: id !== 'new',
  });
  if (id === 'new')
    return (
      <Drafted place={{ kind: 'CROSSWALK', subject: 'new' }} title="New crosswalk">
        {(draft) => <Editor crosswalk={NEW} draft={draft} />}
      </Drafted>
    );
  return (
    <Loaded title="Crosswalk" query={found}>
      {(crosswalk) => (
        <Drafted place={{ kind: 'CROSSWALK', subject: id }} title={crosswalk.name}>
          {(draft) => <Editor key={`${id}-${crosswalk.latestVersion}`} crosswalk={crosswalk} draft={draft} />}
        </Drafted>
      )}
    </Loaded>
  );
}

function Editor({ crosswalk, draft }: { crosswalk: Crosswalk; draft: Draft | undefined }) {
  const client = useQueryClient();
  const navigate = useNavigate();
  const isNew = crosswalk.id === 0;
  const edit = useDraft({
    place: {
      kind: 'CROSSWALK',
      subject: isNew ? 'new' : String(crosswalk.id),
      title: crosswalk.name || 'New crosswalk',
    },
    saved: { name: crosswalk.name, description: crosswalk.description, entries: crosswalk.entries },
    version: crosswalk.latestVersion,
    draft,
  });
  const { name, description, entries } = edit.value;
  const set = (part: Partial<typeof edit.value>) => edit.change((before) => ({ ...before, ...part }));
  const setEntries = (entries: Entry[]) => set({ entries });
  const path = { params: { path: { id: crosswalk.id } } };
  const use = useQuery({
    queryKey: ['crosswalk-use', crosswalk.id],
    queryFn: () => ok(api.GET('/api/crosswalks/{id}/use', path)),
    enabled: !isNew,
  });
  const updated = (fresh: Crosswalk) => {
    client.setQueryData(['crosswalk', fresh.id], fresh);
    void client.invalidateQueries({ queryKey: ['crosswalks'] });
    if (isNew) void navigate(`/crosswalks/${fresh.id}`, { replace: true });
  };
  const save = useMutation({
    mutationFn: (note: string) =>
      isNew
        ? ok(api.POST('/api/crosswalks', { body: { name, description, entries } }))
        : ok(
            api.POST('/api/crosswalks/{id}/versions', {
              ...path,
              body: { name, description, entries, note, basedOn: edit.basedOn },
            }),
          ),
    onSuccess: (fresh) => {
      edit.saved();
      updated(fresh);
    },
  });
  const inService = useMutation({
    mutationFn: () =>
      ok(
        api.POST('/api/crosswalks/{id}/in-service', { ...path, body: { version: crosswalk.latestVersion } }),
      ),
    onSuccess: updated,
  });
  const read = useMutation({
    mutationFn: async (file: File) =>
      ok(api.POST('/api/crosswalks/read-csv', { body: { text: await file.text() } })),
    onSuccess: setEntries,
  });
  const dirty = isNew || edit.changed;
  const routes = [...new Set((use.data ?? []).map((one) => one.route))];
  return (
    <Page
      title={isNew ? 'New crosswalk' : crosswalk.name}
      of="crosswalk"
      note={
        isNew ? (
          "Maps our values to the destination's. Field rules can use it."
        ) : (
          <>
            Version {crosswalk.latestVersion}, saved by {crosswalk.author} <Ago at={crosswalk.savedAt} />.{' '}
            {crosswalk.liveVersion
              ? crosswalk.liveVersion === crosswalk.latestVersion
                ? 'It is in service.'
                : `Version ${crosswalk.liveVersion} is in service.`
              : 'No version is in service.'}{' '}
            {counted(crosswalk.entries.length, 'word')}.
          </>
        )
      }
      actions={
        <>
          {!isNew && (
            <ArchiveButton
              kind="crosswalk"
              name={crosswalk.name}
              consequence="Rules can no longer use it."
              to="/datasets"
              archive={() =>
                ok(api.DELETE('/api/crosswalks/{id}', { params: { path: { id: crosswalk.id } } }))
              }
            />
          )}
          {!isNew && (
            <a
              className="rounded-button border-hairline bg-card text-ink border px-3 py-1.5 font-semibold no-underline"
              href={at(`/api/crosswalks/${crosswalk.id}/crosswalk.csv`)}
            >
              CSV
            </a>
          )}
          <Editors>
            <label className="rounded-button border-hairline bg-card text-ink focus-within:outline-deep cursor-pointer border px-3 py-1.5 font-semibold focus-within:outline-2">
              Import CSV
              <input
                type="file"
                accept=".csv,text/csv"
                className="sr-only"
                onChange={(e) => {
                  const file = e.target.files?.[0];
                  if (file) read.mutate(file);
                  e.target.value = '';
                }}
              />
            </label>
          </Editors>
          {!dirty && crosswalk.liveVersion !== crosswalk.latestVersion && (
            <PutInService version={crosswalk.latestVersion} live={crosswalk.liveVersion} act={inService}>
              <GoesLive crosswalk={crosswalk} routes={routes} />
            </PutInService>
          )}
        </>
      }
    >
      <Failure error={save.error ?? read.error} />
      <div className="grid grid-cols-1 lg:grid-cols-[minmax(0,1fr)_360px] items-start gap-4">
        <div className="flex flex-col gap-3">
          <Editable>
            <div className="flex flex-col gap-3">
              <Card className="flex gap-3 px-4 py-3">
                <Input
                  aria-label="Name"
                  placeholder="Name"
                  className="w-[220px] font-semibold"
                  value={name}
                  onChange={(e) => set({ name: e.target.value })}
                />
                <Input
                  aria-label="Description"
                  placeholder="What it is for"
                  className="flex-1"
                  value={description}
                  onChange={(e) => set({ description: e.target.value })}
                />
              </Card>
              <EntryGrid entries={entries} saved={crosswalk.entries} onChange={setEntries} />
            </div>
          </Editable>
          {!isNew && (
            <RouteEffects
              changed={JSON.stringify(entries) !== JSON.stringify(crosswalk.entries)}
              judge={() => ok(api.POST('/api/crosswalks/{id}/what-if', { ...path, body: { entries } }))}
            />
          )}
        </div>
        <div className="flex flex-col gap-3">
          <Card title="Used by">
            <ul className="m-0 list-none px-4 pb-3">
              {(use.data ?? []).map((one) => (
                <li key={`${one.routeId}${one.field}`} className="py-0.5">
                  <Link to={`/routes/${one.routeId}`} className="text-deep underline">
                    {one.route}
                  </Link>
                  , <span className="font-mono">{one.field}</span>
                </li>
              ))}
              {(use.data ?? []).length === 0 && <li className="text-soft">No rule uses it.</li>}
            </ul>
          </Card>
          {(use.data ?? [])
            .filter((one) => one.column !== '')
            .map((one) => (
              <UnmappedWords
                key={`${one.routeId}${one.field}`}
                crosswalkId={crosswalk.id}
                version={crosswalk.latestVersion}
                use={one}
                known={entries.map((entry) => entry.from.trim())}
                onAdd={(word) => setEntries([...entries, { from: word, to: '' }])}
              />
            ))}
          {!isNew && <Versions crosswalk={crosswalk} onTakeUp={setEntries} />}
        </div>
      </div>
      <EditBar
        edit={edit}
        version={crosswalk.latestVersion}
        author={crosswalk.author}
        pending={save.isPending}
        blocked={name.trim() === '' ? 'Enter a name.' : ''}
        onSave={(note) => save.mutate(note)}
      />
    </Page>
  );
}

/** What of a crosswalk goes live, and for which routes. */
function GoesLive({ crosswalk, routes }: { crosswalk: Crosswalk; routes: string[] }) {
  const live = crosswalk.liveVersion ?? 0;
  const before = useQuery({
    queryKey: ['crosswalk-version', crosswalk.id, live],
    queryFn: () =>
      ok(
        api.GET('/api/crosswalks/{id}/versions/{number}', {
          params: { path: { id: crosswalk.id, number: live } },
        }),
      ),
    enabled: live > 0,
  });
  return (
    <>
      <Failure error={before.error} />
      {(live === 0 || before.data) && (
        <TextDifferences
          label="What goes live"
          before={lines(before.data ?? [])}
          after={lines(crosswalk.entries)}
        />
      )}
      <p className="m-0">
        {routes.length === 0
          ? 'No route uses it.'
          : `Used by ${routes.join(', ')}. Their records are evaluated again in the next run.`}
      </p>
    </>
  );
}

function Versions({ crosswalk, onTakeUp }: { crosswalk: Crosswalk; onTakeUp: (entries: Entry[]) => void }) {
  const [compared, setCompared] = useState(0);
  const versions = useQuery({
    queryKey: ['crosswalk-versions', crosswalk.id, crosswalk.latestVersion],
    queryFn: () => ok(api.GET('/api/crosswalks/{id}/versions', { params: { path: { id: crosswalk.id } } })),
  });
  const version = (number: number) =>
    ok(api.GET('/api/crosswalks/{id}/versions/{number}', { params: { path: { id: crosswalk.id, number } } }));
  const other = useQuery({
    queryKey: ['crosswalk-version', crosswalk.id, compared],
    queryFn: () => version(compared),
    enabled: compared > 0,
  });
  const take = useMutation({ mutationFn: version, onSuccess: onTakeUp });
  return (
    <Card title="Versions">
      <div className="px-4 pb-3">
        <Failure error={versions.error ?? take.error ?? other.error} />
        <VersionList
          versions={(versions.data ?? []).map((one) => ({
            ...one,
            note: `${counted(one.entries, 'word')}${one.note ? `; ${one.note}` : ''}`,
          }))}
          latest={crosswalk.latestVersion}
          live={crosswalk.liveVersion}
          compared={compared}
          onCompare={setCompared}
          onTakeUp={(number) => take.mutate(number)}
        />
        {compared > 0 && other.data && (
          <>
            <p className="text-soft my-1">
              From version {compared} to version {crosswalk.latestVersion}:
            </p>
            <TextDifferences
              label={`Differences from version ${compared}`}
              before={lines(other.data)}
              after={lines(crosswalk.entries)}
            />
          </>
        )}
      </div>
    </Card>
  );
}

function lines(entries: Entry[]): string {
  return entries.map((entry) => `${entry.from} → ${entry.to}`).join('\n');
}
