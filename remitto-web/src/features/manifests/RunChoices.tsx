import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useNavigate } from 'react-router';
import { api, ok } from '../../api/client';
import type { Run, RunChoice, Verdict } from '../../api/types';
import { count } from '../../components/format';
import { Button } from '../../components/ui';

/** Which part of a manifest that a guard stopped is approved. */
export interface ApprovedPart {
  verdicts: Verdict[];
  without: number[];
  /** How many lines that are. */
  lines: number;
}

type Action = RunChoice['action'];

/** They look as what is meant to be done next. */
const MAIN: Action[] = ['SEND', 'APPROVE', 'PREPARE_NEW'];

function label(action: Action, run: Run, part: ApprovedPart): string {
  switch (action) {
    case 'SEND':
      return run.state === 'SUSPENDED'
        ? `Send the ${count(run.outcomes.PLANNED ?? 0)} left`
        : `Send ${count(run.counts.added + run.counts.changed + run.counts.removed)}`;
    case 'APPROVE':
      return `Approve and send ${count(part.lines)}`;
    case 'DISCARD':
      return 'Discard';
    case 'PREPARE_AGAIN':
      return 'Prepare again';
    case 'CANCEL':
      return 'Cancel';
    case 'UNDO':
      return 'Undo';
    case 'PREPARE_NEW':
      return 'Prepare manifest';
  }
}

async function carryOut(action: Action, run: Run, part: ApprovedPart): Promise<number> {
  const path = { params: { path: { id: run.id } } };
  switch (action) {
    case 'SEND':
      return (await ok(api.POST('/api/runs/{id}/send', path))).id;
    case 'APPROVE':
      return (
        await ok(
          api.POST('/api/runs/{id}/approve', {
            ...path,
            body: { verdicts: part.verdicts, without: part.without },
          }),
        )
      ).id;
    case 'DISCARD':
      return (await ok(api.POST('/api/runs/{id}/discard', path))).id;
    case 'CANCEL':
      return (await ok(api.POST('/api/runs/{id}/cancel', path))).id;
    case 'PREPARE_AGAIN':
      return (await ok(api.POST('/api/runs/{id}/prepare-again', path))).runId;
    case 'UNDO':
      return (await ok(api.POST('/api/runs/{id}/undo', path))).runId;
    case 'PREPARE_NEW':
      return (await ok(api.POST('/api/routes/{id}/runs', { params: { path: { id: run.routeId } } }))).runId;
  }
}

/** Does one thing to a run, and goes to the manifest that comes of it. */
export function useRunAction(run: Run, part: ApprovedPart) {
  const client = useQueryClient();
  const navigate = useNavigate();
  return useMutation({
    mutationFn: (action: Action) => carryOut(action, run, part),
    onSuccess: (id) => {
      if (id !== run.id) void navigate(`/manifests/${id}`);
    },
    onSettled: () => {
      void client.invalidateQueries({ queryKey: ['run', run.id] });
      void client.invalidateQueries({ queryKey: ['lines', run.id] });
    },
  });
}

/** A button for each thing that may be done with the run now; what this user may not do says why. */
export function RunChoices({
  run,
  choices,
  part,
  act,
}: {
  run: Run;
  choices: RunChoice[];
  part: ApprovedPart;
  act: ReturnType<typeof useRunAction>;
}) {
  const inOrder = [
    ...choices.filter((one) => !MAIN.includes(one.action)),
    ...choices.filter((one) => MAIN.includes(one.action)),
  ];
  return inOrder.map(({ action, allowed, why }) => (
    <Button
      key={action}
      kind={MAIN.includes(action) ? 'primary' : undefined}
      disabled={!allowed || act.isPending || (action === 'APPROVE' && part.lines === 0)}
      title={why}
      onClick={() => act.mutate(action)}
    >
      {label(action, run, part)}
    </Button>
  ));
}

/** Why some of it cannot be done, each reason once. @param lines of the part that would be approved */
export function WhyNot({ choices, lines = 1 }: { choices: RunChoice[]; lines?: number }) {
  const reasons = [...new Set(choices.filter((one) => !one.allowed).map((one) => one.why))];
  if (lines === 0 && choices.some((one) => one.action === 'APPROVE' && one.allowed))
    reasons.push('No line is left to approve. Select at least one, or discard the manifest.');
  if (reasons.length === 0) return null;
  return <p className="text-soft mt-0 mb-3">{reasons.join(' ')}</p>;
}
