import { useMutation, useQueryClient } from '@tanstack/react-query';
import { Popover } from 'radix-ui';
import { useState } from 'react';
import { api, ok } from '../../api/client';
import type { Route } from '../../api/types';
import { counted } from '../../components/format';
import { Failure } from '../../components/ui';
import { Act } from '../session/Editors';

/** Pausing a route, and sending its records afresh. */
export function RouteActs({ route }: { route: Route }) {
  const client = useQueryClient();
  const [fields, setFields] = useState<string[]>([]);
  const path = { params: { path: { id: route.id } } };
  const pause = useMutation({
    mutationFn: () => ok(api.POST('/api/routes/{id}/pause', { ...path, body: { paused: !route.paused } })),
    onSuccess: (fresh) => client.setQueryData(['route', route.id], fresh),
  });
  const afresh = useMutation({
    mutationFn: () => ok(api.POST('/api/routes/{id}/afresh', { ...path, body: { fields, keys: [] } })),
  });
  return (
    <>
      <Act disabled={pause.isPending || !route.liveVersion} onClick={() => pause.mutate()}>
        {route.paused ? 'Resume' : 'Pause'}
      </Act>
      <Popover.Root onOpenChange={() => afresh.reset()}>
        <Popover.Trigger asChild>
          <Act disabled={!route.liveVersion}>Send afresh</Act>
        </Popover.Trigger>
        <Popover.Portal>
          <Popover.Content
            align="end"
            sideOffset={4}
            className="rounded-card border-hairline bg-card z-20 flex max-w-[360px] flex-col gap-3 border p-4 text-[0.8125rem] shadow-lg"
          >
            <p className="m-0">
              Forgets what is known of this route&apos;s values, so that the next run compares every record
              with what is really there. Nothing is sent by this.
            </p>
            <fieldset className="m-0 flex flex-wrap gap-x-3 gap-y-1 border-0 p-0">
              <legend className="text-soft mb-1">Only these fields; none means all</legend>
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
            <Act disabled={afresh.isPending} onClick={() => afresh.mutate()}>
              Forget {fields.length > 0 ? counted(fields.length, 'field') : 'everything known'}
            </Act>
            <Failure error={afresh.error ?? pause.error} />
            {afresh.data && (
              <span role="status">
                {counted(afresh.data.records, 'record')} will be compared anew in the next run.
              </span>
            )}
          </Popover.Content>
        </Popover.Portal>
      </Popover.Root>
    </>
  );
}
