import { useInfiniteQuery, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useParams, useSearchParams } from 'react-router';
import { api, ok } from '../../api/client';
import type { FindingKind, Stocktake } from '../../api/types';
import { count, counted } from '../../components/format';
import { Loaded } from '../../components/Loaded';
import { Ago } from '../../components/Moment';
import { Button, Card, Failure, Page, Pill, TD, TH } from '../../components/ui';
import { ExplainLink } from '../explain/ExplainLink';
import { FillRates } from './FillRates';
import { useStocktake } from './TakeStock';
import { ACTIONS, KINDS } from './words';
import { Act } from '../session/Editors';

export function StocktakePage() {
  const { id = '0' } = useParams();
  const stocktake = useQuery({
    queryKey: ['stocktake', Number(id)],
    queryFn: () => ok(api.GET('/api/stocktakes/{id}', { params: { path: { id: Number(id) } } })),
    refetchInterval: (query) => (query.state.data?.state === 'COUNTING' ? 700 : false),
  });
  return (
    <Loaded title="Stocktake" query={stocktake}>
      {(found) => <Found stocktake={found} />}
    </Loaded>
  );
}

function Found({ stocktake }: { stocktake: Stocktake }) {
  const [params, setParams] = useSearchParams();
  const first = stocktake.groups.find((group) => group.found > 0)?.kind ?? 'EDITED';
  const kind = (params.get('kind') ?? first) as FindingKind;
  const again = useStocktake(stocktake.destinationId, stocktake.object);
  return (
    <Page
      title="Stocktake"
      of={`of ${stocktake.destination}, ${stocktake.object}`}
      note={
        <>
          Started <Ago at={stocktake.startedAt} /> by {stocktake.startedBy}.{' '}
          {stocktake.since ? (
            <>
              Compares what changed in the destination since <Ago at={stocktake.since} />, after{' '}
              <Link to={`/stocktakes/${stocktake.baseId}`} className="text-deep underline">
                stocktake {stocktake.baseId}
              </Link>
              , with what it acknowledged. Earlier findings remain until they are decided. Doubles are found
              by a full stocktake only.
            </>
          ) : (
            'Compares what the destination holds with what it acknowledged.'
          )}{' '}
          <Link to={`/destinations/${stocktake.destinationId}`} className="text-deep underline">
            Open destination
          </Link>
        </>
      }
      actions={
        <>
          {stocktake.changesCanFollow && (
            <Act disabled={again.isPending} onClick={() => again.mutate(true)}>
              Check changes
            </Act>
          )}
          <Act
            kind="primary"
            disabled={again.isPending || stocktake.state === 'COUNTING'}
            onClick={() => again.mutate(false)}
          >
            Run stocktake again
          </Act>
        </>
      }
    >
      <Failure error={again.error} />
      {stocktake.state === 'FAILED' || stocktake.state === 'INTERRUPTED' ? (
        <Failure error={new Error(stocktake.message)} />
      ) : null}
      <div
        className="rounded-card border-hairline bg-card mb-4 flex flex-wrap items-stretch overflow-hidden border"
        aria-label="Counts"
      >
        <Figure
          value={stocktake.there}
          words={
            stocktake.state === 'COUNTING'
              ? 'counted so far'
              : stocktake.since
                ? 'changed'
                : 'in the destination'
          }
        />
        <Figure value={stocktake.known} words="known to routes" />
        {stocktake.groups.map((group) => (
          <button
            key={group.kind}
            type="button"
            aria-pressed={kind === group.kind}
            className={`border-hairline flex-1 cursor-pointer border-r px-4 py-2.5 text-left last:border-0 ${kind === group.kind ? 'bg-sunk' : 'hover:bg-sunk'}`}
            onClick={() => setParams({ kind: group.kind }, { replace: true })}
          >
            <div
              className={`font-mono text-[1.25rem] leading-7 font-semibold ${group.open > 0 ? 'text-held' : 'text-soft'}`}
            >
              {count(group.found)}
            </div>
            <div>
              {KINDS[group.kind].word}
              {group.found > group.open && (
                <span className="text-soft">, {count(group.found - group.open)} decided</span>
              )}
            </div>
          </button>
        ))}
      </div>
      <div
        className={`grid grid-cols-1 items-start gap-4 ${stocktake.since ? '' : 'lg:grid-cols-[290px_minmax(0,1fr)]'}`}
      >
        {stocktake.since === undefined && <FillRates stocktake={stocktake} />}
        <Findings key={kind} stocktake={stocktake} kind={kind} />
      </div>
    </Page>
  );
}

function Figure({ value, words }: { value: number; words: string }) {
  return (
    <div className="border-hairline flex-1 border-r px-4 py-2.5">
      <div className="font-mono text-[1.25rem] leading-7 font-semibold">{count(value)}</div>
      <div>{words}</div>
    </div>
  );
}

function Findings({ stocktake, kind }: { stocktake: Stocktake; kind: FindingKind }) {
  const client = useQueryClient();
  const [chosen, setChosen] = useState<number[]>([]);
  const findings = useInfiniteQuery({
    queryKey: ['findings', stocktake.id, kind, stocktake.state],
    initialPageParam: 0,
    queryFn: ({ pageParam }) =>
      ok(
        api.GET('/api/stocktakes/{id}/findings', {
          params: { path: { id: stocktake.id }, query: { kind, after: pageParam } },
        }),
      ),
    getNextPageParam: (page) => page.next,
  });
  const decide = useMutation({
    mutationFn: (action: 'ADOPT' | 'OVERWRITE' | 'FORGET' | 'LEAVE') =>
      ok(
        api.POST('/api/stocktakes/{id}/decisions', {
          params: { path: { id: stocktake.id } },
          body: { kind, action, numbers: chosen },
        }),
      ),
    onSuccess: () => {
      setChosen([]);
      void client.invalidateQueries({ queryKey: ['findings', stocktake.id] });
      void client.invalidateQueries({ queryKey: ['stocktake', stocktake.id] });
    },
  });
  const rows = (findings.data?.pages ?? []).flatMap((page) => page.findings);
  const open = stocktake.groups.find((group) => group.kind === kind)?.open ?? 0;
  const some = chosen.length > 0 ? count(chosen.length) : `all ${count(open)}`;
  return (
    <Card>
      <div className="border-hairline flex flex-wrap items-center gap-2 border-b px-3 py-2">
        <span className="mr-auto max-w-[46ch]">{KINDS[kind].means}</span>
        {open > 0 &&
          ACTIONS[kind].map(({ action, text }) => (
            <Act key={action} disabled={decide.isPending} onClick={() => decide.mutate(action)}>
              {text}: {some}
            </Act>
          ))}
      </div>
      <Failure error={findings.error ?? decide.error} />
      {decide.data && (
        <p role="status" className="text-soft m-0 px-3 pt-2">
          Decided about {counted(decide.data.findings, 'finding')}. Nothing is sent now; the next run applies
          it.
        </p>
      )}
      {rows.length === 0 ? (
        <p className="text-soft px-4 py-6">
          {stocktake.state === 'COUNTING' ? 'Counting.' : `None: ${KINDS[kind].none}`}
        </p>
      ) : (
        <table className="w-full border-collapse">
          <thead>
            <tr>
              <th className={TH}>
                <span className="sr-only">Choose</span>
              </th>
              <th className={TH}>Record in the destination</th>
              <th className={TH}>Our record</th>
              <th className={TH}>Field</th>
              <th className={TH}>What differs</th>
              <th className={TH}>Decided</th>
            </tr>
          </thead>
          <tbody>
            {rows.map((row) => (
              <tr key={row.number}>
                <td className={TD}>
                  {!row.settled && (
                    <input
                      type="checkbox"
                      aria-label={`Choose record ${row.remoteId} ${row.field}`}
                      checked={chosen.includes(row.number)}
                      onChange={(e) =>
                        setChosen(
                          e.target.checked
                            ? [...chosen, row.number]
                            : chosen.filter((number) => number !== row.number),
                        )
                      }
                    />
                  )}
                </td>
                <td className={`${TD} font-mono`}>{row.remoteId}</td>
                <td className={TD}>
                  <span className="font-mono">{row.key}</span> {row.label}
                  {row.route && <div className="text-soft">{row.route}</div>}
                </td>
                <td className={`${TD} font-mono`}>{row.field}</td>
                <td className={`${TD} font-mono`}>
                  {kind === 'EDITED' && (
                    <>
                      <del className="text-removed">{row.known || '(empty)'}</del>{' '}
                      <span className="text-added">{row.there || '(empty)'}</span>
                    </>
                  )}
                  {kind === 'DOUBLE' && row.there}
                </td>
                <td className={TD}>
                  {row.settled && <Pill>{row.settled}</Pill>}{' '}
                  {kind === 'EDITED' && (
                    <ExplainLink
                      destinationId={stocktake.destinationId}
                      object={stocktake.object}
                      remoteId={row.remoteId}
                      field={row.field}
                    />
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {findings.hasNextPage && (
        <div className="p-3">
          <Button onClick={() => void findings.fetchNextPage()}>Show more</Button>
        </div>
      )}
    </Card>
  );
}
