import { useQuery } from '@tanstack/react-query';
import { api, ok } from '../../api/client';
import { useSettled } from '../../components/settled';
import type { Place } from './places';

export interface Group {
  title: string;
  places: Place[];
}

const SETTLED_MILLIS = 200;

/** What the server finds by a text: people, companies, records, manifests and fields. */
export function useFound(
  text: string,
  open: boolean,
): { groups: Group[]; looking: boolean; error: Error | null } {
  const wanted = useSettled(text.trim(), SETTLED_MILLIS);
  const enabled = open && wanted.length > 1;
  const kin = (entityType: 'PERSON' | 'COMPANY') => ({
    queryKey: ['palette-people', entityType, wanted],
    queryFn: () => ok(api.GET('/api/people', { params: { query: { entityType, find: wanted } } })),
    enabled,
  });
  const people = useQuery(kin('PERSON'));
  const companies = useQuery(kin('COMPANY'));
  const found = useQuery({
    queryKey: ['palette-search', wanted],
    queryFn: () => ok(api.GET('/api/search', { params: { query: { text: wanted } } })),
    enabled: open && wanted.length > 0,
  });
  const explain = (destination: number, object: string, record: string) =>
    `/explain?${new URLSearchParams({ destination: String(destination), object, record })}`;
  const groups: Group[] = [
    {
      title: 'People',
      places: (people.data ?? []).slice(0, 8).map((one) => ({
        id: `person ${one.id}`,
        name: one.label,
        note: `person ${one.id}`,
        to: `/people/${one.id}`,
      })),
    },
    {
      title: 'Companies',
      places: (companies.data ?? []).slice(0, 8).map((one) => ({
        id: `company ${one.id}`,
        name: one.label,
        note: `company ${one.id}`,
        to: `/companies/${one.id}`,
      })),
    },
    {
      title: 'Records in destinations',
      places: (found.data?.records ?? []).map((one) => ({
        id: `record ${one.destinationId} ${one.object} ${one.remoteId}`,
        name: `${one.destination}, ${one.object} ${one.remoteId}`,
        note: one.key ? `row ${one.key} of ${one.route}` : one.route,
        to: explain(one.destinationId, one.object, one.remoteId),
      })),
    },
    {
      title: 'Manifests',
      places: (found.data?.manifests ?? []).map((one) => ({
        id: `manifest ${one.runId}`,
        name: `Manifest no. ${one.runId}`,
        note: one.route,
        to: `/manifests/${one.runId}`,
      })),
    },
    {
      title: 'Fields',
      places: (found.data?.fields ?? []).map((one) => ({
        id: `field ${one.destinationId} ${one.object} ${one.field}`,
        name: one.field,
        note: `${one.destination}, ${one.object}`,
        to: `/destinations/${one.destinationId}/${one.object}?field=${encodeURIComponent(one.field)}`,
      })),
    },
  ];
  return {
    groups,
    looking: text.trim() !== wanted || found.isLoading || people.isLoading || companies.isLoading,
    error: found.error ?? people.error ?? companies.error,
  };
}
