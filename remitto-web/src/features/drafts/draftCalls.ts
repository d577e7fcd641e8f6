import type { QueryClient } from '@tanstack/react-query';
import { api, ok } from '../../api/client';
import type { Draft } from '../../api/types';

/** What is edited: its kind, and its id or "new". */
export interface Place {
  kind: Draft['kind'];
  subject: string;
  /** What it is called in the list of drafts. */
  title: string;
}

/** A place, by what tells it from others. */
export type Spot = Omit<Place, 'title'>;

/** Bodies beyond this do not survive the closing of a page. */
const SURVIVES = 60_000;

export const draftKey = (place: Spot) => ['draft', place.kind, place.subject];

const path = (place: Spot) => ({ path: { kind: place.kind, subject: place.subject } });

/** Calls that are under way, so that reading waits for what was just written. */
const underWay = new Map<string, Promise<unknown>>();

function inOrder<T>(place: Spot, call: () => Promise<T>): Promise<T> {
  const name = draftKey(place).join('/');
  const after = (underWay.get(name) ?? Promise.resolve()).then(call, call);
  const done = after.then(
    () => undefined,
    () => undefined,
  );
  underWay.set(name, done);
  void done.then(() => {
    if (underWay.get(name) === done) underWay.delete(name);
  });
  return after;
}

export function readDraft(place: Spot) {
  return inOrder(place, () => ok(api.GET('/api/drafts/{kind}/{subject}', { params: path(place) })));
}

export function keepDraft(client: QueryClient, place: Place, basedOn: number, content: object) {
  const body = { title: place.title, basedOn, content: content as Record<string, never> };
  client.setQueryData(draftKey(place), {
    draft: { kind: place.kind, subject: place.subject, ...body, savedAt: new Date().toISOString() },
  });
  return inOrder(place, () =>
    ok(
      api.PUT('/api/drafts/{kind}/{subject}', {
        params: path(place),
        body,
        keepalive: JSON.stringify(body).length < SURVIVES,
      }),
    ),
  );
}

export function discardDraft(client: QueryClient, place: Spot) {
  client.setQueryData(draftKey(place), {});
  return inOrder(place, () => ok(api.DELETE('/api/drafts/{kind}/{subject}', { params: path(place) })));
}
