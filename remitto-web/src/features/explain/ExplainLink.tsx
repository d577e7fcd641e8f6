import { Link } from 'react-router';

type Place =
  | { destinationId: number; object: string; remoteId: string; field: string }
  | { routeId: number; recordKey: string; field: string };

/** Leads from a value to the chain behind it. */
export function ExplainLink(place: Place) {
  const query = new URLSearchParams({ field: place.field });
  if ('routeId' in place) {
    query.set('route', String(place.routeId));
    query.set('key', place.recordKey);
  } else {
    query.set('destination', String(place.destinationId));
    query.set('object', place.object);
    query.set('record', place.remoteId);
  }
  return (
    <Link className="text-deep underline" to={`/explain?${query}`}>
      explain
    </Link>
  );
}
