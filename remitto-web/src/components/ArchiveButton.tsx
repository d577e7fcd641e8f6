import { useMutation, useQueryClient } from '@tanstack/react-query';
import { AlertDialog } from 'radix-ui';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { Button, Failure } from './ui';

interface Props {
  /** What it is, as in "dataset". */
  kind: string;
  name: string;
  /** What archiving means here, one sentence. */
  consequence: string;
  archive: () => Promise<unknown>;
  /** Where to go afterwards. */
  to: string;
}

/** Archives something after asking once. What uses it is named by the server, which then refuses. */
export function ArchiveButton({ kind, name, consequence, archive, to }: Props) {
  const client = useQueryClient();
  const navigate = useNavigate();
  const [open, setOpen] = useState(false);
  const act = useMutation({
    mutationFn: archive,
    onSuccess: async () => {
      await navigate(to);
      await client.invalidateQueries();
    },
  });
  return (
    <AlertDialog.Root
      open={open}
      onOpenChange={(next) => {
        setOpen(next);
        act.reset();
      }}
    >
      <AlertDialog.Trigger asChild>
        <Button kind="quiet">Archive</Button>
      </AlertDialog.Trigger>
      <AlertDialog.Portal>
        <AlertDialog.Overlay className="fixed inset-0 z-20 bg-black/40" />
        <AlertDialog.Content className="rounded-card border-hairline bg-card fixed top-1/2 left-1/2 z-30 w-[440px] max-w-[92vw] -translate-x-1/2 -translate-y-1/2 border p-5">
          <AlertDialog.Title className="m-0 text-[17px] font-semibold">
            Archive {kind} {name}
          </AlertDialog.Title>
          <AlertDialog.Description className="text-soft my-3">
            {consequence} Past manifests and the journal stay readable.
          </AlertDialog.Description>
          <Failure error={act.error} />
          <div className="mt-4 flex justify-end gap-2">
            <AlertDialog.Cancel asChild>
              <Button kind="quiet">Cancel</Button>
            </AlertDialog.Cancel>
            <Button kind="primary" disabled={act.isPending} onClick={() => act.mutate()}>
              Archive {kind}
            </Button>
          </div>
        </AlertDialog.Content>
      </AlertDialog.Portal>
    </AlertDialog.Root>
  );
}
