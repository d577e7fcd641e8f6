import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ok } from '../../api/client';
import { counted } from '../../components/format';
import { Ago } from '../../components/Moment';
import { Card, Pill } from '../../components/ui';
import { Act } from '../session/Editors';

/** What the tool changed about its fields, with the records each change concerns. */
export function Changes({ id }: { id: number }) {
  const client = useQueryClient();
  const [open, setOpen] = useState(0);
  const changes = useQuery({
    queryKey: ['destination-changes', id],
    queryFn: () => ok(api.GET('/api/destinations/{id}/changes', { params: { path: { id } } })),
  });
  const records = useQuery({
    queryKey: ['affected', open],
    queryFn: () => ok(api.GET('/api/destination-changes/{id}/records', { params: { path: { id: open } } })),
    enabled: open > 0,
  });
  const seen = useMutation({
    mutationFn: (change: number) =>
      ok(api.POST('/api/destination-changes/{id}/seen', { params: { path: { id: change } } })),
    onSuccess: () => client.invalidateQueries({ queryKey: ['destination-changes', id] }),
  });
  if (!changes.data || changes.data.length === 0) return null;
  return (
    <Card title="Changes in the destination" aside={counted(changes.data.length, 'change')}>
      <ul className="m-0 list-none px-4 pb-3">
        {changes.data.slice(0, 8).map((change) => (
          <li key={change.id} className="border-hairline border-b py-1.5 last:border-0">
            <div className="flex items-baseline gap-2">
              <span className="flex-1">
                <span className="font-mono">{change.object}</span>: {change.text}{' '}
                <span className="text-soft">
                  <Ago at={change.noticedAt} />
                </span>
              </span>
              {change.affected > 0 && (
                <button
                  type="button"
                  className="text-deep cursor-pointer"
                  aria-expanded={open === change.id}
                  onClick={() => setOpen(open === change.id ? 0 : change.id)}
                >
                  {counted(change.affected, 'record')} affected
                </button>
              )}
              {change.seenBy ? (
                <Pill>dismissed by {change.seenBy}</Pill>
              ) : (
                <Act kind="quiet" onClick={() => seen.mutate(change.id)}>
                  Dismiss
                </Act>
              )}
            </div>
            {open === change.id && records.data && (
              <ul className="m-0 flex list-none flex-wrap gap-x-4 gap-y-1 p-0 pt-1 font-mono">
                {records.data.map((record) => (
                  <li key={record.remoteId}>
                    {record.remoteId} <span className="text-soft">{record.value}</span>
                  </li>
                ))}
              </ul>
            )}
          </li>
        ))}
      </ul>
    </Card>
  );
}
