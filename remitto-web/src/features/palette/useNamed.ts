import { useQuery } from '@tanstack/react-query';
import { api, ok } from '../../api/client';
import type { Route } from '../../api/types';
import type { Group } from './useFound';

/** Everything that has a name, from the lists that their pages show. */
export function useNamed(open: boolean): { groups: Group[]; routes: Route[] } {
  const enabled = open;
  const routes = useQuery({ queryKey: ['routes'], queryFn: () => ok(api.GET('/api/routes')), enabled });
  const datasets = useQuery({ queryKey: ['datasets'], queryFn: () => ok(api.GET('/api/datasets')), enabled });
  const sources = useQuery({ queryKey: ['sources'], queryFn: () => ok(api.GET('/api/sources')), enabled });
  const audiences = useQuery({
    queryKey: ['audiences'],
    queryFn: () => ok(api.GET('/api/audiences')),
    enabled,
  });
  const crosswalks = useQuery({
    queryKey: ['crosswalks'],
    queryFn: () => ok(api.GET('/api/crosswalks')),
    enabled,
  });
  const destinations = useQuery({
    queryKey: ['destinations'],
    queryFn: () => ok(api.GET('/api/destinations')),
    enabled,
  });
  const profiles = useQuery({ queryKey: ['profiles'], queryFn: () => ok(api.GET('/api/profiles')), enabled });
  const group = (
    title: string,
    base: string,
    things: { id: number | string; name: string; note?: string }[],
  ) => ({
    title,
    places: things.map((one) => ({
      id: `${base} ${one.id}`,
      name: one.name,
      note: one.note,
      to: `/${base}/${one.id}`,
    })),
  });
  return {
    routes: routes.data ?? [],
    groups: [
      group(
        'Routes',
        'routes',
        (routes.data ?? []).map((one) => ({ ...one, note: `to ${one.destination}, ${one.object}` })),
      ),
      group(
        'Audiences',
        'audiences',
        (audiences.data?.audiences ?? []).map(({ audience }) => ({ id: audience.id, name: audience.name })),
      ),
      group('Datasets', 'datasets', datasets.data ?? []),
      group('Destinations', 'destinations', destinations.data ?? []),
      group('Sources', 'sources', sources.data ?? []),
      group('Crosswalks', 'crosswalks', crosswalks.data ?? []),
      group(
        'Profiles',
        'profiles',
        (profiles.data ?? []).map((one) => ({ id: one.profile, name: one.title })),
      ),
    ],
  };
}
