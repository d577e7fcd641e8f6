import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import { api, ok } from '../../api/client';
import type { Source } from '../../api/types';
import { ArchiveButton } from '../../components/ArchiveButton';
import { Loaded } from '../../components/Loaded';
import { Ago } from '../../components/Moment';
import { Card, Failure, Input, Labelled, Page, Select } from '../../components/ui';
import { FilesOfSource } from '../filesets/FilesOfSource';
import { ReceiversOfSource } from '../receivers/ReceiversOfSource';
import { Act, Editable } from '../session/Editors';
import { another, BEGINNING, CALLS, chosen, PLACES, same, trimmed } from './addresses';
import { DatabaseFields, useDialects } from './DatabaseFields';
import { FilePlaceFields } from './FilePlaceFields';
import { Reach } from './Reach';

export function SourcePage() {
  const { id = 'new' } = useParams();
  const source = useQuery({
    queryKey: ['source', id],
    queryFn: () => ok(api.GET('/api/sources/{id}', { params: { path: { id: Number(id) } } })),
    enabled: id !== 'new',
  });
  if (id === 'new') return <SourceForm key="new" />;
  return (
    <Loaded title="Source" query={source}>
      {(found) => <SourceForm key={id} source={found} />}
    </Loaded>
  );
}

function SourceForm({ source }: { source?: Source }) {
  const client = useQueryClient();
  const navigate = useNavigate();
  const [name, setName] = useState(source?.name ?? '');
  const [address, setAddress] = useState<Source['address']>(source?.address ?? BEGINNING);
  const [password, setPassword] = useState('');
  const dialects = useDialects();
  const own = source?.kind === 'people';
  const ofCalls = address.kind === 'calls';
  const ofFiles = address.kind !== 'database' && !ofCalls;
  const ofDatabase = address.kind === 'database';
  const locked = address.kind === 'database' || address.kind === 'file-server';
  const save = useMutation({
    mutationFn: () => {
      const body = { name, address: trimmed(address), password: password || undefined };
      if (own) return ok(api.POST('/api/sources/{id}/test', { params: { path: { id: source.id } } }));
      return source
        ? ok(api.PUT('/api/sources/{id}', { params: { path: { id: source.id } }, body }))
        : ok(api.POST('/api/sources', { body }));
    },
    onSuccess: (saved) => {
      client.setQueryData(['source', String(saved.id)], saved);
      void client.invalidateQueries({ queryKey: ['sources'] });
      void navigate(`/sources/${saved.id}`, { replace: true });
    },
  });
  // A password belongs to the address it was given for; the server refuses to send it elsewhere.
  const moved = source !== undefined && !same(trimmed(address), source.address);
  const known = dialects.data ?? [];
  const kind = chosen(address);
  return (
    <Page
      title={source?.name ?? 'New source'}
      of={
        own
          ? "Remitto's own database, separate login"
          : source
            ? ofCalls
              ? 'calls of other tools'
              : `${ofFiles ? 'files' : 'database'}, ${source.product}`
            : undefined
      }
      note={
        source?.testedAt && (
          <>
            Tested <Ago at={source.testedAt} />
          </>
        )
      }
      actions={
        <>
          {source && !own && (
            <ArchiveButton
              kind="source"
              name={source.name}
              consequence="Nothing more is read from it. Its password stays encrypted."
              to="/sources"
              archive={() => ok(api.DELETE('/api/sources/{id}', { params: { path: { id: source.id } } }))}
            />
          )}
          <Act kind="primary" disabled={save.isPending} onClick={() => save.mutate()}>
            {save.isPending ? 'Testing' : own ? 'Test' : 'Save and test'}
          </Act>
        </>
      }
    >
      <Failure error={save.error} />
      {source?.problem && <Failure error={new Error(source.problem)} />}
      <div className="grid grid-cols-1 items-start gap-4 lg:grid-cols-[330px_minmax(0,1fr)]">
        <Card title="Connection" className="pb-4">
          <Editable>
            <fieldset disabled={own} className="contents">
              <div className="grid grid-cols-2 gap-3 px-4 pt-2">
                <div className="col-span-2">
                  <Labelled label="Name" note="A name that tells it apart from similar connections.">
                    <Input className="w-full" value={name} onChange={(e) => setName(e.target.value)} />
                  </Labelled>
                </div>
                <div className="col-span-2">
                  <Labelled
                    label="Kind of source"
                    note={
                      !ofDatabase
                        ? `Rows of ${ofFiles ? 'files' : 'calls'} are kept in tables of Remitto.`
                        : 'Other databases can be added by an administrator with a driver and a dialect file.'
                    }
                  >
                    <Select
                      className="w-full"
                      value={kind}
                      onChange={(e) => setAddress(another(address, e.target.value, known))}
                    >
                      {ofDatabase && !known.some((one) => one.name === kind) && (
                        <option value={kind}>{source?.product ?? 'PostgreSQL'}</option>
                      )}
                      {(!source || ofDatabase) && (
                        <optgroup label="Databases">
                          {known.map((one) => (
                            <option key={one.name} value={one.name}>
                              {one.title}
                            </option>
                          ))}
                        </optgroup>
                      )}
                      {(!source || ofCalls) && (
                        <optgroup label="Calls">
                          <option value={CALLS.kind}>{CALLS.title}</option>
                        </optgroup>
                      )}
                      {(!source || ofFiles) && (
                        <optgroup label="Files">
                          {PLACES.filter((one) => !source || one.kind === source.address.kind).map((one) => (
                            <option key={one.kind} value={one.kind}>
                              {one.title}
                            </option>
                          ))}
                        </optgroup>
                      )}
                    </Select>
                  </Labelled>
                </div>
                {address.kind === 'database' ? (
                  <DatabaseFields address={address} onChange={setAddress} />
                ) : address.kind === 'calls' ? (
                  <p className="text-soft col-span-2 m-0">
                    Each receiver of this source has an address and a secret of its own. They are made once it
                    is saved.
                  </p>
                ) : (
                  <FilePlaceFields address={address} onChange={setAddress} />
                )}
                {locked && (
                  <Labelled label={address.kind === 'file-server' ? 'Password or private key' : 'Password'}>
                    <Input
                      className="w-full"
                      type="password"
                      autoComplete="new-password"
                      placeholder={source ? (moved ? 'enter it again' : 'unchanged') : ''}
                      value={password}
                      onChange={(e) => setPassword(e.target.value)}
                    />
                  </Labelled>
                )}
              </div>
            </fieldset>
          </Editable>
        </Card>
        <div className="flex min-w-0 flex-col gap-4">
          {source?.address.kind === 'calls' ? (
            <ReceiversOfSource source={source} />
          ) : source && source.address.kind !== 'database' ? (
            <FilesOfSource source={source} />
          ) : source?.report ? (
            <Reach source={source} report={source.report} />
          ) : (
            <Card className="px-4 py-6">
              <p className="text-soft m-0">
                {ofCalls
                  ? 'Once it is saved, this shows the receivers that other tools call.'
                  : ofFiles
                    ? 'After the test, this shows the files that are there and the file sets that read them.'
                    : 'After the test, this shows which tables the login can read, their estimated row counts, what it cannot read, and the GRANT statements for a login with exactly the rights it needs.'}
              </p>
            </Card>
          )}
        </div>
      </div>
    </Page>
  );
}
