import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate, useParams, useSearchParams } from 'react-router';
import { api, ok } from '../../api/client';
import type { FileFormat, FileSet, FileSetDefinition, FileSetSample, Source } from '../../api/types';
import { zone } from '../../components/here';
import { Loaded } from '../../components/Loaded';
import { At } from '../../components/Moment';
import { useSettled } from '../../components/settled';
import { Card, Failure, Input, Labelled, Page, Pill, Select, Skeleton } from '../../components/ui';
import { count } from '../../components/format';
import { Act, Editable } from '../session/Editors';
import { useIsEditor } from '../session/useSession';
import { ColumnsTable } from '../landing/ColumnsTable';
import { tableOf } from '../landing/names';
import { FormatFields } from './FormatFields';
import { SampleRows } from './SampleRows';
import { SeveralFields } from './SeveralFields';
import { AFTER } from './words';
import { bytes } from '../landing/names';

/** A file set as it is made or changed: looked at first, believed afterwards. */
export function FileSetEditorPage() {
  const { source = '', id } = useParams();
  const found = useQuery({
    queryKey: ['source', source],
    queryFn: () => ok(api.GET('/api/sources/{id}', { params: { path: { id: Number(source) } } })),
  });
  const set = useQuery({
    queryKey: ['file-set', id],
    queryFn: () => ok(api.GET('/api/file-sets/{id}', { params: { path: { id: Number(id) } } })),
    enabled: id !== undefined,
  });
  return (
    <Loaded
      title="File set"
      query={{
        data: found.data && (id === undefined || set.data) ? true : undefined,
        error: found.error ?? set.error,
      }}
    >
      {() => <Editor key={id} source={found.data as Source} set={set.data} />}
    </Loaded>
  );
}

function Editor({ source, set }: { source: Source; set?: FileSet }) {
  const navigate = useNavigate();
  const client = useQueryClient();
  const [begun] = useSearchParams();
  const editor = useIsEditor();
  const [name, setName] = useState(set?.name ?? '');
  const [table, setTable] = useState(set?.table ?? '');
  const [pattern, setPattern] = useState(set?.definition.pattern ?? '*');
  const [path, setPath] = useState(begun.get('file') ?? undefined);
  const [definition, setDefinition] = useState(set?.definition);
  const settledPattern = useSettled(pattern, 400);
  const matches = useQuery({
    queryKey: ['file-matches', source.id, settledPattern],
    queryFn: () =>
      ok(
        api.GET('/api/file-sets/matches', {
          params: { query: { source: source.id, pattern: settledPattern } },
        }),
      ),
    enabled: settledPattern.trim() !== '' && editor,
    placeholderData: (before) => before,
    retry: false,
  });
  const look = useMutation({
    mutationFn: (format: FileFormat | undefined) =>
      ok(api.POST('/api/file-sets/sample', { body: { sourceId: source.id, pattern, path, format } })),
    onSuccess: (sample) => {
      const proposed = sample.definition;
      if (proposed)
        setDefinition((before) => ({
          ...(before ?? { ...proposed, zone: zone() }),
          pattern,
          format: proposed.format,
          columns: proposed.columns,
        }));
    },
  });
  const asked = useSettled(
    definition && { sourceId: source.id, pattern, path, definition: { ...definition, pattern } },
    500,
  );
  const rows = useQuery({
    queryKey: ['file-sample', asked],
    queryFn: () => ok(api.POST('/api/file-sets/sample', { body: asked as NonNullable<typeof asked> })),
    enabled: asked !== undefined && editor,
    placeholderData: (before) => before,
    retry: false,
  });
  const save = useMutation({
    mutationFn: () => {
      const body = {
        name,
        sourceId: source.id,
        table: table || tableOf(name),
        definition: { ...(definition as FileSetDefinition), pattern },
        basedOn: set?.revision ?? 0,
      };
      return set
        ? ok(api.PUT('/api/file-sets/{id}', { params: { path: { id: set.id } }, body }))
        : ok(api.POST('/api/file-sets', { body }));
    },
    onSuccess: (saved) => {
      client.setQueryData(['file-set', String(saved.id)], saved);
      void client.invalidateQueries({ queryKey: ['file-sets'] });
      void client.invalidateQueries({ queryKey: ['source', String(source.id)] });
      void navigate(`/sources/${source.id}/file-sets/${saved.id}`, { replace: true });
    },
  });
  const sample: FileSetSample | undefined = rows.data ?? look.data;
  const change = (part: Partial<FileSetDefinition>) =>
    setDefinition((before) => before && { ...before, ...part });
  return (
    <Page
      title={set?.name ?? 'New file set'}
      of={`file set of ${source.name}`}
      actions={
        <Act
          kind="primary"
          disabled={!definition || save.isPending || name.trim() === ''}
          onClick={() => save.mutate()}
        >
          {save.isPending ? 'Saving' : 'Save file set'}
        </Act>
      }
    >
      <Failure error={save.error} />
      <Editable>
        <div className="grid grid-cols-1 items-start gap-4 lg:grid-cols-[330px_minmax(0,1fr)]">
          <div className="flex flex-col gap-4">
            <Card title="Files" className="pb-4">
              <div className="flex flex-col gap-3 px-4 pt-2">
                <Labelled
                  label="Pattern of the names"
                  note="* stands for any characters but a slash, ** for any characters, ? for one."
                >
                  <Input
                    className="w-full font-mono"
                    value={pattern}
                    onChange={(event) => {
                      setPattern(event.target.value);
                      setPath(undefined);
                    }}
                  />
                </Labelled>
                <Failure error={matches.error} />
                {matches.data && (
                  <Labelled label={`File to look at (${count(matches.data.count)} match)`}>
                    <Select
                      className="w-full font-mono"
                      value={path ?? ''}
                      disabled={matches.data.count === 0}
                      onChange={(event) => setPath(event.target.value || undefined)}
                    >
                      <option value="">
                        {matches.data.newest[0]
                          ? `the newest: ${matches.data.newest[0].path}`
                          : 'no file matches yet'}
                      </option>
                      {matches.data.newest.map((one) => (
                        <option key={one.path} value={one.path}>
                          {one.path}
                        </option>
                      ))}
                    </Select>
                  </Labelled>
                )}
                <div>
                  <Act
                    disabled={look.isPending || !matches.data?.count}
                    onClick={() => look.mutate(undefined)}
                  >
                    {look.isPending ? 'Looking' : definition ? 'Propose again' : 'Look at the file'}
                  </Act>
                </div>
                <Failure error={look.error} />
              </div>
            </Card>
            {definition && (
              <>
                <Card title="Form" className="pb-4">
                  <div className="px-4 pt-2">
                    <FormatFields format={definition.format} onChange={(format) => look.mutate(format)} />
                    {look.data && look.data.evidence.length > 0 && (
                      <ul className="text-soft m-0 mt-3 pl-4">
                        {look.data.evidence.map((one) => (
                          <li key={one}>{one}</li>
                        ))}
                      </ul>
                    )}
                  </div>
                </Card>
                <Card title="Meaning" className="pb-4">
                  <div className="flex flex-col gap-3 px-4 pt-2">
                    <SeveralFields
                      several={definition.several}
                      names={definition.columns.map((one) => one.name)}
                      onChange={(several) => change({ several })}
                    />
                    <Labelled label="After reading">
                      <Select
                        className="w-full"
                        value={definition.afterReading}
                        onChange={(event) =>
                          change({ afterReading: event.target.value as FileSetDefinition['afterReading'] })
                        }
                      >
                        {AFTER.map((one) => (
                          <option key={one.value} value={one.value}>
                            {one.title}
                          </option>
                        ))}
                      </Select>
                    </Labelled>
                    <div className="grid grid-cols-2 gap-3">
                      <Labelled label="Time zone" note="Of times that name none.">
                        <Input
                          className="w-full"
                          value={definition.zone}
                          onChange={(event) => change({ zone: event.target.value })}
                        />
                      </Labelled>
                      <Labelled label="Rows kept (days)" note="0 keeps them for good.">
                        <Input
                          className="w-full"
                          type="number"
                          min={0}
                          value={definition.keepDays}
                          onChange={(event) => change({ keepDays: Number(event.target.value) || 0 })}
                        />
                      </Labelled>
                    </div>
                  </div>
                </Card>
              </>
            )}
          </div>
          <div className="flex min-w-0 flex-col gap-4">
            <Card title="Name" className="pb-4">
              <div className="grid grid-cols-2 gap-3 px-4 pt-2">
                <Labelled label="File set">
                  <Input className="w-full" value={name} onChange={(event) => setName(event.target.value)} />
                </Labelled>
                <Labelled label="Table in the schema landed" note="It stays, since queries name it.">
                  <Input
                    className="w-full font-mono"
                    disabled={set !== undefined}
                    placeholder={tableOf(name)}
                    value={table}
                    onChange={(event) => setTable(event.target.value)}
                  />
                </Labelled>
              </div>
            </Card>
            {definition ? (
              <>
                <Card title="Columns" className="overflow-x-auto">
                  <ColumnsTable
                    of="file"
                    guesses={sample?.columns ?? []}
                    columns={definition.columns}
                    onChange={(columns) => change({ columns })}
                  />
                </Card>
                <Card
                  title="First rows"
                  aside={
                    sample?.file && (
                      <>
                        <span className="font-mono">{sample.file.path}</span>, {bytes(sample.file.size)},{' '}
                        <At at={sample.file.modifiedAt} />{' '}
                        {sample.packing !== 'none' && <Pill>{sample.packing}</Pill>}{' '}
                        {sample.held > 0 && (
                          <Pill tone="held">
                            ‖ {count(sample.held)} of {count(sample.rows.length)} would be held
                          </Pill>
                        )}
                      </>
                    )
                  }
                >
                  <Failure error={rows.error} />
                  {sample?.problem ? (
                    <div className="px-4 pb-2">
                      <Failure error={new Error(sample.problem)} />
                    </div>
                  ) : sample ? (
                    <SampleRows sample={sample} definition={sample.definition ?? definition} />
                  ) : (
                    editor && !rows.error && <Skeleton rows={4} />
                  )}
                </Card>
              </>
            ) : (
              <Card className="px-4 py-6">
                {look.data?.problem ? (
                  <Failure error={new Error(look.data.problem)} />
                ) : (
                  <p className="text-soft m-0 max-w-[65ch]">
                    Say which files belong together, then look at one: its encoding, delimiter, header,
                    columns and types are proposed with what speaks for them. Nothing is kept before you save.
                  </p>
                )}
              </Card>
            )}
          </div>
        </div>
      </Editable>
    </Page>
  );
}
