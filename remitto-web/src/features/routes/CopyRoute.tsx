import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Popover } from 'radix-ui';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { api, ok } from '../../api/client';
import type { Route } from '../../api/types';
import { ById, ByTitle } from '../../components/Options';
import { Failure, Input, Labelled, Select } from '../../components/ui';
import { Act } from '../session/Editors';

/** Copies a route, rules and versions along, to the same object or to another. */
export function CopyRoute({ route }: { route: Route }) {
  const client = useQueryClient();
  const navigate = useNavigate();
  const [open, setOpen] = useState(false);
  const [name, setName] = useState(`${route.name}, copy`);
  const [destinationId, setDestinationId] = useState(route.destinationId);
  const [object, setObject] = useState(route.object);
  const destinations = useQuery({
    queryKey: ['destinations'],
    queryFn: () => ok(api.GET('/api/destinations')),
    enabled: open,
  });
  const objects = useQuery({
    queryKey: ['objects', destinationId],
    queryFn: () => ok(api.GET('/api/destinations/{id}/objects', { params: { path: { id: destinationId } } })),
    enabled: open,
  });
  const known = (objects.data ?? []).some((one) => one.name === object);
  const differences = useQuery({
    queryKey: ['object-differences', route.id, route.latestVersion, destinationId, object],
    queryFn: () =>
      ok(
        api.GET('/api/routes/{id}/object-differences', {
          params: { path: { id: route.id }, query: { destinationId, object } },
        }),
      ),
    enabled: open && known,
  });
  const copy = useMutation({
    mutationFn: () =>
      ok(
        api.POST('/api/routes/{id}/copy', {
          params: { path: { id: route.id } },
          body: { name, destinationId, object },
        }),
      ),
    onSuccess: (fresh) => {
      void client.invalidateQueries({ queryKey: ['routes'] });
      setOpen(false);
      void navigate(`/routes/${fresh.id}`);
    },
  });
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger asChild>
        <Act>Copy</Act>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={4}
          aria-label="Copy this route"
          className="rounded-card border-hairline bg-card z-20 flex w-[400px] flex-col gap-3 border p-4 text-[0.8125rem] shadow-lg"
        >
          <p className="m-0">
            The copy has the same rules and versions and reads the same dataset. It starts with no known
            records and is not in service.
          </p>
          <Labelled label="Name">
            <Input className="w-full" value={name} onChange={(e) => setName(e.target.value)} />
          </Labelled>
          <Labelled label="Destination">
            <Select
              className="w-full"
              value={destinationId}
              onChange={(e) => setDestinationId(Number(e.target.value))}
            >
              <ById of={destinations.data} />
            </Select>
          </Labelled>
          <Labelled label="Object">
            <Select
              className="w-full"
              value={known ? object : ''}
              onChange={(e) => setObject(e.target.value)}
            >
              {!known && <option value="">choose…</option>}
              <ByTitle of={objects.data} />
            </Select>
          </Labelled>
          {differences.data && (
            <div
              className="max-h-[200px] overflow-auto"
              role="region"
              aria-label="How the objects differ"
              tabIndex={0}
            >
              {differences.data.length === 0 ? (
                <span className="text-soft">Every field the rules write is identical in both objects.</span>
              ) : (
                <ul className="m-0 list-none p-0">
                  {differences.data.map((one) => (
                    <li key={one.field + one.text}>
                      <span className="font-mono font-semibold">{one.field}</span> {one.text}
                    </li>
                  ))}
                </ul>
              )}
            </div>
          )}
          <Failure error={copy.error ?? objects.error ?? differences.error} />
          <Act kind="primary" disabled={copy.isPending || !known} onClick={() => copy.mutate()}>
            Create copy
          </Act>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
