import { Link } from 'react-router';
import type { RunsOfRoute } from '../../api/types';
import { counted, moment } from '../../components/format';
import { Ago } from '../../components/Moment';
import { stateOf, type StateLook } from '../manifests/state';

const TONES: Record<StateLook['tone'], string> = {
  good: 'bg-added',
  held: 'bg-held',
  bad: 'bg-removed',
  warn: 'bg-changed',
  plain: 'bg-soft',
};

type RecentRun = RunsOfRoute['runs'][number];

export function lookOf(run: RecentRun): StateLook {
  return stateOf({
    state: run.state,
    suspension: run.suspension,
    sentInPart: run.held > 0,
    counts: {
      read: 0,
      leaving: 0,
      added: run.moving,
      changed: 0,
      removed: 0,
      unchanged: 0,
      held: run.held,
      leftOut: 0,
    },
  });
}

/** What the latest runs came to, counted by their state, the newest kind first. */
export function runWords(runs: RecentRun[]): string {
  const labels = new Map<string, number>();
  for (const run of [...runs].reverse()) {
    const { label } = lookOf(run);
    labels.set(label, (labels.get(label) ?? 0) + 1);
  }
  return [...labels].map(([label, times]) => `${times} ${label.toLowerCase()}`).join(', ');
}

/** The latest runs of a route as bars: how much each sent, and how it ended. */
export function RunBars({ of }: { of: RunsOfRoute | undefined }) {
  const last = of?.runs.at(-1);
  if (!of || !last) return <span className="text-soft">never run</span>;
  const words = `${counted(of.runs.length, 'run')}: ${runWords(of.runs)}`;
  return (
    <>
      <Link
        to={`/manifests/${last.runId}`}
        title={`${words}. The latest: no. ${last.runId}, ${moment(last.startedAt)}.`}
        className="inline-flex h-6 min-w-6 items-end gap-[3px] no-underline"
      >
        <span className="sr-only">{words}</span>
        {of.runs.map((run) => (
          <span
            key={run.runId}
            aria-hidden
            className={`w-[5px] rounded-[1px] ${TONES[lookOf(run).tone]}`}
            style={{ height: `${4 + Math.min(20, Math.round(Math.log10(run.moving + 1) * 4))}px` }}
          />
        ))}
      </Link>
      <div className={`whitespace-nowrap ${of.behind ? 'text-removed' : 'text-soft'}`}>
        {of.behind ? (
          'behind schedule'
        ) : of.lastSentAt ? (
          <>
            sent <Ago at={of.lastSentAt} />
          </>
        ) : (
          'never sent'
        )}
      </div>
    </>
  );
}
