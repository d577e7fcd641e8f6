import { useState } from 'react';
import { Link, useParams, useSearchParams } from 'react-router';
import type { Run, RunNews, Verdict } from '../../api/types';
import { count, counted, duration, moment, secondsBetween } from '../../components/format';
import { Loaded } from '../../components/Loaded';
import { Ago } from '../../components/Moment';
import { Button, Card, Failure, Input, Page, Pill } from '../../components/ui';
import { VERDICTS } from '../../components/verdicts';
import { AskApprover, AskedForApproval } from '../approvals/AskApprover';
import { ApprovePart } from './ApprovePart';
import { Comparison } from './Comparison';
import { type Kept, Lines } from './Lines';
import { ListOutlook } from './ListOutlook';
import { type ApprovedPart, RunChoices, useRunAction, WhyNot } from './RunChoices';
import { stateOf } from './state';
import { useRun } from './useRun';
import { useRunChoices } from './useRunChoices';
import { useMay } from '../session/useSession';
import { at } from '../../components/base';

const STRIP: Verdict[] = ['ADDED', 'CHANGED', 'REMOVED', 'UNCHANGED', 'HELD', 'LEFT_OUT'];
const OUTCOMES: [string, string][] = [
  ['ACKNOWLEDGED', 'acknowledged'],
  ['REFUSED', 'refused'],
  ['MOVED_ON', 'changed meanwhile, not sent'],
  ['FORBIDDEN', 'no longer allowed to be sent'],
  ['PLANNED', 'still to be sent'],
  ['SENDING', 'being sent'],
  ['UNKNOWN', 'outcome unknown'],
  ['CANCELLED', 'not sent, cancelled'],
];

const TRIGGERS: Partial<Record<Run['trigger'], string>> = {
  TRIAL: 'Single record',
  RETRY: 'Held records retried',
  UNDO: 'Undo',
};

function sumOf(run: Run, verdict: Verdict): number {
  const counts: Record<Verdict, number> = {
    ADDED: run.counts.added,
    CHANGED: run.counts.changed,
    REMOVED: run.counts.removed,
    UNCHANGED: run.counts.unchanged,
    HELD: run.counts.held,
    LEFT_OUT: run.counts.leftOut,
  };
  return counts[verdict];
}

export function ManifestPage() {
  const { id = '0' } = useParams();
  const { run, news } = useRun(Number(id));
  return (
    <Loaded title={`Manifest ${id}`} query={run}>
      {(found) => <Manifest run={found} news={news} />}
    </Loaded>
  );
}

function Manifest({ run, news }: { run: Run; news?: RunNews }) {
  const mayDownload = useMay('DOWNLOAD_PERSONAL_VALUES');
  const [params, setParams] = useSearchParams();
  const verdict = params.get('verdict') ?? '';
  const everything = verdict === 'ALL';
  const field = params.get('field') ?? '';
  const state = params.get('state') ?? '';
  const code = params.get('code') ?? '';
  const find = params.get('find') ?? '';
  const [typed, setTyped] = useState(find);
  const only = (changes: Record<string, string>) => {
    const next = new URLSearchParams(params);
    for (const [key, value] of Object.entries({ code: '', ...changes })) {
      if (value) next.set(key, value);
      else next.delete(key);
    }
    setParams(next, { replace: true });
  };
  const [part, setPart] = useState<Verdict[]>([]);
  const [without, setWithout] = useState<Kept[]>([]);
  const sends = run.counts.added + run.counts.changed + run.counts.removed;
  const goes = (one: Verdict) => part.length === 0 || part.includes(one);
  const approved =
    (part.length === 0 ? sends : part.reduce((sum, one) => sum + sumOf(run, one), 0)) -
    without.filter((line) => goes(line.verdict)).length;
  const look = stateOf(run);
  const waits = ['READY', 'AWAITING_APPROVAL', 'SUSPENDED'].includes(run.state);
  const choices = useRunChoices(run);
  const approves: ApprovedPart = {
    verdicts: part,
    without: without.map((line) => line.number),
    lines: approved,
  };
  const act = useRunAction(run, approves);
  const mayApprove = choices.some((one) => one.action === 'APPROVE' && one.allowed);
  const subject = { kind: 'MANIFEST' as const, subjectId: run.id, version: 0 };
  const needsOther = choices.some((one) => one.action === 'APPROVE' && !one.allowed);
  const mostChanged = Math.max(1, ...run.fieldCounts.map((one) => one.written));
  const drawn = run.preparedAt !== undefined;
  return (
    <Page
      title={`Manifest ${run.id}`}
      of={`${run.route} to ${run.destination}, ${run.object}`}
      note={
        <>
          {TRIGGERS[run.trigger] ?? (run.state === 'SKIPPED' ? 'Due' : 'Prepared')}{' '}
          <Ago at={run.preparedAt ?? run.startedAt} /> by {run.startedBy}
          {drawn &&
            ` from ${counted(run.counts.read, 'row')}, ${count(run.knownBefore)} records known before`}
          , route version {run.routeVersion}.{' '}
          {waits && run.state !== 'SUSPENDED' && (
            <strong className="text-held">Nothing has been sent.</strong>
          )}
          {run.sentAt && (
            <>
              Sent <Ago at={run.sentAt} />
              {run.approvedBy && ` by ${run.approvedBy}`}
              {run.state === 'SENT' &&
                run.answeredAt &&
                `, in ${duration(secondsBetween(run.sentAt, run.answeredAt))}`}
              .
            </>
          )}{' '}
          {run.linesRemovedAt && (
            <>
              Its lines were deleted on {moment(run.linesRemovedAt)}, after the retention period. Its counts
              remain.
            </>
          )}
        </>
      }
      actions={
        <>
          {drawn && mayDownload && !run.linesRemovedAt && (
            <>
              <a
                className="rounded-button border-hairline bg-card text-ink border px-3 py-1.5 font-semibold no-underline"
                href={at(`/api/runs/${run.id}/manifest.csv`)}
              >
                CSV
              </a>
              <a
                className="rounded-button border-hairline bg-card text-ink border px-3 py-1.5 font-semibold no-underline"
                href={at(`/api/runs/${run.id}/manifest.jsonl`)}
              >
                JSON Lines
              </a>
            </>
          )}
          {needsOther && <AskApprover {...subject} />}
          <RunChoices run={run} choices={choices} part={approves} act={act} />
        </>
      }
    >
      <Failure error={act.error} />
      <WhyNot choices={choices} lines={approves.lines} />
      <AskedForApproval {...subject} />
      {drawn && <ListOutlook runId={run.id} state={run.state} />}
      {run.undoOf !== undefined && (
        <p className="rounded-card border-hairline bg-card mt-0 mb-3 border px-4 py-2">
          This undoes{' '}
          <Link to={`/manifests/${run.undoOf}`} className="text-deep underline">
            manifest {run.undoOf}
          </Link>
          : old values are restored, added records are removed and removed records are added again. Values
          that others changed since are kept.
        </p>
      )}
      {news?.progress && <Progress news={news} state={run.state} />}
      <div
        className="rounded-card border-hairline bg-card mb-4 flex flex-wrap items-stretch overflow-hidden border"
        aria-label="Verdicts"
      >
        {STRIP.filter((one) => one !== 'LEFT_OUT' || run.counts.leftOut > 0).map((one) => {
          const active = verdict === one;
          return (
            <button
              key={one}
              type="button"
              aria-pressed={active}
              className={`border-hairline flex-1 cursor-pointer border-r px-4 py-2.5 text-left last:border-0 ${active ? VERDICTS[one].on : 'hover:bg-sunk'}`}
              onClick={() => only({ verdict: active ? '' : one, field: '', state: '' })}
            >
              <div className={`font-mono text-[1.25rem] leading-7 font-semibold ${VERDICTS[one].text}`}>
                {VERDICTS[one].sign} {count(sumOf(run, one))}
              </div>
              <div>{one === 'UNCHANGED' ? 'unchanged, not sent' : VERDICTS[one].word}</div>
            </button>
          );
        })}
        <div className="flex w-[270px] flex-col justify-center px-4 py-2">
          <div>
            <Pill tone={look.tone}>{look.label}</Pill>
          </div>
          {run.message && (
            <div
              className={`mt-1 wrap-anywhere ${run.state === 'AWAITING_APPROVAL' ? 'text-removed' : 'text-soft'}`}
            >
              {run.message}
            </div>
          )}
        </div>
      </div>
      <div className="grid grid-cols-1 lg:grid-cols-[250px_minmax(0,1fr)] items-start gap-4">
        <div className="flex flex-col gap-3">
          {run.state === 'AWAITING_APPROVAL' && (
            <ApprovePart
              run={run}
              part={part}
              onChange={setPart}
              without={without}
              onTakeBack={() => setWithout([])}
            />
          )}
          {waits && <Comparison run={run} />}
          <Card title="Fields that change">
            <ul className="m-0 list-none px-4 pb-3">
              {run.fieldCounts.map((one) => (
                <li key={one.field}>
                  <button
                    type="button"
                    aria-pressed={field === one.field}
                    className={`w-full cursor-pointer rounded px-1 py-1 text-left ${field === one.field ? 'bg-changed-on' : 'hover:bg-sunk'}`}
                    onClick={() => only({ field: field === one.field ? '' : one.field, verdict: '' })}
                  >
                    <span className="flex justify-between">
                      <span>{one.field}</span>
                      <span className="font-mono">
                        {one.held > 0 && <span className="text-held mr-2">‖ {count(one.held)}</span>}
                        {count(one.written)}
                      </span>
                    </span>
                    <span className="bg-sunk mt-0.5 block h-1.5 rounded" aria-hidden>
                      <span
                        className="bg-changed block h-1.5 rounded"
                        style={{ width: `${(100 * one.written) / mostChanged}%` }}
                      />
                    </span>
                  </button>
                </li>
              ))}
              {run.fieldCounts.length === 0 && <li className="text-soft">No field is written.</li>}
            </ul>
          </Card>
          {Object.keys(run.outcomes).length > 0 && (
            <Card title="Outcomes">
              <ul className="m-0 list-none px-4 pb-3">
                {OUTCOMES.filter(([key]) => run.outcomes[key]).map(([key, word]) => (
                  <li key={key}>
                    <button
                      type="button"
                      aria-pressed={state === key}
                      className={`flex w-full cursor-pointer justify-between rounded px-1 py-1 text-left ${state === key ? 'bg-sunk' : 'hover:bg-sunk'}`}
                      onClick={() => only({ state: state === key ? '' : key, verdict: '' })}
                    >
                      <span>{word}</span>
                      <span className="font-mono">{count(run.outcomes[key] ?? 0)}</span>
                    </button>
                  </li>
                ))}
              </ul>
            </Card>
          )}
          {run.missingRows > 0 && (
            <Card className="px-4 py-3">
              {counted(run.missingRows, 'known record')} had no row in this run.{' '}
              {run.counts.leaving > 0
                ? `${count(run.counts.leaving)} of them have a line here, because this route acts on records that leave the dataset.`
                : 'This route leaves them untouched.'}
            </Card>
          )}
          {run.adopted > 0 && (
            <Card className="px-4 py-3">
              {counted(run.adopted, 'record')} found in the destination and adopted.
            </Card>
          )}
          <Card className="px-4 py-3">
            <Link to={`/routes/${run.routeId}`} className="text-deep">
              Open the route
            </Link>
          </Card>
        </div>
        <Card>
          <form
            className="border-hairline flex items-center gap-2 border-b px-3 py-2"
            onSubmit={(event) => {
              event.preventDefault();
              only({ find: typed });
            }}
          >
            <Button
              aria-pressed={!verdict && !field && !state}
              className={!verdict && !field && !state ? 'border-soft bg-sunk' : ''}
              onClick={() => only({ verdict: '', field: '', state: '' })}
            >
              Changes and held records
            </Button>
            <Button
              aria-pressed={everything}
              className={everything ? 'border-soft bg-sunk' : ''}
              onClick={() => only({ verdict: 'ALL', field: '', state: '' })}
            >
              All lines
            </Button>
            {((verdict && !everything) || field || state || code) && (
              <Pill>
                {[
                  verdict && VERDICTS[verdict as Verdict].word,
                  field,
                  state.toLowerCase().replace('_', ' '),
                  code && `for the reason ${code}`,
                ]
                  .filter(Boolean)
                  .join(', ')}
              </Pill>
            )}
            <Input
              id="find-record"
              aria-label="Find a record"
              placeholder="Find by key or name  /"
              className="ml-auto w-[230px]"
              value={typed}
              onChange={(e) => setTyped(e.target.value)}
            />
            <Button type="submit">Find</Button>
          </form>
          {drawn ? (
            <Lines
              runId={run.id}
              place={{ destinationId: run.destinationId, object: run.object }}
              keep={
                run.state === 'AWAITING_APPROVAL' && mayApprove
                  ? { goes, without, onChange: setWithout }
                  : undefined
              }
              filter={{
                verdict: everything ? '' : verdict || (find ? '' : 'MOVES'),
                field,
                state,
                code,
                find,
              }}
            />
          ) : (
            <p className="text-soft px-4 py-6">
              {run.state === 'PREPARING' ? 'Preparing the manifest.' : run.message}
            </p>
          )}
        </Card>
      </div>
    </Page>
  );
}

function Progress({ news, state }: { news: RunNews; state: Run['state'] }) {
  if (!news.progress) return null;
  const { done, total, perSecond } = news.progress;
  const share = total > 0 ? Math.min(1, done / total) : 0;
  const left = total > done && perSecond > 0 ? (total - done) / perSecond : 0;
  return (
    <div className="rounded-card border-hairline bg-card mb-3 border px-4 py-2.5" role="status">
      <div className="mb-1 flex justify-between">
        <span>
          {state === 'SENDING' && total > 0 && done >= total ? (
            <>All {count(total)} answered; recording the results</>
          ) : (
            <>
              {state === 'SENDING' ? 'Sending' : 'Reading'}: {count(done)}
              {total > 0 && ` of ${state === 'SENDING' ? '' : 'about '}${count(total)}`}
            </>
          )}
        </span>
        <span className="text-soft font-mono">
          {count(Math.round(perSecond))}/s{left > 0 && `, ${duration(left)} left`}
        </span>
      </div>
      <div
        className="bg-sunk h-1.5 rounded"
        role="progressbar"
        aria-label="Progress"
        aria-valuemin={0}
        aria-valuemax={100}
        aria-valuenow={Math.round(share * 100)}
      >
        <div className="bg-deep h-1.5 rounded" style={{ width: `${share * 100}%` }} />
      </div>
    </div>
  );
}
