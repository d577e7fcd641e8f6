import { useQuery } from '@tanstack/react-query';
import { api, ok } from '../../../api/client';
import type { Column, Field } from '../../../api/types';
import { COUNTRY, zone } from '../../../components/here';
import type { Receiver, Travels } from './choice';

/** The fields of what receives an audience, and the columns whose names fit them. */
export function useFieldsThere(receiver: Receiver, columns: Column[]) {
  const { destinationId, object } = receiver;
  const enabled = !receiver.file && destinationId > 0 && object !== '';
  const fields = useQuery({
    queryKey: ['fields-now', destinationId, object],
    queryFn: () =>
      ok(
        api.POST('/api/destinations/{id}/objects/{object}/refresh', {
          params: { path: { id: destinationId, object } },
        }),
      ),
    enabled,
  });
  // Proposed once the tool was asked, so that a field that was just made there is among them.
  const proposal = useQuery({
    queryKey: ['proposed-rules', columns, destinationId, object],
    queryFn: () =>
      ok(
        api.POST('/api/routes/propose', {
          body: { ends: { datasetId: 0, destinationId, object }, columns, country: COUNTRY, zone: zone() },
        }),
      ),
    enabled: fields.data !== undefined,
  });
  const proposed: Travels = {};
  for (const rule of proposal.data?.rules ?? [])
    if (rule.receives.kind === 'column') proposed[rule.receives.column] = rule.field;
  const writable: Field[] = (fields.data?.object.fields ?? []).filter(
    (field) => field.writable && !field.readOnly,
  );
  return { fields: writable, proposed, error: fields.error ?? proposal.error };
}
