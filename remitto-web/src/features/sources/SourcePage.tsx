import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import { api, ok } from '../../api/client';
import type { Source } from '../../api/types';
import { count, counted } from '../../components/format';
import { Loaded } from '../../components/Loaded';
import { Ago } from '../../components/Moment';
import { ArchiveButton } from '../../components/ArchiveButton';
import { Card, Failure, Input, Labelled, Page, Pill, Select, TD, TH } from '../../components/ui';
import { LoginRights } from './LoginRights';
import { Act, Editable } from '../session/Editors';

const POSTGRESQL = 'postgresql';

type Tls = Source['address']['tls'];

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
  const [host, setHost] = useState(source?.address.host ?? '');
  const [port, setPort] = useState(String(source?.address.port ?? 5432));
  const [database, setDatabase] = useState(source?.address.database ?? '');
  const [user, setUser] = useState(source?.address.user ?? '');
  const [password, setPassword] = useState('');
  const [tls, setTls] = useState<Tls>(source?.address.tls ?? 'REQUIRED');
  const [dialect, setDialect] = useState(source?.address.dialect ?? POSTGRESQL);
  const dialects = useQuery({
    queryKey: ['sources', 'dialects'],
    queryFn: () => ok(api.GET('/api/sources/dialects')),
    staleTime: Infinity,
  });
  const known = dialects.data?.find((one) => one.name === dialect);
  const own = source?.kind === 'people';
  const save = useMutation({
    mutationFn: () => {
      const body = {
        name,
        address: {
          host: host.trim(),
          port: Number(port),
          database: database.trim(),
          user: user.trim(),
          tls,
          dialect: dialect === POSTGRESQL ? undefined : dialect,
        },
        password: password || undefined,
      };
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
  const choose = (name: string) => {
    const next = dialects.data?.find((one) => one.name === name);
    // A port that somebody wrote stays; the usual one of the former database goes with it.
    if (next && Number(port) === known?.port) setPort(String(next.port));
    if (next && !next.tls) setTls('OFF');
    setDialect(name);
  };
  const report = source?.report;
  // A password belongs to the address it was given for; the server refuses to send it elsewhere.
  const moved =
    source !== undefined &&
    (host.trim() !== source.address.host ||
      Number(port) !== source.address.port ||
      database.trim() !== source.address.database ||
      user.trim() !== source.address.user ||
      dialect !== (source.address.dialect ?? POSTGRESQL) ||
      tls !== source.address.tls);
  return (
    <Page
      title={source?.name ?? 'New source'}
      of={
        own ? "Remitto's own database, separate login" : source ? `database, ${source.product}` : 'database'
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
      <div className="grid grid-cols-1 lg:grid-cols-[330px_minmax(0,1fr)] items-start gap-4">
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
                    label="Kind of database"
                    note="Others can be added by an administrator with a driver and a dialect file."
                  >
                    <Select className="w-full" value={dialect} onChange={(e) => choose(e.target.value)}>
                      {!known && <option value={dialect}>{source?.product ?? 'PostgreSQL'}</option>}
                      {dialects.data?.map((one) => (
                        <option key={one.name} value={one.name}>
                          {one.title}
                        </option>
                      ))}
                    </Select>
                  </Labelled>
                </div>
                <Labelled label="Host">
                  <Input className="w-full" value={host} onChange={(e) => setHost(e.target.value)} />
                </Labelled>
                <Labelled label="Port">
                  <Input
                    className="w-full"
                    inputMode="numeric"
                    value={port}
                    onChange={(e) => setPort(e.target.value)}
                  />
                </Labelled>
                <Labelled label="Database">
                  <Input className="w-full" value={database} onChange={(e) => setDatabase(e.target.value)} />
                </Labelled>
                <Labelled label="TLS">
                  <Select
                    className="w-full"
                    value={tls}
                    disabled={known && !known.tls}
                    onChange={(e) => setTls(e.target.value as Tls)}
                  >
                    <option value="OFF">off</option>
                    <option value="REQUIRED">required</option>
                    <option value="VERIFIED">required, certificate checked</option>
                  </Select>
                </Labelled>
                <Labelled label="User">
                  <Input
                    className="w-full"
                    autoComplete="off"
                    value={user}
                    onChange={(e) => setUser(e.target.value)}
                  />
                </Labelled>
                <Labelled label="Password">
                  <Input
                    className="w-full"
                    type="password"
                    autoComplete="new-password"
                    placeholder={source ? (moved ? 'enter it again' : 'unchanged') : ''}
                    value={password}
                    onChange={(e) => setPassword(e.target.value)}
                  />
                </Labelled>
              </div>
            </fieldset>
          </Editable>
        </Card>
        <div className="flex flex-col gap-4">
          {report ? (
            <>
              <Card
                title="What it can reach"
                aside={`${report.server}, as ${report.user}, ${report.encrypted ? 'encrypted' : 'not encrypted'}`}
              >
                {source && <LoginRights source={source} beyond={report.warnings} />}
                <table className="w-full border-collapse">
                  <thead>
                    <tr>
                      <th className={TH}>Schema and table</th>
                      <th className={`${TH} text-right`}>Rows (estimate)</th>
                      <th className={TH}>Columns</th>
                      <th className={TH}>Reading</th>
                    </tr>
                  </thead>
                  <tbody>
                    {report.schemas.flatMap((schema) =>
                      schema.tables.length === 0
                        ? [
                            <tr key={schema.name}>
                              <td className={`${TD} font-mono`}>{schema.name}</td>
                              <td className={TD} />
                              <td className={`${TD} text-soft`}>no visible tables</td>
                              <td className={TD}>
                                {!schema.usable && <Pill tone="warn">schema not usable</Pill>}
                              </td>
                            </tr>,
                          ]
                        : schema.tables.map((table) => (
                            <tr key={`${schema.name}.${table.name}`}>
                              <td className={`${TD} font-mono`}>
                                <span className="text-soft">{schema.name}.</span>
                                {table.name}
                              </td>
                              <td className={`${TD} text-right font-mono`}>
                                {table.rowEstimate < 0 ? '–' : count(table.rowEstimate)}
                              </td>
                              <td
                                className={TD}
                                title={table.columns.map((column) => column.name).join(', ')}
                              >
                                {counted(table.columns.length, 'column')}
                              </td>
                              <td className={TD}>
                                {table.readable ? (
                                  <Pill tone="good">readable</Pill>
                                ) : (
                                  <Pill tone="warn">not readable</Pill>
                                )}
                              </td>
                            </tr>
                          )),
                    )}
                  </tbody>
                </table>
              </Card>
              {report.grants.length > 0 && (
                <Card title="Statements for a read-only login">
                  <pre
                    tabIndex={0}
                    aria-label="Grant statements"
                    className="m-0 overflow-x-auto px-4 py-3 font-mono text-[0.75rem]"
                  >
                    {report.grants.join('\n')}
                  </pre>
                </Card>
              )}
            </>
          ) : (
            <Card className="px-4 py-6">
              <p className="text-soft m-0">
                After the test, this shows which tables the login can read, their estimated row counts, what
                it cannot read, and the GRANT statements for a login with exactly the rights it needs.
              </p>
            </Card>
          )}
        </div>
      </div>
    </Page>
  );
}
