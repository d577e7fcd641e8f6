import type { Route } from '../api/types';

/** A route from datasets to a tool, as the server tells of it. */
export function aRoute(id: number, name: string, other: Partial<Route>): Route {
  return {
    id,
    name,
    datasetId: 3,
    dataset: 'Pass holders',
    destinationId: 4,
    destination: 'Purser CRM',
    object: 'contact',
    latestVersion: other.liveVersion ?? 1,
    paused: false,
    author: 'Edda Tester',
    savedAt: '2026-11-24T09:00:00Z',
    spec: {
      mode: 'ADD_OR_UPDATE',
      match: ['external_ref'],
      rules: [],
      leavers: { kind: 'stay' },
      guards: {
        removed: {},
        held: {},
        changed: {},
        added: {},
        cleared: {},
        week: false,
        stopOnEmptyDataset: true,
        stopOnSchemaChange: true,
      },
      schedule: { kind: 'by-hand', zone: 'UTC' },
      basis: { kind: 'none' },
      after: [],
    },
    ...other,
  };
}
