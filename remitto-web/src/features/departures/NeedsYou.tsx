import { useMutation, useQueryClient } from '@tanstack/react-query';
import { api, ok } from '../../api/client';
import type { Board } from '../../api/types';
import { ago, counted } from '../../components/format';
import { Ago } from '../../components/Moment';
import { ButtonLink, Card } from '../../components/ui';
import { stateOf } from '../manifests/state';
import { Act } from '../session/Editors';

const FRAME = 'rounded-card border-hairline bg-card border border-l-4 px-4 py-3';

type Unexpected = Board['unexpected'][number];

/** Each dataset once, with what stops routes first, as the board has it. */
function byDataset(unexpected: Unexpected[]): [Unexpected, ...Unexpected[]][] {
  const found = new Map<number, [Unexpected, ...Unexpected[]]>();
  for (const one of unexpected) {
    const known = found.get(one.datasetId);
    if (known) known.push(one);
    else found.set(one.datasetId, [one]);
  }
  return [...found.values()];
}

/** Manifests that wait, destinations that do not answer, datasets that are not as expected, and fields that changed. */
export function NeedsYou({ board }: { board: Board }) {
  const client = useQueryClient();
  const seen = useMutation({
    mutationFn: (id: number) =>
      ok(api.POST('/api/destination-changes/{id}/seen', { params: { path: { id } } })),
    onSuccess: () => client.invalidateQueries({ queryKey: ['departures'] }),
  });
  const now = new Date(board.now).getTime();
  if (
    board.approvals.length === 0 &&
    board.waiting.length === 0 &&
    board.circuits.length === 0 &&
    board.unexpected.length === 0 &&
    board.changes.length === 0
  )
    return (
      <Card className="px-4 py-3">
        <p className="text-soft m-0">Nothing needs attention.</p>
      </Card>
    );
  return (
    <>
      {board.circuits.map((circuit) => (
        <section key={circuit.destinationId} className={`${FRAME} border-l-buoy`}>
          <h3 className="m-0 text-[0.8125rem] font-semibold">{circuit.destination} does not answer</h3>
          <p className="text-soft my-1 break-words">
            It stopped responding {ago(circuit.openSince, now)}: {circuit.reason}. Calls are paused
            {circuit.tryAt && `; the next attempt is ${ago(circuit.tryAt, now)}`}, and sending resumes by
            itself.
          </p>
          <ButtonLink to={`/destinations/${circuit.destinationId}`}>Open destination</ButtonLink>
        </section>
      ))}
      {board.approvals.map((one) => (
        <section key={`${one.kind} ${one.subjectId}`} className={`${FRAME} border-l-buoy`}>
          <h3 className="m-0 text-[0.8125rem] font-semibold">{one.askedBy} asks for approval</h3>
          <p className="text-soft my-1 break-words">
            For {one.subject}, <Ago at={one.askedAt} />
            {one.note && `: ${one.note}`}
          </p>
          <ButtonLink
            to={one.kind === 'MANIFEST' ? `/manifests/${one.subjectId}` : `/routes/${one.subjectId}`}
          >
            {one.kind === 'MANIFEST' ? `Open manifest ${one.subjectId}` : 'Open route'}
          </ButtonLink>
        </section>
      ))}
      {board.waiting.map((run) => (
        <section key={run.id} className={`${FRAME} border-l-held`}>
          <h3 className="m-0 text-[0.8125rem] font-semibold">
            {run.route}: {stateOf(run).label.toLowerCase()}
          </h3>
          <p className="text-soft my-1 break-words">
            <Ago at={run.finishedAt ?? run.preparedAt ?? run.startedAt} />
            {run.message && `: ${run.message}`}
          </p>
          <ButtonLink to={`/manifests/${run.id}`}>Open manifest {run.id}</ButtonLink>
        </section>
      ))}
      {byDataset(board.unexpected).map(([first, ...others]) => (
        <section
          key={first.datasetId}
          className={`${FRAME} ${first.response === 'STOP_ROUTES' ? 'border-l-buoy' : 'border-l-held'}`}
        >
          <h3 className="m-0 text-[0.8125rem] font-semibold">
            {first.dataset} does not meet {counted(others.length + 1, 'expectation')}
          </h3>
          <p className="text-soft my-1 break-words">
            Expected that {first.expectation}. {first.detail} Not met since <Ago at={first.since} />.
            {others.length > 0 && ` ${counted(others.length, 'other expectation')} not met.`}
          </p>
          <ButtonLink to={`/datasets/${first.datasetId}`}>Open dataset</ButtonLink>
        </section>
      ))}
      {board.changes.map((change) => (
        <section key={change.id} className={`${FRAME} border-l-buoy`}>
          <h3 className="m-0 text-[0.8125rem] font-semibold">A field changed in {change.destination}</h3>
          <p className="text-soft my-1">
            <span className="font-mono">{change.object}</span>: {change.text}.{' '}
            {change.affected > 0
              ? `${counted(change.affected, 'known record')} affected.`
              : 'No known record is affected.'}
          </p>
          <span className="flex gap-2">
            <ButtonLink to={`/destinations/${change.destinationId}`}>Open destination</ButtonLink>
            <Act kind="quiet" disabled={seen.isPending} onClick={() => seen.mutate(change.id)}>
              Dismiss
            </Act>
          </span>
        </section>
      ))}
    </>
  );
}
