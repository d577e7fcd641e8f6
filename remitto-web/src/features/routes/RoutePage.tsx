import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useDeferredValue, useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import { api, ok } from '../../api/client';
import type { Draft, Ends, FieldRule, Route } from '../../api/types';
import { ArchiveButton } from '../../components/ArchiveButton';
import { counted } from '../../components/format';
import { useSettled } from '../../components/settled';
import { Loaded } from '../../components/Loaded';
import { Ago } from '../../components/Moment';
import { useFieldMeetings } from '../fieldbook/useFieldMeetings';
import { PutInService } from '../../components/PutInService';
import { Failure, Page } from '../../components/ui';
import { AskApprover, AskedForApproval } from '../approvals/AskApprover';
import { Drafted, useKeptDraft } from '../drafts/Drafted';
import { EditBar } from '../drafts/EditBar';
import { useDraft } from '../drafts/useDraft';
import { CopyRoute } from './CopyRoute';
import { GoesLive } from './GoesLive';
import { FollowedRecord } from './FollowedRecord';
import { DifferencesCard } from './rehearsal/DifferencesCard';
import { Examples } from './rehearsal/Examples';
import { WhatIf } from './rehearsal/WhatIf';
import { RouteActs } from './RouteActs';
import { Rules } from './Rules';
import { Sentences } from './Sentences';
import { TryOne } from './TryOne';
import { Versions } from './Versions';
import { Act, Editable, Editors } from '../session/Editors';
import { useIsEditor } from '../session/useSession';

export function RoutePage() {
  const { id = '0' } = useParams();
  const route = useQuery({
    queryKey: ['route', Number(id)],
    queryFn: () => ok(api.GET('/api/routes/{id}', { params: { path: { id: Number(id) } } })),
  });
  useKeptDraft({ kind: 'ROUTE', subject: id });
  return (
    <Loaded title="Route" query={route}>
      {(found) => (
        <Drafted place={{ kind: 'ROUTE', subject: id }} title={found.name}>
          {(draft) => <RouteEditor key={`${id}-${found.latestVersion}`} route={found} draft={draft} />}
        </Drafted>
      )}
    </Loaded>
  );
}

function RouteEditor({ route, draft }: { route: Route; draft: Draft | undefined }) {
  const client = useQueryClient();
  const navigate = useNavigate();
  const edit = useDraft({
    place: { kind: 'ROUTE', subject: String(route.id), title: route.name },
    saved: route.spec,
    version: route.latestVersion,
    draft,
  });
  const { value: spec, change: setSpec, changed: dirty } = edit;
  const [selected, setSelected] = useState(spec.rules[0]?.field ?? '');
  const [left, setLeft] = useState<string[]>([]);
  const [trying, setTrying] = useState(false);
  const [followedKey, setFollowedKey] = useState('');
  const editor = useIsEditor();
  const tried = useDeferredValue(spec);
  const ends: Ends = { datasetId: route.datasetId, destinationId: route.destinationId, object: route.object };
  const dataset = useQuery({
    queryKey: ['dataset', String(route.datasetId)],
    queryFn: () => ok(api.GET('/api/datasets/{id}', { params: { path: { id: route.datasetId } } })),
  });
  const object = useQuery({
    queryKey: ['fields', route.destinationId, route.object],
    queryFn: () =>
      ok(
        api.GET('/api/destinations/{id}/objects/{object}', {
          params: { path: { id: route.destinationId, object: route.object } },
        }),
      ),
  });
  const check = useQuery({
    queryKey: ['route-check', ends, tried],
    queryFn: () => ok(api.POST('/api/routes/check', { body: { routeId: route.id, ends, spec: tried } })),
    placeholderData: (before) => before,
    enabled: editor,
  });
  // Whoever may only look is told what the saved rules say; to check others reads the warehouse.
  const words = useQuery({
    queryKey: ['route-words', route.id, route.latestVersion],
    queryFn: () => ok(api.GET('/api/routes/{id}/words', { params: { path: { id: route.id } } })),
    enabled: !editor,
  });
  const runs = useQuery({
    queryKey: ['runs', route.id],
    queryFn: () => ok(api.GET('/api/runs', { params: { query: { routeId: route.id } } })),
  });
  const last = runs.data?.runs.find((run) => run.trigger !== 'TRIAL' && run.preparedAt !== undefined);
  const updated = (fresh: Route) => {
    client.setQueryData(['route', route.id], fresh);
    void client.invalidateQueries({ queryKey: ['routes'] });
  };
  const save = useMutation({
    mutationFn: (note: string) =>
      ok(
        api.POST('/api/routes/{id}/versions', {
          params: { path: { id: route.id } },
          body: { name: route.name, basedOn: edit.basedOn, note, spec },
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
        api.POST('/api/routes/{id}/in-service', {
          params: { path: { id: route.id } },
          body: { version: route.latestVersion },
        }),
      ),
    onSuccess: updated,
  });
  const draw = useMutation({
    mutationFn: () => ok(api.POST('/api/routes/{id}/runs', { params: { path: { id: route.id } } })),
    onSuccess: (started) => void navigate(`/manifests/${started.runId}`),
  });
  const rested = useSettled(spec, 400);
  const differences = useQuery({
    queryKey: ['unsaved-differences', route.id, route.latestVersion, rested],
    queryFn: () =>
      ok(api.POST('/api/routes/{id}/differences', { params: { path: { id: route.id } }, body: rested })),
    enabled: dirty,
    placeholderData: (before) => before,
  });
  const meetings = useFieldMeetings(route.id, ends, rested, editor);
  const undecided = meetings
    .filter((meeting) => !meeting.settled && !meeting.already && !left.includes(meeting.field))
    .map((meeting) => meeting.field);
  const faults = check.data?.faults ?? [];
  const blocking = faults.filter((fault) => fault.blocking).length;
  const changeRule = (rule: FieldRule) =>
    setSpec((before) => ({
      ...before,
      rules: before.rules.map((one) => (one.field === rule.field ? rule : one)),
    }));
  return (
    <Page
      title={route.name}
      of={`to ${route.destination}, ${route.object}`}
      note={
        <>
          Version {route.latestVersion}, saved by {route.author} <Ago at={route.savedAt} />.{' '}
          {route.liveVersion
            ? route.liveVersion === route.latestVersion
              ? 'It is in service.'
              : `Version ${route.liveVersion} is in service.`
            : 'No version is in service.'}{' '}
          {counted(spec.rules.length, 'rule')}
          {blocking > 0 && <span className="text-removed">, {counted(blocking, 'error')}</span>}.
        </>
      }
      actions={
        <>
          <RouteActs route={route} />
          <CopyRoute route={route} />
          <ArchiveButton
            kind="route"
            name={route.name}
            consequence="It is permanently taken out of service. Records it sent stay in the destination."
            to="/routes"
            archive={() => ok(api.DELETE('/api/routes/{id}', { params: { path: { id: route.id } } }))}
          />
          <Versions route={route} onRestore={setSpec} />
          <Act disabled={!route.liveVersion} onClick={() => setTrying(true)}>
            Try one record
          </Act>
          {!dirty && route.liveVersion !== route.latestVersion && (
            <PutInService
              version={route.latestVersion}
              live={route.liveVersion}
              act={inService}
              approver={
                <AskApprover kind="ROUTE_VERSION" subjectId={route.id} version={route.latestVersion} />
              }
              blocked={undecided.length > 0 ? `Choose whose value wins in ${undecided.join(', ')}.` : ''}
            >
              <GoesLive route={route} ends={ends} meetings={meetings} left={left} onLeft={setLeft} />
            </PutInService>
          )}
          {route.liveVersion !== undefined && (
            <Act
              kind={dirty || route.liveVersion !== route.latestVersion ? 'plain' : 'primary'}
              disabled={draw.isPending}
              onClick={() => draw.mutate()}
            >
              {dirty || route.liveVersion !== route.latestVersion
                ? `Prepare version ${route.liveVersion}`
                : 'Prepare manifest'}
            </Act>
          )}
        </>
      }
    >
      <Failure error={save.error ?? draw.error ?? check.error} />
      <AskedForApproval kind="ROUTE_VERSION" subjectId={route.id} version={route.latestVersion} />
      <div
        className={`grid grid-cols-1 items-start gap-4 ${editor ? 'lg:grid-cols-[minmax(0,1fr)_340px]' : ''}`}
      >
        <div className="flex min-w-0 flex-col gap-3">
          <Editable>
            <Sentences
              route={route}
              spec={spec}
              columns={dataset.data?.definition.columns ?? []}
              fields={object.data?.object.fields ?? []}
              people={object.data?.object.people ?? false}
              faults={faults.filter((fault) => fault.field === '')}
              onChange={setSpec}
            />
          </Editable>
          <Rules
            rules={spec.rules}
            match={spec.match}
            fields={object.data?.object.fields ?? []}
            columns={dataset.data?.definition.columns ?? []}
            faults={faults}
            meetings={meetings}
            words={check.data?.rules ?? words.data ?? {}}
            last={last}
            selected={selected}
            onSelect={setSelected}
            onChange={changeRule}
            onAdd={(rule) => {
              setSpec((before) => ({ ...before, rules: [...before.rules, rule] }));
              setSelected(rule.field);
            }}
            onRemove={(field) =>
              setSpec((before) => ({
                ...before,
                rules: before.rules.filter((one) => one.field !== field),
                match: before.match.filter((one) => one !== field),
              }))
            }
            routeId={route.id}
            ends={ends}
            onPropose={(rules) => setSpec((before) => ({ ...before, rules: [...before.rules, ...rules] }))}
          />
          <Editors>
            <Examples routeId={route.id} spec={rested} />
          </Editors>
          {dirty && differences.data && (
            <DifferencesCard
              title={`Not saved yet, against version ${route.latestVersion}`}
              differences={differences.data}
            />
          )}
          {(dirty || route.liveVersion !== route.latestVersion) && (
            <Editors>
              <WhatIf routeId={route.id} spec={spec} blocked={blocking > 0} />
            </Editors>
          )}
        </div>
        <Editors>
          <FollowedRecord
            routeId={route.id}
            ends={ends}
            spec={tried}
            field={selected}
            onKey={setFollowedKey}
          />
        </Editors>
      </div>
      <EditBar
        edit={edit}
        version={route.latestVersion}
        author={route.author}
        pending={save.isPending}
        onSave={(note) => save.mutate(note)}
      />
      {trying && (
        <TryOne
          route={route}
          recordKey={followedKey}
          columns={dataset.data?.definition.columns ?? []}
          dirty={dirty}
          onClose={() => setTrying(false)}
        />
      )}
    </Page>
  );
}
