import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { api, ok } from '../../api/client';
import type { Ends, PreviewedRecord, RouteSpec } from '../../api/types';
import { Ago } from '../../components/Moment';
import { Failure, Skeleton } from '../../components/ui';
import { ExplainLink } from '../explain/ExplainLink';
import { PinRecord } from './rehearsal/PinRecord';
import { Sign, VERDICTS } from '../../components/verdicts';

interface Props {
  routeId: number;
  ends: Ends;
  spec: RouteSpec;
  /** The field whose rule is being looked at. */
  field: string;
  onKey: (key: string) => void;
}

/** One real record, run through the rules as they stand on the page. Nothing is sent. */
export function FollowedRecord({ routeId, ends, spec, field, onKey }: Props) {
  const [find, setFind] = useState('');
  const [at, setAt] = useState(0);
  const found = useQuery({
    queryKey: ['find-records', ends.datasetId, find],
    queryFn: () =>
      ok(
        api.GET('/api/datasets/{id}/records', { params: { path: { id: ends.datasetId }, query: { find } } }),
      ),
    placeholderData: keepPreviousData,
    staleTime: 30_000,
  });
  const records = found.data ?? [];
  const key = records[Math.min(at, records.length - 1)]?.key ?? '';
  useEffect(() => onKey(key), [key, onKey]);
  const followed = useQuery({
    queryKey: ['follow', routeId, ends, spec, key],
    queryFn: () => ok(api.POST('/api/routes/record-preview', { body: { routeId, ends, spec, key } })),
    enabled: key !== '',
    placeholderData: (before) => before,
    staleTime: 5_000,
  });
  const step = (by: number) =>
    setAt((records.length + Math.min(at, records.length - 1) + by) % records.length);
  return (
    <section
      className="rounded-card border-hairline bg-card sticky top-[84px] border"
      aria-label="One record, followed"
    >
      <div className="border-hairline border-b px-4 pt-3 pb-2">
        <div className="flex items-baseline justify-between">
          <h2 className="m-0 text-[0.8125rem] font-semibold">One record, followed</h2>
          {records.length > 1 && (
            <span className="text-soft">
              <button
                type="button"
                aria-label="The record before"
                className="cursor-pointer px-1"
                onClick={() => step(-1)}
              >
                ‹
              </button>
              {Math.min(at, records.length - 1) + 1} of {records.length}
              <button
                type="button"
                aria-label="The next record"
                className="cursor-pointer px-1"
                onClick={() => step(1)}
              >
                ›
              </button>
            </span>
          )}
        </div>
        <input
          aria-label="Choose a row"
          placeholder="Find a row by key, name, e-mail…"
          className="rounded-button border-hairline bg-paper mt-1.5 w-full border px-2 py-1"
          value={find}
          onChange={(e) => {
            setFind(e.target.value);
            setAt(0);
          }}
        />
        <div className="mt-1.5 font-mono">
          {key}{' '}
          {followed.data && key === followed.data.key && (
            <span className="text-soft">{followed.data.label}</span>
          )}
        </div>
      </div>
      <Failure error={found.error ?? followed.error} />
      {records.length === 0 && found.data && <p className="text-soft px-4">No row matches.</p>}
      {!followed.data && key !== '' && !followed.error && <Skeleton rows={4} />}
      {followed.data && <Steps followed={followed.data} field={field} routeId={routeId} />}
      {followed.data && routeId > 0 && <PinRecord routeId={routeId} followed={followed.data} />}
      <p className="text-soft border-hairline m-0 border-t px-4 py-2.5">
        Shows what the rules on the left do to a real record as you edit them. Nothing is sent.
      </p>
    </section>
  );
}

function Steps({ followed, field, routeId }: { followed: PreviewedRecord; field: string; routeId: number }) {
  const chosen = followed.fields.find((candidate) => candidate.field === field);
  const one = chosen ?? (field === '' ? followed.fields[0] : undefined);
  const look = VERDICTS[followed.verdict];
  return (
    <div aria-live="polite">
      {!one && field !== '' && (
        <p className="text-soft border-hairline m-0 border-b px-4 py-2">
          The rule of <span className="font-mono">{field}</span> has an error. Fix it to see its result.
        </p>
      )}
      {one && (
        <ol className="m-0 list-none p-0">
          {one.steps.map((step, i) => (
            <li key={i} className="border-hairline flex gap-3 border-b px-4 py-1.5">
              <span className="w-3 shrink-0 font-mono font-semibold">{i + 1}</span>
              <div className="min-w-0">
                <strong>{step.step}</strong> <span className="text-soft">{step.detail}</span>
                {!step.detail.includes(' is not ') && (
                  <div className="truncate font-mono">
                    {step.value === '' ? <span className="text-soft">empty</span> : step.value}
                  </div>
                )}
              </div>
            </li>
          ))}
          <li className="border-hairline flex gap-3 border-b px-4 py-1.5">
            <span className="w-3 shrink-0 font-mono font-semibold">{one.steps.length + 1}</span>
            <div className="min-w-0">
              <strong>Now in the destination</strong>{' '}
              {followed.remoteId && routeId > 0 && (
                <ExplainLink routeId={routeId} recordKey={followed.key} field={one.field} />
              )}{' '}
              {followed.readAt && (
                <span className="text-soft break-all">
                  {followed.remoteId ? `record ${followed.remoteId}, ` : ''}read <Ago at={followed.readAt} />
                </span>
              )}
              <div className="truncate font-mono">
                {one.old === undefined ? (
                  <span className="text-soft">{followed.remoteId ? 'not read' : 'no matching record'}</span>
                ) : one.old === '' ? (
                  <span className="text-soft">empty</span>
                ) : (
                  one.old
                )}
              </div>
            </div>
          </li>
          <li
            className={`flex gap-3 px-4 py-2 ${followed.verdict === 'LEFT_OUT' ? 'bg-sunk' : one.outcome === 'WRITTEN' ? 'bg-changed-on' : one.outcome === 'HELD' ? 'bg-held-on' : 'bg-sunk'}`}
          >
            <span className="w-3 shrink-0 font-mono font-semibold">{one.steps.length + 2}</span>
            <div className="min-w-0">
              <strong>
                {followed.fields.length > 0 &&
                ['HELD', 'LEFT_OUT'].includes(followed.verdict) &&
                one.outcome !== 'HELD'
                  ? 'Not written'
                  : {
                      WRITTEN: followed.verdict === 'ADDED' ? '+ Written' : '~ Written',
                      SAME: '= Same',
                      KEPT: 'Kept',
                      WAITS: 'Waits',
                      HELD: followed.verdict === 'LEFT_OUT' ? 'Not written' : '‖ Held',
                    }[one.outcome]}
              </strong>{' '}
              <span className="text-soft">{one.reason}</span>
              {one.outcome === 'WRITTEN' && (
                <div className="font-mono break-words">
                  {one.old !== undefined && (
                    <del className="text-removed mr-2">{one.old === '' ? '(empty)' : one.old}</del>
                  )}
                  <span className="text-added">{one.fresh === '' ? '(cleared)' : one.fresh}</span>
                </div>
              )}
            </div>
          </li>
        </ol>
      )}
      <div className={`border-hairline border-t px-4 py-2 ${look.on}`}>
        <Sign verdict={followed.verdict} /> <strong>The record would be {look.word}.</strong>{' '}
        {followed.reason ||
          (followed.verdict === 'CHANGED' &&
            `Fields written: ${followed.fields
              .filter((f) => f.outcome === 'WRITTEN')
              .map((f) => f.field)
              .join(', ')}.`)}
      </div>
    </div>
  );
}
