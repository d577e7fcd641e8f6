import { useQuery } from '@tanstack/react-query';
import { Command } from 'cmdk';
import { useEffect } from 'react';
import { useNavigate } from 'react-router';
import { api, ok } from '../../api/client';

/** Finds any page by typing. */
export function Palette({ open, onOpen }: { open: boolean; onOpen: (open: boolean) => void }) {
  const navigate = useNavigate();
  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      if ((event.ctrlKey || event.metaKey) && event.key === 'k') {
        event.preventDefault();
        onOpen(true);
      }
    };
    document.addEventListener('keydown', listen);
    return () => document.removeEventListener('keydown', listen);
  }, [onOpen]);
  const routes = useQuery({ queryKey: ['routes'], queryFn: () => ok(api.GET('/api/routes')), enabled: open });
  const datasets = useQuery({
    queryKey: ['datasets'],
    queryFn: () => ok(api.GET('/api/datasets')),
    enabled: open,
  });
  const places: [string, string][] = [
    ['Departures', '/departures'],
    ['Sources', '/sources'],
    ['Datasets', '/datasets'],
    ['Routes', '/routes'],
    ['Destinations', '/destinations'],
    ['Held records', '/held'],
    ['Journal', '/journal'],
    ['New route', '/routes/new'],
    ['New dataset', '/datasets/new'],
    ...(routes.data ?? []).map((route): [string, string] => [`Route: ${route.name}`, `/routes/${route.id}`]),
    ...(datasets.data ?? []).map((dataset): [string, string] => [
      `Dataset: ${dataset.name}`,
      `/datasets/${dataset.id}`,
    ]),
  ];
  return (
    <Command.Dialog
      open={open}
      onOpenChange={onOpen}
      label="Search"
      overlayClassName="fixed inset-0 z-30 bg-board/40"
      contentClassName="fixed top-[15vh] left-1/2 z-40 w-[520px] -translate-x-1/2"
    >
      <div className="rounded-card border-hairline bg-card border shadow-xl">
        <Command.Input
          placeholder="Search pages, routes and datasets"
          className="border-hairline w-full border-b bg-transparent px-4 py-3 text-[0.875rem] outline-none"
        />
        <Command.List className="max-h-[320px] overflow-auto p-2">
          <Command.Empty className="text-soft px-3 py-2">No results.</Command.Empty>
          {places.map(([name, to]) => (
            <Command.Item
              key={to}
              value={name}
              onSelect={() => {
                onOpen(false);
                void navigate(to);
              }}
              className="rounded-button data-[selected=true]:bg-sunk cursor-pointer px-3 py-1.5"
            >
              {name}
            </Command.Item>
          ))}
        </Command.List>
      </div>
    </Command.Dialog>
  );
}
