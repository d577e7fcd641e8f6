import { useMutation, useQueryClient } from '@tanstack/react-query';
import { api, ok } from '../../api/client';
import { AskFirst } from '../../components/AskFirst';
import { counted } from '../../components/format';
import { Button } from '../../components/ui';
import type { LabelKind } from './useLabels';

interface Chosen {
  id: number;
  name: string;
}

interface Props {
  kind: LabelKind;
  /** What they are, one and several. */
  of: [string, string];
  chosen: Chosen[];
}

function archive(kind: LabelKind, id: number): Promise<unknown> {
  const path = { params: { path: { id } } };
  switch (kind) {
    case 'SOURCE':
      return ok(api.DELETE('/api/sources/{id}', path));
    case 'DATASET':
      return ok(api.DELETE('/api/datasets/{id}', path));
    case 'CROSSWALK':
      return ok(api.DELETE('/api/crosswalks/{id}', path));
    case 'AUDIENCE':
      return ok(api.DELETE('/api/audiences/{id}', path));
    case 'ROUTE':
      return ok(api.DELETE('/api/routes/{id}', path));
    case 'DESTINATION':
      return ok(api.DELETE('/api/destinations/{id}', path));
  }
}

/** Archives what is chosen, one after the other; what is still used stays, and says by what. */
export function ArchiveBulk({ kind, of, chosen }: Props) {
  const client = useQueryClient();
  const act = useMutation({
    mutationFn: async () => {
      const refused: { where: string; message: string }[] = [];
      for (const one of chosen) {
        try {
          await archive(kind, one.id);
        } catch (error) {
          refused.push({ where: one.name, message: (error as Error).message });
        }
      }
      if (refused.length > 0)
        throw Object.assign(
          new Error(
            `${counted(refused.length, of[0], of[1])} could not be archived${refused.length === 1 ? `: ${refused[0]?.message}` : '.'}`,
          ),
          { details: refused },
        );
    },
    onSettled: () => client.invalidateQueries(),
  });
  return (
    <AskFirst
      trigger={<Button>Archive</Button>}
      title={`Archive ${counted(chosen.length, of[0], of[1])}`}
      act="Archive"
      pending={act.isPending}
      error={act.error}
      onAct={() => act.mutate()}
      onOpenChange={() => act.reset()}
      blocked={act.isSuccess ? 'Archived.' : ''}
    >
      {chosen.map((one) => one.name).join(', ')}. What something else uses stays, with the reason. Past
      manifests and the journal stay readable.
    </AskFirst>
  );
}
