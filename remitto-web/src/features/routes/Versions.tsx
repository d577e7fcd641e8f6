import { useMutation, useQuery } from '@tanstack/react-query';
import { Popover } from 'radix-ui';
import { useState } from 'react';
import { api, ok } from '../../api/client';
import type { Route, RouteSpec } from '../../api/types';
import { Ago } from '../../components/Moment';
import { Button, Failure, Pill } from '../../components/ui';
import { DifferencesCard } from './rehearsal/DifferencesCard';
import { Act } from '../session/Editors';

/** Saved versions; taking one up puts it on the page as unsaved. */
export function Versions({ route, onRestore }: { route: Route; onRestore: (spec: RouteSpec) => void }) {
  const [open, setOpen] = useState(false);
  const [compared, setCompared] = useState(0);
  const differences = useQuery({
    queryKey: ['route-differences', route.id, compared, route.latestVersion],
    queryFn: () =>
      ok(
        api.GET('/api/routes/{id}/versions/{number}/differences/{other}', {
          params: { path: { id: route.id, number: compared, other: route.latestVersion } },
        }),
      ),
    enabled: compared > 0,
  });
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
          className="rounded-card border-hairline bg-card z-20 max-h-[420px] w-[460px] overflow-auto border p-2 text-[0.8125rem] shadow-lg"
        >
          <Failure error={versions.error ?? restore.error} />
          <ul className="m-0 list-none p-0">
            {(versions.data ?? []).map((version) => (
              <li key={version.number} className="flex items-center justify-between gap-2 px-2 py-1.5">
                <span>
                  <strong>{version.number}</strong> {version.author}, <Ago at={version.savedAt} />{' '}
                  {version.note && <span className="text-soft">{version.note} </span>}
                  {version.number === route.liveVersion && <Pill tone="good">in service</Pill>}
                </span>
                <span className="whitespace-nowrap">
                  {version.number !== route.latestVersion && (
                    <Button
                      kind="quiet"
                      aria-expanded={compared === version.number}
                      onClick={() => setCompared(compared === version.number ? 0 : version.number)}
                    >
                      Compare
                    </Button>
                  )}
                  <Act kind="quiet" onClick={() => restore.mutate(version.number)}>
                    Restore
                  </Act>
                </span>
              </li>
            ))}
          </ul>
          {differences.data && compared > 0 && (
            <DifferencesCard
              title={`From version ${compared} to ${route.latestVersion}`}
              differences={differences.data}
            />
          )}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
