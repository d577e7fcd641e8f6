import { useInfiniteQuery, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate, useSearchParams } from 'react-router';
import { api, ok } from '../../api/client';
import type { HeldGroup, HeldRecord } from '../../api/types';
import { count, counted } from '../../components/format';
import { Ago } from '../../components/Moment';
import { ExplainLink } from '../explain/ExplainLink';
import { Button, Card, Empty, Failure, Input, Page, Select, Skeleton, TD, TH } from '../../components/ui';
import { Act } from '../session/Editors';
import { at } from '../../components/base';

/** The field a group is about: the one whose value is held, or the one for whose sake the record is. */
function fieldOf(group: HeldGroup): string {
  return group.field || group.about;
}

function Choose({
  label,
  every,
  value,
  options,
  onChange,
}: {
  label: string;
  every: string;
  value: string;
  options: [string, string][];
  onChange: (value: string) => void;
}) {
  const distinct = [...new Map(options.filter(([key]) => key)).entries()].sort((a, b) =>
    a[1].localeCompare(b[1]),
  );
  return (
    <Select
      aria-label={label}
      className="min-w-0 flex-1"
      value={value}
      onChange={(event) => onChange(event.target.value)}
    >
      <option value="">{every}</option>
      {distinct.map(([key, word]) => (
        <option key={key} value={key}>
          {word}
        </option>
      ))}
    </Select>
  );
}

/** The values that hold records, each with how often; one chosen narrows the list to its records. */
function ReasonsOf({
  group,
  open,
  chosen,
  onChoose,
}: {
  group: HeldGroup;
  open: boolean;
  chosen: string;
  onChoose: (reason: string) => void;
}) {
  const shown = open ? group.reasons : group.reasons.slice(0, 1);
  const more = group.differentReasons - shown.length;
  return (
    <ul className="m-0 mb-1 list-none px-3" aria-label={`Most frequent: ${group.title}`}>
      {shown.map((one) => (
        <li key={one.reason}>
          {open ? (
            <button
              type="button"
              aria-pressed={chosen === one.reason}
              className="hover:bg-sunk aria-pressed:bg-held-on flex min-h-6 w-full cursor-pointer justify-between gap-3 rounded px-1 text-left"
              onClick={() => onChoose(one.reason)}
            >
              <span className="wrap-anywhere">{one.reason}</span>
              <span className="font-mono">{count(one.records)}</span>
            </button>
          ) : (
            <span className="text-soft flex justify-between gap-3 px-1">
              <span className="wrap-anywhere">{one.reason}</span>
              <span className="font-mono">{count(one.records)}</span>
            </span>
          )}
        </li>
      ))}
      {more > 0 && <li className="text-soft px-1">and {counted(more, 'other reason')}</li>}
    </ul>
  );
}

export function HeldPage() {
  const client = useQueryClient();
  const navigate = useNavigate();
  const [params, setParams] = useSearchParams();
  const [find, setFind] = useState('');
  const routeId = Number(params.get('route') ?? 0);
  const code = params.get('code') ?? '';
  const field = params.get('field') ?? '';
  const overview = useQuery({ queryKey: ['held'], queryFn: () => ok(api.GET('/api/held')) });
  const records = useInfiniteQuery({
    queryKey: ['held-records', routeId, code, field, find],
    initialPageParam: 0,
    queryFn: ({ pageParam }) =>
      ok(
        api.GET('/api/held/records', { params: { query: { routeId, code, field, find, after: pageParam } } }),
      ),
    getNextPageParam: (page) => page.next,
  });
  const [chosen, setChosen] = useState<string[]>([]);
  const settled = () => {
    setChosen([]);
    void client.invalidateQueries({ queryKey: ['held'] });
    void client.invalidateQueries({ queryKey: ['held-records'] });
    void client.invalidateQueries({ queryKey: ['line'] });
  };
  const path = { params: { path: { id: routeId } } };
  const retry = useMutation({
    mutationFn: () => ok(api.POST('/api/routes/{id}/held/retry', { ...path, body: { code, keys: chosen } })),
    onSuccess: (started) => {
      settled();
      void navigate(`/manifests/${started.runId}`);
    },
  });
  const word = useMutation({
    mutationFn: (arrived: boolean) =>
      ok(api.POST('/api/routes/{id}/held/unknown', { ...path, body: { keys: chosen, arrived } })),
    onSuccess: settled,
  });
  const some = chosen.length > 0 ? counted(chosen.length, 'record') : 'all of them';
  if (!overview.data)
    return (
      <Page title="Held">
        <Failure error={overview.error} />
        {!overview.error && <Skeleton />}
      </Page>
    );
  const { groups, total } = overview.data;
  const remedies = groups.find((group) => group.code === code)?.remedies ?? [];
  const narrow = (changes: Record<string, string>) => {
    setChosen([]);
    setParams(
      Object.fromEntries(
        Object.entries({ route: routeId ? String(routeId) : '', field, code, ...changes }).filter(
          ([, value]) => value,
        ),
      ),
    );
  };
  const shown = groups.filter(
    (group) => (!routeId || group.routeId === routeId) && (!field || fieldOf(group) === field),
  );
  return (
    <Page
      title="Held"
      note={`${count(total)} records or values are held, each until its cause is resolved. Nothing is lost.`}
    >
      {groups.length === 0 ? (
        <Empty>
          Nothing is held. A record is held with a reason when sending it would be wrong, and released when
          the cause is resolved.
        </Empty>
      ) : (
        <div className="grid grid-cols-1 lg:grid-cols-[320px_minmax(0,1fr)] items-start gap-4">
          <Card title="By reason">
            <div className="flex gap-2 px-3">
              <Choose
                label="Route"
                every="every route"
                value={routeId ? String(routeId) : ''}
                options={groups.map((group) => [String(group.routeId), group.route])}
                onChange={(route) => narrow({ route, code: '' })}
              />
              <Choose
                label="Field"
                every="every field"
                value={field}
                options={groups.map((group) => [fieldOf(group), fieldOf(group)])}
                onChange={(chosenField) => narrow({ field: chosenField, code: '' })}
              />
            </div>
            <ul className="m-0 list-none p-2">
              {shown.map((group) => {
                const active = group.routeId === routeId && group.code === code;
                return (
                  <li key={group.routeId + group.code}>
                    <button
                      type="button"
                      aria-pressed={active}
                      className={`flex w-full cursor-pointer justify-between gap-3 rounded-lg px-3 py-2 text-left ${active ? 'bg-held-on' : 'hover:bg-sunk'}`}
                      onClick={() => narrow({ route: String(group.routeId), code: active ? '' : group.code })}
                    >
                      <span>
                        <span className="text-held font-semibold">{group.title}</span>
                        <span className="text-soft block">
                          {group.route} to {group.destination}, since <Ago at={group.firstSeen} />
                        </span>
                      </span>
                      <span className="font-mono font-semibold">{count(group.records)}</span>
                    </button>
                    <ReasonsOf
                      group={group}
                      open={active}
                      chosen={find}
                      onChoose={(reason) => setFind(reason === find ? '' : reason)}
                    />
                  </li>
                );
              })}
            </ul>
          </Card>
          <Card>
            <div className="border-hairline flex items-center gap-3 border-b px-3 py-2">
              <Input
                aria-label="Find a held record"
                placeholder="Find by key, name or reason"
                className="w-[260px]"
                value={find}
                onChange={(e) => setFind(e.target.value)}
              />
              {remedies.includes('TRY_AGAIN') && (
                <Act disabled={retry.isPending} onClick={() => retry.mutate()}>
                  Try {some} again now
                </Act>
              )}
              {remedies.includes('SAY_WHETHER_IT_ARRIVED') && (
                <>
                  <Act disabled={word.isPending} onClick={() => word.mutate(true)}>
                    It arrived: {some}
                  </Act>
                  <Act disabled={word.isPending} onClick={() => word.mutate(false)}>
                    Send {some} again
                  </Act>
                </>
              )}
              <span className="ml-auto flex gap-3">
                {(['csv', 'jsonl'] as const).map((ending) => (
                  <a
                    key={ending}
                    className="text-deep"
                    href={at(
                      `/api/held/held.${ending}?routeId=${routeId}&code=${encodeURIComponent(code)}&field=${encodeURIComponent(field)}`,
                    )}
                  >
                    {ending === 'csv' ? 'CSV' : 'JSON Lines'}
                  </a>
                ))}
              </span>
            </div>
            <Failure error={records.error ?? retry.error ?? word.error} />
            <table className="w-full border-collapse">
              <thead>
                <tr>
                  {code && (
                    <th className={TH}>
                      <span className="sr-only">Choose</span>
                    </th>
                  )}
                  <th className={TH}>Record</th>
                  <th className={TH}>Reason</th>
                  <th className={TH}>Manifest</th>
                  <th className={TH}>Last seen</th>
                  <th className={`${TH} text-right`}>Runs</th>
                </tr>
              </thead>
              <tbody>
                {(records.data?.pages ?? []).flatMap((page) =>
                  page.records.map((record) => (
                    <tr key={record.id}>
                      {code && (
                        <td className={TD}>
                          <input
                            type="checkbox"
                            aria-label={`Choose ${record.key}`}
                            checked={chosen.includes(record.key)}
                            onChange={(e) =>
                              setChosen(
                                e.target.checked
                                  ? [...chosen, record.key]
                                  : chosen.filter((key) => key !== record.key),
                              )
                            }
                          />
                        </td>
                      )}
                      <td className={TD}>
                        <span className="font-mono">{record.key}</span>
                        <div className="text-soft">{record.label}</div>
                      </td>
                      <td className={TD}>
                        <span className="text-held">{record.reason}</span>
                        <div className="text-soft">
                          {record.route}
                          {record.field ? `, value of ${record.field}` : ', whole record'}
                        </div>
                        {record.values.length > 0 && <Values record={record} />}
                      </td>
                      <td className={TD}>
                        <Link
                          to={`/manifests/${record.runId}?find=${encodeURIComponent(record.key)}`}
                          className="text-deep"
                        >
                          no. {record.runId}
                        </Link>
                      </td>
                      <td className={`${TD} whitespace-nowrap`}>
                        <Ago at={record.lastSeen} />
                        <div className="text-soft">
                          first <Ago at={record.firstSeen} />
                        </div>
                      </td>
                      <td className={`${TD} text-right font-mono`}>{record.tries}</td>
                    </tr>
                  )),
                )}
              </tbody>
            </table>
            {records.data?.pages.every((page) => page.records.length === 0) && (
              <p className="text-soft m-0 px-4 py-3">No held record matches.</p>
            )}
            {records.hasNextPage && (
              <div className="p-3">
                <Button onClick={() => void records.fetchNextPage()}>Show more</Button>
              </div>
            )}
          </Card>
        </div>
      )}
    </Page>
  );
}

/** What the record was to receive when it was last seen. */
function Values({ record }: { record: HeldRecord }) {
  return (
    <details>
      <summary className="text-deep cursor-pointer">values at that time</summary>
      <table className="mt-1 border-collapse">
        <tbody>
          {record.values.map((value) => (
            <tr key={value.field}>
              <th scope="row" className="text-soft pr-3 text-left font-normal">
                {value.field}
              </th>
              <td className="font-mono">
                {value.old ? <del className="text-removed">{value.old}</del> : ''} {value.fresh ?? ''}
              </td>
              <td className="pl-3">
                <ExplainLink routeId={record.routeId} recordKey={record.key} field={value.field} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </details>
  );
}
