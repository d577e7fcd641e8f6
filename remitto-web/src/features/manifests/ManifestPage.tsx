import { useState } from 'react';
import { Link, useParams, useSearchParams } from 'react-router';
import type { Run, RunNews, Verdict } from '../../api/types';
import { count, counted, duration, moment, secondsBetween } from '../../components/format';
import { Loaded } from '../../components/Loaded';
import { Ago } from '../../components/Moment';
import { Button, Card, Failure, Input, Page, Pill } from '../../components/ui';
import { VERDICTS } from '../../components/verdicts';
import { ApprovePart } from './ApprovePart';
import { Comparison } from './Comparison';
import { type Kept, Lines } from './Lines';
import { ListOutlook } from './ListOutlook';
import { type ApprovedPart, RunChoices, useRunAction, WhyNot } from './RunChoices';
import { stateOf } from './state';
import { useRun } from './useRun';
import { useRunChoices } from './useRunChoices';
import { useMay } from '../session/useSession';

const STRIP: Verdict[] = ['ADDED', 'CHANGED', 'REMOVED', 'UNCHANGED', 'HELD', 'LEFT_OUT'];
const OUTCOMES: [string, string][] = [
  ['ACKNOWLEDGED', 'acknowledged'],
  ['REFUSED', 'refused'],
  ['MOVED_ON', 'moved on, not sent'],
  ['FORBIDDEN', 'may not be sent to any more'],
  ['PLANNED', 'still to be sent'],
  ['SENDING', 'being sent'],
  ['UNKNOWN', 'outcome unknown'],
  ['CANCELLED', 'not sent, cancelled'],
];

const TRIGGERS: Partial<Record<Run['trigger'], string>> = {
  TRIAL: 'One record tried',
  RETRY: 'Held records tried again',
  UNDO: 'An undo, drawn up',
};

function sumOf(run: Run, verdict: Verdict): number {
  const sums: Record<Verdict, number> = {
    ADDED: run.sums.added,
    CHANGED: run.sums.changed,
    REMOVED: run.sums.removed,
    UNCHANGED: run.sums.unchanged,
    HELD: run.sums.held,
    LEFT_OUT: run.sums.leftOut,
  };
  return sums[verdict];
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
  const sends = run.sums.added + run.sums.changed + run.sums.removed;
  const goes = (one: Verdict) => part.length === 0 || part.includes(one);
  const approved =
    (part.length === 0 ? sends : part.reduce((sum, one) => sum + sumOf(run, one), 0)) -
    without.filter((line) => goes(line.verdict)).length;
  const look = stateOf(run);
  const waits = ['DRAWN', 'STOPPED', 'HALTED'].includes(run.state);
  const choices = useRunChoices(run);
  const approves: ApprovedPart = {
    verdicts: part,
    without: without.map((line) => line.number),
    lines: approved,
  };
  const act = useRunAction(run, approves);
  const mayApprove = choices.some((one) => one.action === 'APPROVE' && one.allowed);
  const mostChanged = Math.max(1, ...run.fieldCounts.map((one) => one.written));
  const drawn = run.drawnAt !== undefined;
  return (
    <Page
      title={`Manifest ${run.id}`}
      of={`${run.route} to ${run.destination}, ${run.object}`}
      note={
        <>
          {TRIGGERS[run.trigger] ?? (run.state === 'SKIPPED' ? 'Was due' : 'Drawn up')}{' '}
          <Ago at={run.drawnAt ?? run.startedAt} /> by {run.startedBy}
          {drawn && ` from ${counted(run.sums.read, 'row')} against ${count(run.knownBefore)} known`}, route
          version {run.routeVersion}.{' '}
          {waits && run.state !== 'HALTED' && <strong className="text-held">Nothing has been sent.</strong>}
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
              Its lines were removed on {moment(run.linesRemovedAt)}, since they are kept no longer; its sums
              stay.
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
                href={`/api/runs/${run.id}/manifest.csv`}
              >
                CSV
              </a>
              <a
                className="rounded-button border-hairline bg-card text-ink border px-3 py-1.5 font-semibold no-underline"
                href={`/api/runs/${run.id}/manifest.jsonl`}
              >
                JSON Lines
              </a>
            </>
          )}
          <RunChoices run={run} choices={choices} part={approves} act={act} />
        </>
      }
    >
      <Failure error={act.error} />
      <WhyNot choices={choices} />
      {drawn && <ListOutlook runId={run.id} state={run.state} />}
      {run.undoOf !== undefined && (
        <p className="rounded-card border-hairline bg-card mt-0 mb-3 border px-4 py-2">
          This takes back{' '}
          <Link to={`/manifests/${run.undoOf}`} className="text-deep underline">
            manifest {run.undoOf}
          </Link>
          : old values return, additions go, removals come back. What others changed since is left alone.
        </p>
      )}
      {news?.progress && <Progress news={news} state={run.state} />}
      <div
        className="rounded-card border-hairline bg-card mb-4 flex items-stretch overflow-hidden border"
        aria-label="Verdicts"
      >
        {STRIP.filter((one) => one !== 'LEFT_OUT' || run.sums.leftOut > 0).map((one) => {
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
            <div className={`mt-1 wrap-anywhere ${run.state === 'STOPPED' ? 'text-removed' : 'text-soft'}`}>
              {run.message}
            </div>
          )}
        </div>
      </div>
      <div className="grid grid-cols-1 lg:grid-cols-[250px_minmax(0,1fr)] items-start gap-4">
        <div className="flex flex-col gap-3">
          {run.state === 'STOPPED' && (
            <ApprovePart
              run={run}
              part={part}
              onChange={setPart}
              without={without}
              onTakeBack={() => setWithout([])}
            />
          )}
          {waits && <Comparison run={run} />}
          <Card title="Which fields change">
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
            <Card title="What became of the lines">
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
              {counted(run.missingRows, 'known record')} had no row in this read.{' '}
              {run.sums.leaving > 0
                ? `${count(run.sums.leaving)} of them have a line here, since this route acts on who leaves.`
                : 'This route leaves them as they are.'}
            </Card>
          )}
          {run.adopted > 0 && (
            <Card className="px-4 py-3">{counted(run.adopted, 'record')} found there and adopted.</Card>
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
              What moves or is held
            </Button>
            <Button
              aria-pressed={everything}
              className={everything ? 'border-soft bg-sunk' : ''}
              onClick={() => only({ verdict: 'ALL', field: '', state: '' })}
            >
              Every line
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
                run.state === 'STOPPED' && mayApprove ? { goes, without, onChange: setWithout } : undefined
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
              {run.state === 'DRAWING' ? 'The manifest is being drawn up.' : run.message}
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
            <>All {count(total)} are answered; the known state follows</>
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
