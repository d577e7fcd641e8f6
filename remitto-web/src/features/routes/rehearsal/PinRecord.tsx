import { useMutation, useQueryClient } from '@tanstack/react-query';
import { api, ok } from '../../../api/client';
import type { PreviewedRecord } from '../../../api/types';
import { Failure } from '../../../components/ui';
import { Act } from '../../session/Editors';

/** Pins the followed record with the values it gets now. */
export function PinRecord({ routeId, followed }: { routeId: number; followed: PreviewedRecord }) {
  const client = useQueryClient();
  const pin = useMutation({
    mutationFn: () =>
      ok(
        api.POST('/api/routes/{id}/examples', {
          params: { path: { id: routeId } },
          body: {
            name: `${followed.key} ${followed.label}`.trim(),
            cells: Object.fromEntries(Object.entries(followed.row).filter(([, cell]) => cell !== '')),
            expected: Object.fromEntries(
              followed.fields
                .filter((field) => field.fresh !== undefined && field.outcome !== 'HELD')
                .map((field) => [field.field, field.fresh ?? '']),
            ),
          },
        }),
      ),
    onSuccess: (fresh) => client.setQueryData(['examples', routeId], fresh),
  });
  return (
    <div className="px-4 pb-2.5">
      <Failure error={pin.error} />
      <Act disabled={pin.isPending} onClick={() => pin.mutate()}>
        Add as golden example
      </Act>
    </div>
  );
}
