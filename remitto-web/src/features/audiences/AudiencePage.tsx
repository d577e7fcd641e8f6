import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate, useParams, useSearchParams } from 'react-router';
import { api, ok } from '../../api/client';
import type { AudienceSpec, AudienceView, ConditionWords, Draft, EntityType } from '../../api/types';
import { counted } from '../../components/format';
import { Loaded } from '../../components/Loaded';
import { Ago } from '../../components/Moment';
import { PutInService } from '../../components/PutInService';
import { Card, Failure, Input, Labelled, Page } from '../../components/ui';
import { VersionList } from '../../components/VersionList';
import { AudienceRoutes } from './AudienceRoutes';
import { ConditionEditor } from './ConditionEditor';
import { asGroup } from './conditions';
import { Effect } from './Effect';
import { Growth } from './Growth';
import { LiveTotal } from './LiveTotal';
import { SpecTokens } from './SpecTokens';
import { SqlText } from './SqlText';
import { zone } from '../../components/here';
import { Typical } from './Typical';
import { useLiveCount } from './useLiveCount';
import { WhoElse } from './WhoElse';
import { useWhy, Why } from './Why';
import { Drafted } from '../drafts/Drafted';
import { EditBar } from '../drafts/EditBar';
import { useDraft } from '../drafts/useDraft';
import { useMay } from '../session/useSession';
import { Act, Editable } from '../session/Editors';
import { at } from '../../components/base';

const EMPTY: AudienceSpec = {
  condition: { kind: 'all', conditions: [] },
  sql: '',
  get zone() {
    return zone();
  },
  controlGroup: { percent: 0, seed: '' },
};

/** What a draft is of; new ones of people and of companies are kept apart. */
function subject(id: string, entityType: EntityType): string {
  return id === 'new' && entityType === 'COMPANY' ? 'new-company' : id;
}

/** An audience: whom it takes, how many that are, and why. */
export function AudiencePage() {
  const { id = '' } = useParams();
  const [search] = useSearchParams();
  const fresh = id === 'new';
  const view = useQuery({
    queryKey: ['audience', id],
    queryFn: () => ok(api.GET('/api/audiences/{id}', { params: { path: { id: Number(id) } } })),
    enabled: !fresh,
  });
  const entityType: EntityType =
    search.get('entityType') === 'COMPANY' ? 'COMPANY' : (view.data?.audience.entityType ?? 'PERSON');
  const words = useQuery({
    queryKey: ['condition-words', entityType],
    queryFn: () => ok(api.GET('/api/conditions/words', { params: { query: { entityType } } })),
  });
  return (
    <Loaded
      title="Audience"
      query={{ data: fresh || view.data ? words.data : undefined, error: view.error ?? words.error }}
    >
      {(known) => (
        <Drafted place={{ kind: 'AUDIENCE', subject: subject(id, entityType) }} title="Audience">
          {(draft) => (
            <Editor
              key={`${id} ${view.data?.audience.latestVersion ?? 0}`}
              view={fresh ? undefined : view.data}
              draft={draft}
              entityType={entityType}
              words={known}
            />
          )}
        </Drafted>
      )}
    </Loaded>
  );
}

function Editor({
  view,
  draft,
  entityType,
  words,
}: {
  view?: AudienceView;
  draft: Draft | undefined;
  entityType: EntityType;
  words: ConditionWords;
}) {
  const mayDownload = useMay('DOWNLOAD_PERSONAL_VALUES');
  const navigate = useNavigate();
  const client = useQueryClient();
  const audience = view?.audience;
  const [saved] = useState({
    name: audience?.name ?? '',
    description: audience?.description ?? '',
    spec: audience?.spec ?? { ...EMPTY },
  });
  const edit = useDraft({
    place: {
      kind: 'AUDIENCE',
      subject: subject(audience ? String(audience.id) : 'new', entityType),
      title: audience?.name ?? 'New audience',
    },
    saved,
    version: audience?.latestVersion ?? 0,
    draft,
  });
  const { name, description, spec } = edit.value;
  const setSpec = (spec: AudienceSpec) => edit.change((before) => ({ ...before, spec }));
  const [compared, setCompared] = useState(0);
  const group = asGroup(spec.condition);
  const empty = spec.sql === '' && group.conditions.length === 0;
  const { changed } = edit;
  const live = useLiveCount(entityType, spec, !empty);
  const why = useWhy(entityType, spec);
  const done = (saved: AudienceView) => {
    client.setQueryData(['audience', `${saved.audience.id}`], saved);
    void client.invalidateQueries({ queryKey: ['audiences'] });
    void client.invalidateQueries({ queryKey: ['line'] });
  };
  const save = useMutation({
    mutationFn: (note: string) => {
      const body = { name, description, entityType, basedOn: edit.basedOn, spec, note };
      return audience
        ? ok(api.POST('/api/audiences/{id}/versions', { params: { path: { id: audience.id } }, body }))
        : ok(api.POST('/api/audiences', { body }));
    },
    onSuccess: (saved) => {
      edit.saved();
      done(saved);
      if (!audience) void navigate(`/audiences/${saved.audience.id}`, { replace: true });
    },
  });
  const path = { path: { id: audience?.id ?? 0 } };
  const service = useMutation({
    mutationFn: () =>
      ok(
        api.POST('/api/audiences/{id}/in-service', {
          params: path,
          body: { version: audience?.latestVersion ?? 0 },
        }),
      ),
    onSuccess: done,
  });
  const remove = useMutation({
    mutationFn: () => ok(api.DELETE('/api/audiences/{id}', { params: { path: { id: audience?.id ?? 0 } } })),
    onSuccess: () => void navigate('/audiences'),
  });
  const again = useMutation({
    mutationFn: () => ok(api.POST('/api/audiences/{id}/counts', { params: path })),
    onSuccess: done,
  });
  const takeUp = useMutation({
    mutationFn: (number: number) =>
      ok(
        api.GET('/api/audiences/{id}/versions/{number}', {
          params: { path: { id: audience?.id ?? 0, number } },
        }),
      ),
    onSuccess: setSpec,
  });
  const latest = view?.counts[0];
  const inService = audience?.liveVersion;
  return (
    <Page
      title={audience?.name ?? 'New audience'}
      note={
        audience ? (
          <>
            {latest ? (
              latest.problem === '' ? (
                <>
                  {counted(latest.members, entityType === 'PERSON' ? 'member' : 'company member')}, counted{' '}
                  <Ago at={latest.countedAt} />
                </>
              ) : (
                'The latest count failed'
              )
            ) : (
              'Never counted'
            )}
            {'; '}
            {inService === undefined
              ? 'no version is in service'
              : `version ${inService} is in service${audience.latestVersion === inService ? '' : `, version ${audience.latestVersion} is saved`}`}
            {'. '}
            {audience.routes === 0
              ? 'No route sends it.'
              : `${counted(audience.routes, 'route')} may send it.`}{' '}
            Counting sends nothing.
          </>
        ) : (
          'Saving does not count or send anything. Putting a version in service counts it.'
        )
      }
      actions={
        <>
          {audience && !changed && (
            <Act kind="quiet" disabled={remove.isPending} onClick={() => remove.mutate()}>
              Remove
            </Act>
          )}
          {inService !== undefined && (
            <Act disabled={again.isPending} onClick={() => again.mutate()}>
              {again.isPending ? 'Counting…' : 'Count again'}
            </Act>
          )}
          {!changed && audience && audience.latestVersion !== inService && (
            <PutInService version={audience.latestVersion} live={inService} act={service}>
              {inService !== undefined && <Effect id={audience.id} spec={spec} />}
              <p className="m-0">
                {audience.routes === 0
                  ? 'It is counted. No route sends it.'
                  : `It is counted, and ${counted(audience.routes, 'route')} may send it.`}
              </p>
            </PutInService>
          )}
        </>
      }
    >
      <Failure error={save.error ?? remove.error ?? again.error ?? takeUp.error ?? live.error} />
      {latest && latest.problem !== '' && <Failure error={new Error(latest.problem)} />}
      <div className="grid grid-cols-1 lg:grid-cols-[minmax(0,7fr)_minmax(320px,3.4fr)] items-start gap-4">
        <div className="flex min-w-0 flex-col gap-3">
          {(changed || !audience) && (
            <Card className="grid grid-cols-[2fr_3fr] gap-3 px-4 py-3">
              <Labelled label="Name">
                <Input
                  className="w-full"
                  value={name}
                  onChange={(event) => edit.change((before) => ({ ...before, name: event.target.value }))}
                />
              </Labelled>
              <Labelled label="What it is for">
                <Input
                  className="w-full"
                  value={description}
                  onChange={(event) =>
                    edit.change((before) => ({ ...before, description: event.target.value }))
                  }
                />
              </Labelled>
            </Card>
          )}
          {!changed && audience && audience.description !== '' && (
            <p className="text-soft m-0 -mt-1">{audience.description}</p>
          )}
          <Card>
            <Editable>
              {spec.sql === '' ? (
                <ConditionEditor
                  entityType={entityType}
                  group={group}
                  words={words}
                  counts={live.count}
                  answers={why.answer?.lines}
                  onChange={(condition) => setSpec({ ...spec, condition })}
                />
              ) : (
                <SqlText sql={spec.sql} onChange={(sql) => setSpec({ ...spec, sql })} />
              )}
              <SpecTokens spec={spec} words={words} onChange={setSpec} />
            </Editable>
            <LiveTotal entityType={entityType} live={live} empty={empty} />
          </Card>
          {audience && changed && inService !== undefined && !empty && (
            <Effect id={audience.id} spec={spec} />
          )}
          {!empty && <Why entityType={entityType} why={why} />}
          {audience && <AudienceRoutes view={view} />}
        </div>
        <div className="flex min-w-0 flex-col gap-3">
          {view && view.counts.length > 0 && <Growth counts={view.counts} />}
          {!empty && <Typical entityType={entityType} spec={spec} />}
          {audience && inService !== undefined && <WhoElse id={audience.id} />}
          {view && (
            <Card title="Versions">
              <div className="px-4 pb-3">
                <VersionList
                  versions={view.versions}
                  latest={view.audience.latestVersion}
                  live={inService}
                  compared={compared}
                  onCompare={(number) => {
                    setCompared(number);
                    if (number > 0) takeUp.mutate(number);
                  }}
                  onTakeUp={(number) => takeUp.mutate(number)}
                />
              </div>
            </Card>
          )}
          {audience && (
            <p className="text-soft m-0">
              <Link className="text-deep underline" to={`/audiences/${audience.id}/members`}>
                All members
              </Link>
              {mayDownload && (
                <>
                  , and{' '}
                  <a className="text-deep underline" href={at(`/api/audiences/${audience.id}/members.csv`)}>
                    as CSV
                  </a>
                </>
              )}
              .
            </p>
          )}
        </div>
      </div>
      <EditBar
        edit={edit}
        version={audience?.latestVersion ?? 0}
        author={audience?.author}
        pending={save.isPending}
        blocked={name.trim() === '' ? 'Enter a name.' : empty ? 'Add a condition.' : ''}
        onSave={(note) => save.mutate(note)}
      />
    </Page>
  );
}
