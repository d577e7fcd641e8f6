import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { useNavigate, useParams, useSearchParams } from 'react-router';
import { api, ApiProblem, ok } from '../../api/client';
import type { Column, Dataset, DatasetDefinition, Draft } from '../../api/types';
import { ArchiveButton } from '../../components/ArchiveButton';
import { CodeField, type CodeHandle } from '../../components/CodeField';
import { count, counted } from '../../components/format';
import { Loaded } from '../../components/Loaded';
import { Ago } from '../../components/Moment';
import { PutInService } from '../../components/PutInService';
import { Button, Card, Failure, Input, Labelled, Page, Pill, Select, TD, TH } from '../../components/ui';
import { ColumnsGo } from '../fieldbook/ColumnsGo';
import { Drafted, useKeptDraft } from '../drafts/Drafted';
import { EditBar } from '../drafts/EditBar';
import { useDraft } from '../drafts/useDraft';
import { ColumnProfilesCard } from '../expectations/ColumnProfilesCard';
import { ExpectationsCard } from '../expectations/ExpectationsCard';
import { RouteEffects } from '../rehearsal/RouteEffects';
import { DataChanges } from './DataChanges';
import { DatasetVersions } from './DatasetVersions';
import { FieldsBeside } from './FieldsBeside';
import { GoesLive } from './GoesLive';
import { SchemaTree } from './SchemaTree';
import { laidOut, sqlOf } from './sqlOf';
import { TablePicker } from './TablePicker';
import { Act, Editable } from '../session/Editors';
import { useIsEditor } from '../session/useSession';
import { beginning, subject } from './beginning';

type Query = DatasetDefinition['query'];
const ROLES: [Column['role'], string][] = [
  ['KEY', 'key'],
  ['IDENTIFIER', 'identifier'],
  ['ATTRIBUTE', 'attribute'],
  ['EVENT_TIME', 'event time'],
  ['UPDATED_AT', 'updated at'],
  ['CONSENT', 'consent'],
  ['SENSITIVE', 'sensitive'],
];

export function DatasetPage() {
  const { id = 'new' } = useParams();
  const dataset = useQuery({
    queryKey: ['dataset', id],
    queryFn: () => ok(api.GET('/api/datasets/{id}', { params: { path: { id: Number(id) } } })),
    enabled: id !== 'new',
  });
  const [begun] = useSearchParams();
  useKeptDraft({ kind: 'DATASET', subject: id }, id !== 'new');
  if (id === 'new')
    return (
      <Drafted key={subject(begun)} place={{ kind: 'DATASET', subject: subject(begun) }} title="New dataset">
        {(draft) => <DatasetForm draft={draft} />}
      </Drafted>
    );
  return (
    <Loaded title="Dataset" query={dataset}>
      {(found) => (
        <Drafted place={{ kind: 'DATASET', subject: id }} title={found.name}>
          {(draft) => <DatasetForm key={`${id}-${found.latestVersion}`} dataset={found} draft={draft} />}
        </Drafted>
      )}
    </Loaded>
  );
}

function DatasetForm({ dataset, draft }: { dataset?: Dataset; draft: Draft | undefined }) {
  const client = useQueryClient();
  const navigate = useNavigate();
  const [begun] = useSearchParams();
  const [saved] = useState(() => beginning(dataset, begun));
  const edit = useDraft({
    place: {
      kind: 'DATASET',
      subject: dataset ? String(dataset.id) : subject(begun),
      title: dataset?.name ?? 'New dataset',
    },
    saved,
    version: dataset?.latestVersion ?? 0,
    draft,
  });
  const { name, description, sourceId: chosenSource, query, columns, expectations = [] } = edit.value;
  const set = (part: Partial<typeof edit.value>) => edit.change((before) => ({ ...before, ...part }));
  const setQuery = (query: Query) => set({ query });
  const editor = useIsEditor();
  const code = useRef<CodeHandle>(null);
  const sources = useQuery({ queryKey: ['sources'], queryFn: () => ok(api.GET('/api/sources')) });
  const sourceId = chosenSource || (sources.data?.[0]?.id ?? 0);
  const source = sources.data?.find((one) => one.id === sourceId);
  const language = sqlOf(source?.address.kind === 'database' ? source.address.dialect : undefined);
  const tables = (source?.report?.schemas ?? []).flatMap((schema) =>
    schema.tables.filter((table) => table.readable).map((table) => ({ schema: schema.name, ...table })),
  );
  const keys = columns.filter((column) => column.role === 'KEY').map((column) => column.name);

  // Only when somebody runs it; kept by query, so that saving does not take the rows away.
  const preview = useQuery({
    queryKey: ['preview', sourceId, query],
    queryFn: () => ok(api.POST('/api/datasets/preview', { body: { sourceId, query } })),
    placeholderData: (before) => before,
    enabled: false,
  });
  const runPreview = async () => {
    const { data: result, isSuccess } = await preview.refetch();
    if (!isSuccess || !result) return;
    edit.change((before) => ({
      ...before,
      columns: result.preview.columns.map((column) => ({
        name: column.name,
        type: column.type,
        role:
          before.columns.find((one) => one.name === column.name)?.role ??
          result.roles[column.name] ??
          'ATTRIBUTE',
      })),
    }));
  };
  const check = useMutation({
    mutationFn: () => ok(api.POST('/api/datasets/check-key', { body: { sourceId, query, keys } })),
  });
  const done = (saved: Dataset) => {
    client.setQueryData(['dataset', String(saved.id)], saved);
    void client.invalidateQueries({ queryKey: ['datasets'] });
    void client.invalidateQueries({ queryKey: ['line'] });
    void navigate(`/datasets/${saved.id}`, { replace: true });
  };
  const save = useMutation({
    mutationFn: (note: string) => {
      const body = {
        name,
        description,
        sourceId,
        basedOn: edit.basedOn,
        note,
        definition: { query, columns, expectations },
      };
      return dataset
        ? ok(api.POST('/api/datasets/{id}/versions', { params: { path: { id: dataset.id } }, body }))
        : ok(api.POST('/api/datasets', { body }));
    },
    onSuccess: (fresh) => {
      edit.saved();
      done(fresh);
    },
  });
  const routes = useQuery({
    queryKey: ['dataset-routes', dataset?.id],
    queryFn: () => ok(api.GET('/api/datasets/{id}/routes', { params: { path: { id: dataset?.id ?? 0 } } })),
    enabled: dataset !== undefined,
  });
  const inService = useMutation({
    mutationFn: () =>
      ok(
        api.POST('/api/datasets/{id}/in-service', {
          params: { path: { id: dataset?.id ?? 0 } },
          body: { version: dataset?.latestVersion ?? 0 },
        }),
      ),
    onSuccess: done,
  });
  const freshness = useMutation({
    mutationFn: () =>
      ok(api.POST('/api/datasets/{id}/freshness', { params: { path: { id: dataset?.id ?? 0 } } })),
    onSuccess: done,
  });

  const definitionChanged =
    dataset !== undefined &&
    JSON.stringify({ query, columns, expectations }) !==
      JSON.stringify({
        query: dataset.definition.query,
        columns: dataset.definition.columns,
        expectations: dataset.definition.expectations,
      });
  const dirty = !dataset || edit.changed;
  const waits = dataset && !dirty && dataset.liveVersion !== dataset.latestVersion;
  const fault = preview.error instanceof ApiProblem && preview.error.position ? preview.error : undefined;
  const setRole = (column: string, role: Column['role']) =>
    edit.change((before) => ({
      ...before,
      columns: before.columns.map((one) => (one.name === column ? { ...one, role } : one)),
    }));

  return (
    <Page
      title={dataset?.name ?? 'New dataset'}
      of={source && `from ${source.name}`}
      note={
        dataset && (
          <>
            Version {dataset.latestVersion}, saved by {dataset.author} <Ago at={dataset.savedAt} />.{' '}
            {dataset.liveVersion
              ? `Version ${dataset.liveVersion} is in service.`
              : 'No version is in service.'}
            {dataset.freshness && (
              <>
                {' '}
                {counted(dataset.freshness.rows, 'row')}
                {dataset.freshness.newestRow && (
                  <>
                    , newest <Ago at={dataset.freshness.newestRow} />
                  </>
                )}
                , seen <Ago at={dataset.freshness.seenAt} />.
              </>
            )}
          </>
        )
      }
      actions={
        <>
          {dataset && (
            <ArchiveButton
              kind="dataset"
              name={dataset.name}
              consequence="Routes can no longer read it."
              to="/datasets"
              archive={() => ok(api.DELETE('/api/datasets/{id}', { params: { path: { id: dataset.id } } }))}
            />
          )}
          {dataset && (
            <Act disabled={freshness.isPending} onClick={() => freshness.mutate()}>
              {freshness.isPending ? 'Counting' : 'Count rows'}
            </Act>
          )}
          <Act disabled={preview.isFetching || !sourceId} onClick={() => void runPreview()}>
            {preview.isFetching ? 'Running' : 'Run preview'}
          </Act>
          {waits && (
            <PutInService version={dataset.latestVersion} live={dataset.liveVersion} act={inService}>
              <GoesLive dataset={dataset} routes={routes.data ?? []} />
            </PutInService>
          )}
        </>
      }
    >
      <Failure error={save.error ?? freshness.error ?? (fault ? null : preview.error)} />
      <Editable>
        <div className="mb-3 grid grid-cols-1 sm:grid-cols-2 lg:grid-cols-[1fr_2fr_200px_230px] items-end gap-3">
          <Labelled label="Name">
            <Input className="w-full" value={name} onChange={(e) => set({ name: e.target.value })} />
          </Labelled>
          <Labelled label="Description">
            <Input
              className="w-full"
              value={description}
              onChange={(e) => set({ description: e.target.value })}
            />
          </Labelled>
          <Labelled label="Source">
            <Select
              className="w-full"
              value={sourceId}
              onChange={(e) => set({ sourceId: Number(e.target.value) })}
              disabled={dataset !== undefined}
            >
              {(sources.data ?? []).map((one) => (
                <option key={one.id} value={one.id}>
                  {one.name}
                </option>
              ))}
            </Select>
          </Labelled>
          <div className="flex gap-1" role="group" aria-label="How records are selected">
            <Button
              aria-pressed={query.kind === 'sql'}
              className={query.kind === 'sql' ? 'border-soft bg-sunk' : ''}
              onClick={() =>
                setQuery(
                  query.kind === 'sql' ? query : { kind: 'sql', text: preview.data?.sql ?? 'select\nfrom ' },
                )
              }
            >
              By SQL
            </Button>
            <Button
              aria-pressed={query.kind === 'table'}
              className={query.kind === 'table' ? 'border-soft bg-sunk' : ''}
              onClick={() =>
                setQuery(
                  query.kind === 'table' ? query : { kind: 'table', schema: '', table: '', columns: [] },
                )
              }
            >
              From a table
            </Button>
          </div>
        </div>
      </Editable>
      <div className="grid grid-cols-1 lg:grid-cols-[210px_minmax(0,1fr)_200px] gap-3">
        <SchemaTree
          tables={tables}
          onInsert={editor && query.kind === 'sql' ? (column) => code.current?.insert(column) : undefined}
        />
        {query.kind === 'sql' ? (
          <div className="flex min-h-[270px] flex-col">
            <CodeField
              ref={code}
              label="Query"
              onRun={() => void runPreview()}
              value={query.text}
              onChange={(text) => setQuery({ kind: 'sql', text })}
              schema={Object.fromEntries(
                tables.map((table) => [
                  `${table.schema}.${table.name}`,
                  table.columns.map((column) => column.name),
                ]),
              )}
              dialect={language.editor}
              faults={fault ? [{ at: (fault.position ?? 1) - 1, message: fault.message }] : []}
              height="270px"
            />
            <div className="mt-1 flex items-center justify-between">
              <span className="text-removed" role={fault ? 'alert' : undefined}>
                {fault && `${fault.message} (at character ${fault.position})`}
              </span>
              <Act
                kind="quiet"
                onClick={() =>
                  setQuery({
                    kind: 'sql',
                    text: laidOut(query.text, language),
                  })
                }
              >
                Format
              </Act>
            </div>
          </div>
        ) : (
          <TablePicker query={query} tables={tables} onChange={setQuery} />
        )}
        <FieldsBeside datasetId={dataset?.id ?? 0} columns={columns.map((column) => column.name)} />
      </div>
      {columns.length > 0 && (
        <Card
          className="mt-3"
          title="Columns and first rows"
          aside={
            <span className="flex items-center gap-3">
              {preview.data &&
                `${preview.data.preview.cut ? 'first ' : ''}${counted(preview.data.preview.rows.length, 'row')} in ${count(preview.data.preview.millis)} ms`}
              <Act disabled={keys.length === 0 || check.isPending} onClick={() => check.mutate()}>
                {check.isPending ? 'Checking' : 'Check key'}
              </Act>
            </span>
          }
        >
          <Failure error={check.error} />
          {check.data && (
            <p role="status" className="mx-4 my-1">
              {counted(check.data.rows, 'row')}:{' '}
              {check.data.blanks === 0 && check.data.doubled === 0 ? (
                <Pill tone="good">every row has a unique key</Pill>
              ) : (
                <>
                  {check.data.blanks > 0 && (
                    <Pill tone="bad">{counted(check.data.blanks, 'row')} with an empty key</Pill>
                  )}{' '}
                  {check.data.doubled > 0 && (
                    <Pill tone="bad">
                      {counted(check.data.doubled, 'key')} on more than one row, for example{' '}
                      {check.data.examples.join('; ')}
                    </Pill>
                  )}
                </>
              )}
            </p>
          )}
          <div className="max-h-[330px] overflow-auto" tabIndex={0} role="region" aria-label="First rows">
            <table className="w-full border-collapse">
              <thead className="bg-card sticky top-0">
                <tr>
                  {columns.map((column) => (
                    <th key={column.name} className={`${TH} whitespace-nowrap`}>
                      <div className="text-ink font-mono">{column.name}</div>
                      <div className="flex items-center gap-1 font-normal">
                        {column.type.toLowerCase()}
                        <select
                          aria-label={`Role of ${column.name}`}
                          className="bg-sunk text-ink rounded px-1 py-0.5 text-[0.75rem]"
                          value={column.role}
                          onChange={(e) => setRole(column.name, e.target.value as Column['role'])}
                        >
                          {ROLES.map(([role, word]) => (
                            <option key={role} value={role}>
                              {word}
                            </option>
                          ))}
                        </select>
                      </div>
                    </th>
                  ))}
                </tr>
              </thead>
              <tbody>
                {(preview.data?.preview.rows ?? []).map((row, i) => (
                  <tr key={i}>
                    {row.map((cell, j) => (
                      <td key={j} className={`${TD} max-w-[220px] truncate font-mono whitespace-nowrap`}>
                        {cell ?? <span className="text-soft">empty</span>}
                      </td>
                    ))}
                  </tr>
                ))}
              </tbody>
            </table>
            {!preview.data && <p className="text-soft px-4 py-2">Run the preview to see rows.</p>}
          </div>
        </Card>
      )}
      {dataset && (
        <ExpectationsCard
          datasetId={dataset.id}
          live={dataset.liveVersion}
          columns={columns}
          value={expectations}
          onChange={(changed) => set({ expectations: changed })}
        />
      )}
      {dataset && <ColumnProfilesCard datasetId={dataset.id} />}
      {dataset && (
        <RouteEffects
          changed={definitionChanged}
          judge={() =>
            ok(
              api.POST('/api/datasets/{id}/what-if', {
                params: { path: { id: dataset.id } },
                body: { query, columns, expectations },
              }),
            )
          }
        />
      )}
      {dataset && <DataChanges datasetId={dataset.id} />}
      {dataset && (
        <DatasetVersions
          dataset={dataset}
          unsaved={{ query, columns, expectations }}
          onTakeUp={({ query, columns, expectations }) => set({ query, columns, expectations })}
        />
      )}
      {dataset && <ColumnsGo datasetId={dataset.id} columns={columns.map((column) => column.name)} />}
      <EditBar
        edit={edit}
        version={dataset?.latestVersion ?? 0}
        author={dataset?.author}
        pending={save.isPending}
        blocked={
          name.trim() === ''
            ? 'Enter a name.'
            : columns.length === 0
              ? 'Run the preview to learn the columns.'
              : keys.length === 0
                ? 'Choose which columns are the key.'
                : ''
        }
        onSave={(note) => save.mutate(note)}
      />
    </Page>
  );
}
