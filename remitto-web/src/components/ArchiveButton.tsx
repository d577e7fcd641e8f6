import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useNavigate } from 'react-router';
import { AskFirst } from './AskFirst';
import { Button } from './ui';
import { Editors } from '../features/session/Editors';

interface Props {
  /** What it is, as in "dataset". */
  kind: string;
  name: string;
  /** What archiving means here, one sentence. */
  consequence: string;
  archive: () => Promise<unknown>;
  /** Destination go afterwards. */
  to: string;
}

/** Archives something after asking once. What uses it is named by the server, which then refuses. */
export function ArchiveButton({ kind, name, consequence, archive, to }: Props) {
  const client = useQueryClient();
  const navigate = useNavigate();
  const act = useMutation({
    mutationFn: archive,
    onSuccess: async () => {
      await navigate(to);
      await client.invalidateQueries();
    },
  });
  return (
    <Editors>
      <AskFirst
        trigger={<Button kind="quiet">Archive</Button>}
        title={`Archive ${kind} ${name}`}
        act={`Archive ${kind}`}
        pending={act.isPending}
        error={act.error}
        onAct={() => act.mutate()}
        onOpenChange={() => act.reset()}
      >
        {consequence} Past manifests and the journal stay readable.
      </AskFirst>
    </Editors>
  );
}
