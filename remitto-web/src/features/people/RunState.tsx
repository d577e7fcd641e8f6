import { useMutation, useQueryClient } from '@tanstack/react-query';
import { api, ok } from '../../api/client';
import type { PeopleRun } from '../../api/types';
import { clock, count } from '../../components/format';
import { Failure } from '../../components/ui';
import { Act } from '../session/Editors';

/** What a matching run does now, or why it waits. */
export function RunState({ run }: { run: PeopleRun }) {
  if (!run.finishedAt) {
    return (
      <p role="status" className="rounded-card bg-sunk mt-0 mb-3 px-4 py-2">
        Matching since {clock(run.startedAt)}: {run.stage}
        {run.done > 0 && `, ${count(run.done)} records`}.
      </p>
    );
  }
  if (run.problem) return <Failure error={new Error(run.problem)} />;
  if (run.stopped && !run.decidedBy) return <Waits run={run} reasons={run.stopped.reasons} />;
  return null;
}

function Waits({ run, reasons }: { run: PeopleRun; reasons: string[] }) {
  const client = useQueryClient();
  const onSuccess = () => client.invalidateQueries({ queryKey: ['people'] });
  const path = { params: { path: { id: run.id } } };
  const approve = useMutation({
    mutationFn: () => ok(api.POST('/api/people/runs/{id}/approve', path)),
    onSuccess,
  });
  const discard = useMutation({
    mutationFn: () => ok(api.POST('/api/people/runs/{id}/discard', path)),
    onSuccess,
  });
  return (
    <div role="alert" className="rounded-card border-held bg-held-on mb-3 border px-4 py-3">
      <p className="text-held m-0 font-semibold">A matching run awaits approval. Nothing has changed yet.</p>
      <ul className="my-1 list-disc pl-5">
        {reasons.map((reason) => (
          <li key={reason}>{reason}</li>
        ))}
      </ul>
      <Failure error={approve.error ?? discard.error} />
      <div className="mt-2 flex gap-2">
        <Act disabled={approve.isPending} onClick={() => approve.mutate()}>
          Approve and apply
        </Act>
        <Act kind="quiet" disabled={discard.isPending} onClick={() => discard.mutate()}>
          Discard run
        </Act>
      </div>
    </div>
  );
}
