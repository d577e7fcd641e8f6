import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { api, ok } from '../../api/client';
import type { Crosswalk } from '../../api/types';
import { ArchiveButton } from '../../components/ArchiveButton';
import { counted } from '../../components/format';
import { Loaded } from '../../components/Loaded';
import { Ago } from '../../components/Moment';
import { TextDifferences } from '../../components/TextDifferences';
import { Card, Failure, Input, Page } from '../../components/ui';
import { VersionList } from '../../components/VersionList';
import { RouteEffects } from '../rehearsal/RouteEffects';
import { EntryGrid } from './EntryGrid';
import { UnmappedWords } from './UnmappedWords';
import { Act, Editable, Editors } from '../session/Editors';

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
  if (id === 'new') return <Editor crosswalk={NEW} />;
  return (
    <Loaded title="Crosswalk" query={found}>
      {(crosswalk) => <Editor key={`${id}-${crosswalk.latestVersion}`} crosswalk={crosswalk} />}
    </Loaded>
  );
}

function Editor({ crosswalk }: { crosswalk: Crosswalk }) {
  const client = useQueryClient();
  const navigate = useNavigate();
  const [name, setName] = useState(crosswalk.name);
  const [description, setDescription] = useState(crosswalk.description);
  const [entries, setEntries] = useState<Entry[]>(crosswalk.entries);
  const [note, setNote] = useState('');
  const isNew = crosswalk.id === 0;
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
    mutationFn: () =>
      isNew
        ? ok(api.POST('/api/crosswalks', { body: { name, description, entries } }))
        : ok(
            api.POST('/api/crosswalks/{id}/versions', {
              ...path,
              body: { name, description, entries, note, basedOn: crosswalk.latestVersion },
            }),
          ),
    onSuccess: updated,
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
  const dirty =
    isNew ||
    name !== crosswalk.name ||
    description !== crosswalk.description ||
    JSON.stringify(entries) !== JSON.stringify(crosswalk.entries);
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
              href={`/api/crosswalks/${crosswalk.id}/crosswalk.csv`}
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
          {dirty ? (
            <>
              {!isNew && (
                <Input
                  aria-label="Note on this version"
                  placeholder="what changed, and why"
                  value={note}
                  onChange={(e) => setNote(e.target.value)}
                />
              )}
              <Act
                kind="primary"
                disabled={save.isPending || name.trim() === ''}
                onClick={() => save.mutate()}
              >
                Save version {crosswalk.latestVersion + 1}
              </Act>
            </>
          ) : (
            crosswalk.liveVersion !== crosswalk.latestVersion && (
              <Act kind="primary" disabled={inService.isPending} onClick={() => inService.mutate()}>
                Put version {crosswalk.latestVersion} in service
              </Act>
            )
          )}
        </>
      }
    >
      <Failure error={save.error ?? inService.error ?? read.error} />
      {!dirty && crosswalk.liveVersion !== crosswalk.latestVersion && routes.length > 0 && (
        <p className="rounded-card border-hairline bg-card mt-0 mb-3 border px-4 py-2">
          Putting version {crosswalk.latestVersion} in service touches {routes.join(', ')}: their records are
          evaluated again in the next run.
        </p>
      )}
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
                  onChange={(e) => setName(e.target.value)}
                />
                <Input
                  aria-label="Description"
                  placeholder="What it is for"
                  className="flex-1"
                  value={description}
                  onChange={(e) => setDescription(e.target.value)}
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
    </Page>
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
