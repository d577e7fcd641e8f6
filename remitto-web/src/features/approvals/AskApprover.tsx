import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Popover } from 'radix-ui';
import { useState } from 'react';
import { api, ok } from '../../api/client';
import type { ApprovalRequest } from '../../api/types';
import { Ago } from '../../components/Moment';
import { Button, Failure, Labelled } from '../../components/ui';
import { Editors } from '../session/Editors';

interface Subject {
  kind: ApprovalRequest['kind'];
  subjectId: number;
  /** Of a route; 0 for a manifest. */
  version: number;
}

const QUERY = {
  queryKey: ['approval-requests'],
  queryFn: () => ok(api.GET('/api/approval-requests')),
};

function useAsked({ kind, subjectId, version }: Subject) {
  return useQuery(QUERY).data?.find(
    (one) => one.kind === kind && one.subjectId === subjectId && one.version === version,
  );
}

/** Who asked for the approval, when, and with what words; nothing where nobody asked. */
export function AskedForApproval(subject: Subject) {
  const asked = useAsked(subject);
  if (!asked) return null;
  return (
    <p className="rounded-card border-hairline bg-card mt-0 mb-3 border px-4 py-2 wrap-anywhere">
      {asked.askedBy} asked for approval <Ago at={asked.askedAt} />
      {asked.note ? `: ${asked.note}` : '.'}
    </p>
  );
}

/** Asks somebody who may approve; they find it on the departures page. */
export function AskApprover(subject: Subject) {
  const client = useQueryClient();
  const asked = useAsked(subject);
  const [note, setNote] = useState('');
  const [open, setOpen] = useState(false);
  const ask = useMutation({
    mutationFn: () => ok(api.POST('/api/approval-requests', { body: { ...subject, note } })),
    onSuccess: async () => {
      setOpen(false);
      await client.invalidateQueries({ queryKey: QUERY.queryKey });
      await client.invalidateQueries({ queryKey: ['departures'] });
    },
  });
  return (
    <Editors>
      <Popover.Root open={open} onOpenChange={setOpen}>
        <Popover.Trigger asChild>
          <Button>{asked ? 'Ask again' : 'Ask an approver'}</Button>
        </Popover.Trigger>
        <Popover.Portal>
          <Popover.Content
            align="end"
            sideOffset={4}
            aria-label="Ask an approver"
            className="rounded-card border-hairline bg-card z-50 flex w-[320px] flex-col gap-3 border p-4 text-[0.8125rem] shadow-lg"
          >
            <Failure error={ask.error} />
            <Labelled label="What should they know? (optional)">
              <textarea
                className="rounded-button border-hairline bg-card text-ink w-full border px-2 py-1.5"
                rows={3}
                maxLength={500}
                value={note}
                onChange={(e) => setNote(e.target.value)}
              />
            </Labelled>
            <span className="text-soft">Approvers see this on the departures page until it is settled.</span>
            <Button kind="primary" disabled={ask.isPending} onClick={() => ask.mutate()}>
              Ask an approver
            </Button>
          </Popover.Content>
        </Popover.Portal>
      </Popover.Root>
    </Editors>
  );
}
