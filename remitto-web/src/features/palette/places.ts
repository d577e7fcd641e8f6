/** A page, an act or a thing that the palette offers. */
export interface Place {
  /** Tells it from all others. */
  id: string;
  name: string;
  /** Said beside the name. */
  note?: string;
  to: string;
}

/** Pages that everybody may open. */
export const PAGES: Place[] = [
  ['Departures', '/departures'],
  ['Sources', '/sources'],
  ['Arrivals', '/sources/arrivals'],
  ['Datasets', '/datasets'],
  ['People', '/people'],
  ['Pairs to review', '/people/review'],
  ['Rules of people', '/people/rules'],
  ['Companies', '/companies'],
  ['Rules of companies', '/companies/rules'],
  ['Audiences', '/audiences'],
  ['Measures', '/audiences/measures'],
  ['Events', '/audiences/events'],
  ['Consent and suppression', '/audiences/consent'],
  ['Erasures', '/people/erasures'],
  ['Routes', '/routes'],
  ['Destinations', '/destinations'],
  ['Held records', '/held'],
  ['Journal', '/journal'],
  ['Retention', '/retention'],
  ['Your account', '/account'],
].map(([name = '', to = '']) => ({ id: `page ${to}`, name, to }));

/** Pages where something is made. */
export const MAKING: Place[] = [
  ['New source', '/sources/new'],
  ['New dataset', '/datasets/new'],
  ['New crosswalk', '/crosswalks/new'],
  ['New audience', '/audiences/new'],
  ['New route', '/routes/new'],
  ['New destination', '/destinations/new'],
  ['New profile', '/profiles/new'],
].map(([name = '', to = '']) => ({ id: `make ${to}`, name, to }));
