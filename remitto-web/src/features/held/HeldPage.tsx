import { useInfiniteQuery, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { api, ok } from '../../api/client';
import { count, counted } from '../../components/format';
import { Ago } from '../../components/Moment';
import { Button, Card, Empty, Failure, Input, Page, Skeleton, TD, TH } from '../../components/ui';

/** A group's reason without the record it happens to quote. */
function title(code: string, field: string): string {
  if (code === 'refused') return 'Refused by the destination';
  if (code === 'no-key') return 'The key is empty';
  if (code === 'doubled-key') return 'More than one row has the key';
  if (code === 'two-matches') return 'Two records there match';
  if (code === 'claimed') return 'The record there belongs to another';
  if (code === 'deleted-there') return 'Deleted in the destination';
  if (code === 'key-differs') return 'The key there is another';
  if (code.startsWith('unusable:')) return `${code.slice(9)} cannot be used, so the record is held`;
  if (code.startsWith('empty:')) return `${code.slice(6)} is empty, so the record is held`;
  return `Value for ${field} cannot be used`;
}

export function HeldPage() {
  const client = useQueryClient();
  const [params, setParams] = useSearchParams();
  const [find, setFind] = useState('');
  const routeId = Number(params.get('route') ?? 0);
  const code = params.get('code') ?? '';
  const overview = useQuery({ queryKey: ['held'], queryFn: () => ok(api.GET('/api/held')) });
  const records = useInfiniteQuery({
    queryKey: ['held-records', routeId, code, find],
    initialPageParam: 0,
    queryFn: ({ pageParam }) =>
      ok(api.GET('/api/held/records', { params: { query: { routeId, code, find, after: pageParam } } })),
    getNextPageParam: (page) => page.next,
  });
  const retry = useMutation({
    mutationFn: (group: { routeId: number; code: string }) =>
      ok(api.POST('/api/held/retry', { body: group })),
    onSuccess: () => client.invalidateQueries({ queryKey: ['held'] }),
  });
  if (!overview.data)
    return (
      <Page title="Held">
        <Failure error={overview.error} />
        {!overview.error && <Skeleton />}
      </Page>
    );
  const { groups, total } = overview.data;
  return (
    <Page
      title="Held"
      note={`${count(total)} records or values kept back, each until its cause is gone. Nothing here is lost.`}
    >
      {groups.length === 0 ? (
        <Empty>
          Nothing is held. A record is held here with its reason when sending it would be wrong, and released
          by itself once the cause is fixed.
        </Empty>
      ) : (
        <div className="grid grid-cols-[320px_minmax(0,1fr)] items-start gap-4">
          <Card title="By reason">
            <ul className="m-0 list-none p-2">
              {groups.map((group) => {
                const active = group.routeId === routeId && group.code === code;
                return (
                  <li key={group.routeId + group.code}>
                    <button
                      type="button"
                      aria-pressed={active}
                      className={`flex w-full cursor-pointer justify-between gap-3 rounded-lg px-3 py-2 text-left ${active ? 'bg-held-on' : 'hover:bg-sunk'}`}
                      onClick={() =>
                        setParams(active ? {} : { route: String(group.routeId), code: group.code })
                      }
                    >
                      <span>
                        <span className="text-held font-semibold">{title(group.code, group.field)}</span>
                        <span className="text-soft block">
                          {group.route} to {group.destination}, since <Ago at={group.firstSeen} />
                        </span>
                      </span>
                      <span className="font-mono font-semibold">{count(group.records)}</span>
                    </button>
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
              {code && (
                <>
                  <Button disabled={retry.isPending} onClick={() => retry.mutate({ routeId, code })}>
                    Judge anew with the next run
                  </Button>
                  <span role="status" className="text-soft">
                    {retry.data && `${counted(retry.data.records, 'record')} will be judged anew.`}
                  </span>
                </>
              )}
            </div>
            <Failure error={records.error ?? retry.error} />
            <table className="w-full border-collapse">
              <thead>
                <tr>
                  <th className={TH}>Record</th>
                  <th className={TH}>Why it is held</th>
                  <th className={TH}>Manifest</th>
                  <th className={TH}>Seen</th>
                  <th className={`${TH} text-right`}>Times</th>
                </tr>
              </thead>
              <tbody>
                {(records.data?.pages ?? []).flatMap((page) =>
                  page.records.map((record) => (
                    <tr key={record.id}>
                      <td className={TD}>
                        <span className="font-mono">{record.key}</span>
                        <div className="text-soft">{record.label}</div>
                      </td>
                      <td className={TD}>
                        <span className="text-held">{record.reason}</span>
                        <div className="text-soft">
                          {record.route}
                          {record.field ? `, only the value of ${record.field}` : ', the whole record'}
                        </div>
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
