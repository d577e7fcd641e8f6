import { useMutation, useQueryClient } from '@tanstack/react-query';
import { Popover } from 'radix-ui';
import { useState } from 'react';
import { api, ok } from '../../api/client';
import type { Route } from '../../api/types';
import { counted } from '../../components/format';
import { Failure } from '../../components/ui';
import { Act } from '../session/Editors';

/** Pausing a route, and resending its records. */
export function RouteActs({ route }: { route: Route }) {
  const client = useQueryClient();
  const [fields, setFields] = useState<string[]>([]);
  const path = { params: { path: { id: route.id } } };
  const pause = useMutation({
    mutationFn: () => ok(api.POST('/api/routes/{id}/pause', { ...path, body: { paused: !route.paused } })),
    onSuccess: (fresh) => client.setQueryData(['route', route.id], fresh),
  });
  const resend = useMutation({
    mutationFn: () => ok(api.POST('/api/routes/{id}/resend', { ...path, body: { fields, keys: [] } })),
  });
  return (
    <>
      <Act disabled={pause.isPending || !route.liveVersion} onClick={() => pause.mutate()}>
        {route.paused ? 'Resume' : 'Pause'}
      </Act>
      <Popover.Root onOpenChange={() => resend.reset()}>
        <Popover.Trigger asChild>
          <Act disabled={!route.liveVersion}>Resend all</Act>
        </Popover.Trigger>
        <Popover.Portal>
          <Popover.Content
            align="end"
            sideOffset={4}
            className="rounded-card border-hairline bg-card z-20 flex max-w-[360px] flex-col gap-3 border p-4 text-[0.8125rem] shadow-lg"
          >
            <p className="m-0">
              Discards the known values of this route, so the next run compares every record with the
              destination again. Nothing is sent now.
            </p>
            <fieldset className="m-0 flex flex-wrap gap-x-3 gap-y-1 border-0 p-0">
              <legend className="text-soft mb-1">Fields; none means all</legend>
              {route.spec.rules.map((rule) => (
                <label key={rule.field} className="flex items-center gap-1">
                  <input
                    type="checkbox"
                    checked={fields.includes(rule.field)}
                    onChange={(e) =>
                      setFields(
                        e.target.checked
                          ? [...fields, rule.field]
                          : fields.filter((one) => one !== rule.field),
                      )
                    }
                  />
                  {rule.field}
                </label>
              ))}
            </fieldset>
            <Act disabled={resend.isPending} onClick={() => resend.mutate()}>
              Discard known values {fields.length > 0 ? counted(fields.length, 'field') : 'of all fields'}
            </Act>
            <Failure error={resend.error ?? pause.error} />
            {resend.data && (
              <span role="status">
                {counted(resend.data.records, 'record')} will be compared again in the next run.
              </span>
            )}
          </Popover.Content>
        </Popover.Portal>
      </Popover.Root>
    </>
  );
}
