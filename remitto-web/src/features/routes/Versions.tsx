import { useMutation, useQuery } from '@tanstack/react-query';
import { Popover } from 'radix-ui';
import { useState } from 'react';
import { api, ok } from '../../api/client';
import type { Route, RouteSpec } from '../../api/types';
import { Ago } from '../../components/Moment';
import { Button, Failure, Pill } from '../../components/ui';

/** Saved versions; taking one up puts it on the page as unsaved. */
export function Versions({ route, onRestore }: { route: Route; onRestore: (spec: RouteSpec) => void }) {
  const [open, setOpen] = useState(false);
  const versions = useQuery({
    queryKey: ['route-versions', route.id, route.latestVersion],
    queryFn: () => ok(api.GET('/api/routes/{id}/versions', { params: { path: { id: route.id } } })),
    enabled: open,
  });
  const restore = useMutation({
    mutationFn: (number: number) =>
      ok(api.GET('/api/routes/{id}/versions/{number}', { params: { path: { id: route.id, number } } })),
    onSuccess: (spec) => {
      onRestore(spec);
      setOpen(false);
    },
  });
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger asChild>
        <Button>Versions</Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={4}
          aria-label="Versions"
          className="rounded-card border-hairline bg-card z-20 max-h-[420px] w-[380px] overflow-auto border p-2 text-[13px] shadow-lg"
        >
          <Failure error={versions.error ?? restore.error} />
          <ul className="m-0 list-none p-0">
            {(versions.data ?? []).map((version) => (
              <li key={version.number} className="flex items-center justify-between gap-2 px-2 py-1.5">
                <span>
                  <strong>{version.number}</strong> {version.author}, <Ago at={version.savedAt} />{' '}
                  {version.number === route.liveVersion && <Pill tone="good">in service</Pill>}
                </span>
                <Button kind="quiet" onClick={() => restore.mutate(version.number)}>
                  Take up
                </Button>
              </li>
            ))}
          </ul>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
