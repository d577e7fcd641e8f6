import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import { api, ok } from '../../api/client';
import type { CallSample, CallsMean, Receiver, ReceiverDefinition, Source } from '../../api/types';
import { count } from '../../components/format';
import { zone } from '../../components/here';
import { Loaded } from '../../components/Loaded';
import { useSettled } from '../../components/settled';
import { Card, Failure, Input, Labelled, Page, Pill, Select, Skeleton } from '../../components/ui';
import { ColumnsTable } from '../landing/ColumnsTable';
import { KeyFields } from '../landing/KeyFields';
import { tableOf } from '../landing/names';
import { Act, Editable } from '../session/Editors';
import { useIsEditor } from '../session/useSession';
import { CallRows } from './CallRows';
import { CheckFields } from './CheckFields';
import { beginning, begunMeaning, MEANINGS } from './words';

/** A receiver as it is made, and its columns as they are chosen from calls that were caught. */
export function ReceiverEditorPage() {
  const { source = '', id } = useParams();
  const found = useQuery({
    queryKey: ['source', source],
    queryFn: () => ok(api.GET('/api/sources/{id}', { params: { path: { id: Number(source) } } })),
  });
  const receiver = useQuery({
    queryKey: ['receiver', id],
    queryFn: () => ok(api.GET('/api/receivers/{id}', { params: { path: { id: Number(id) } } })),
    enabled: id !== undefined,
  });
  return (
    <Loaded
      title="Receiver"
      query={{
        data: found.data && (id === undefined || receiver.data) ? true : undefined,
        error: found.error ?? receiver.error,
      }}
    >
      {() => <Editor key={id} source={found.data as Source} receiver={receiver.data} />}
    </Loaded>
  );
}

function Editor({ source, receiver }: { source: Source; receiver?: Receiver }) {
  const navigate = useNavigate();
  const client = useQueryClient();
  const editor = useIsEditor();
  const [name, setName] = useState(receiver?.name ?? '');
  const [table, setTable] = useState(receiver?.table ?? '');
  const [secret, setSecret] = useState('');
  const [definition, setDefinition] = useState<ReceiverDefinition>(receiver?.definition ?? beginning(zone()));
  const change = (part: Partial<ReceiverDefinition>) => setDefinition((before) => ({ ...before, ...part }));
  const asked = useSettled(definition, 400);
  const sample = useQuery({
    queryKey: ['call-sample', receiver?.id, asked],
    queryFn: () =>
      ok(
        api.POST('/api/receivers/{id}/sample', {
          params: { path: { id: (receiver as Receiver).id } },
          body: asked,
        }),
      ),
    enabled: receiver !== undefined && editor,
    placeholderData: (before) => before,
    retry: false,
  });
  const save = useMutation({
    mutationFn: () => {
      const body = {
        name,
        sourceId: source.id,
        table: table || tableOf(name),
        definition,
        basedOn: receiver?.revision ?? 0,
        secret: secret || undefined,
      };
      return receiver
        ? ok(api.PUT('/api/receivers/{id}', { params: { path: { id: receiver.id } }, body }))
        : ok(api.POST('/api/receivers', { body }));
    },
    onSuccess: (saved) => {
      client.setQueryData(['receiver', String(saved.id)], saved);
      void client.invalidateQueries({ queryKey: ['receivers'] });
      void client.invalidateQueries({ queryKey: ['source', String(source.id)] });
      void navigate(`/sources/${source.id}/receivers/${saved.id}`, { replace: true });
    },
  });
  return (
    <Page
      title={receiver?.name ?? 'New receiver'}
      of={`receiver of ${source.name}`}
      actions={
        <Act kind="primary" disabled={save.isPending || name.trim() === ''} onClick={() => save.mutate()}>
          {save.isPending ? 'Saving' : 'Save receiver'}
        </Act>
      }
    >
      <Failure error={save.error} />
      <Editable>
        <div className="grid grid-cols-1 items-start gap-4 lg:grid-cols-[330px_minmax(0,1fr)]">
          <div className="flex flex-col gap-4">
            <Card title="Calls" className="pb-4">
              <div className="flex flex-col gap-3 px-4 pt-2">
                <CheckFields check={definition.check} onChange={(check) => change({ check })} />
                {receiver && receiver.definition.check.kind !== definition.check.kind && (
                  <p className="text-changed m-0">
                    The receiver gets another secret, and the one before is taken no more.
                  </p>
                )}
                {!receiver && definition.check.kind !== 'open' && (
                  <Labelled
                    label="Secret"
                    note="Only if the tool has made one. Leave it empty to have one made."
                  >
                    <Input
                      className="w-full font-mono"
                      type="password"
                      autoComplete="new-password"
                      value={secret}
                      onChange={(event) => setSecret(event.target.value)}
                    />
                  </Labelled>
                )}
                <div className="grid grid-cols-2 gap-3">
                  <Labelled label="Most calls a minute">
                    <Input
                      className="w-full"
                      type="number"
                      min={1}
                      value={definition.callsPerMinute || ''}
                      onChange={(event) => change({ callsPerMinute: Number(event.target.value) || 0 })}
                    />
                  </Labelled>
                  <Labelled label="Largest body (KB)">
                    <Input
                      className="w-full"
                      type="number"
                      min={1}
                      value={definition.mostKilobytes || ''}
                      onChange={(event) => change({ mostKilobytes: Number(event.target.value) || 0 })}
                    />
                  </Labelled>
                </div>
                <Labelled label="Kept (days)" note="Calls and their rows; 0 keeps them for good.">
                  <Input
                    className="w-full"
                    type="number"
                    min={0}
                    value={definition.keepDays}
                    onChange={(event) => change({ keepDays: Number(event.target.value) || 0 })}
                  />
                </Labelled>
              </div>
            </Card>
            {receiver && <Meaning definition={definition} onChange={change} />}
          </div>
          <div className="flex min-w-0 flex-col gap-4">
            <Card title="Name" className="pb-4">
              <div className="grid grid-cols-2 gap-3 px-4 pt-2">
                <Labelled label="Receiver">
                  <Input className="w-full" value={name} onChange={(event) => setName(event.target.value)} />
                </Labelled>
                <Labelled label="Table in the schema landed" note="It stays, since queries name it.">
                  <Input
                    className="w-full font-mono"
                    disabled={receiver !== undefined}
                    placeholder={tableOf(name)}
                    value={table}
                    onChange={(event) => setTable(event.target.value)}
                  />
                </Labelled>
              </div>
            </Card>
            {receiver ? (
              <Samples
                sample={sample.data}
                error={sample.error}
                editor={editor}
                definition={definition}
                onChange={change}
              />
            ) : (
              <Card className="px-4 py-6">
                <p className="text-soft m-0 max-w-[65ch]">
                  Save the receiver to get its address. The first calls are caught as samples; its columns are
                  chosen from them afterwards, and what was caught becomes rows too.
                </p>
              </Card>
            )}
          </div>
        </div>
      </Editable>
    </Page>
  );
}

interface Changing {
  definition: ReceiverDefinition;
  onChange: (part: Partial<ReceiverDefinition>) => void;
}

function Meaning({ definition, onChange }: Changing) {
  const names = definition.columns.map((one) => one.name);
  const { several } = definition;
  return (
    <Card title="Meaning" className="pb-4">
      <div className="flex flex-col gap-3 px-4 pt-2">
        <Labelled
          label="Records in a body"
          note="Names on the way to a list, such as data.items. Empty for the whole body."
        >
          <Input
            className="w-full font-mono"
            value={definition.records}
            onChange={(event) => onChange({ records: event.target.value })}
          />
        </Labelled>
        <Labelled label="Several calls" note={MEANINGS.find((one) => one.kind === several.kind)?.note}>
          <Select
            className="w-full"
            value={several.kind}
            onChange={(event) => onChange({ several: begunMeaning(event.target.value as CallsMean['kind']) })}
          >
            {MEANINGS.map((one) => (
              <option key={one.kind} value={one.kind}>
                {one.title}
              </option>
            ))}
          </Select>
        </Labelled>
        {several.kind === 'latest-per-key' && (
          <>
            <KeyFields of={several} names={names} onChange={(next) => onChange({ several: next })} />
            <Labelled label="Column that says which call is later">
              <Select
                className="w-full font-mono"
                value={several.orderBy}
                onChange={(event) => onChange({ several: { ...several, orderBy: event.target.value } })}
              >
                <option value="">none: as they come in</option>
                {names.map((one) => (
                  <option key={one}>{one}</option>
                ))}
              </Select>
            </Labelled>
          </>
        )}
        <Labelled label="Time zone" note="Of times that name none.">
          <Input
            className="w-full"
            value={definition.zone}
            onChange={(event) => onChange({ zone: event.target.value })}
          />
        </Labelled>
      </div>
    </Card>
  );
}

function Samples({
  sample,
  error,
  editor,
  definition,
  onChange,
}: Changing & { sample?: CallSample; error: Error | null; editor: boolean }) {
  if (!sample) return editor && !error ? <Skeleton rows={4} /> : <Failure error={error} />;
  if (sample.calls === 0 && definition.columns.length === 0)
    return (
      <Card className="px-4 py-6">
        <p className="text-soft m-0 max-w-[65ch]">
          No call was caught yet. Let something happen in the other tool, then choose columns from what it
          sends.
        </p>
      </Card>
    );
  return (
    <>
      <Failure error={error} />
      <Card
        title="Columns"
        className="overflow-x-auto"
        aside={`Proposed from the latest ${count(sample.calls)} calls`}
      >
        <ColumnsTable
          of="call"
          guesses={sample.values.map((one) => one.proposed)}
          columns={definition.columns}
          examples={Object.fromEntries(sample.values.map((one) => [one.from, one.example]))}
          event={{ from: definition.eventKey, onChange: (eventKey) => onChange({ eventKey }) }}
          onChange={(columns) => onChange({ columns })}
        />
        {definition.eventKey && (
          <div className="px-3 py-2">
            <button
              type="button"
              className="text-deep cursor-pointer underline"
              onClick={() => onChange({ eventKey: '' })}
            >
              No event key
            </button>{' '}
            <span className="text-soft">
              Calls of Standard Webhooks and CloudEvents are told apart by their own ids then; of others, the
              same one twice is two.
            </span>
          </div>
        )}
      </Card>
      {definition.columns.length > 0 && (
        <Card
          title="Latest calls as rows"
          aside={
            sample.held > 0 && (
              <Pill tone="held">
                ‖ {count(sample.held)} of {count(sample.calls)} would be held
              </Pill>
            )
          }
        >
          <CallRows sample={sample} definition={definition} />
        </Card>
      )}
    </>
  );
}
