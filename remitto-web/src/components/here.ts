/** The reader's country by their browser, for phone numbers without one; blank where it does not say, so that a rule asks. */
export const COUNTRY = new Intl.Locale(navigator.language).region ?? '';

let chosen: string | undefined;

/** The zone that times are shown in: the one that the person chose, or that of their browser. */
export function zone(): string {
  return chosen ?? Intl.DateTimeFormat().resolvedOptions().timeZone;
}

/** Shows times in a zone of the tz database from now on; in that of the browser without one. */
export function showTimesIn(wanted: string | undefined) {
  chosen = wanted;
}

/** Every zone of the tz database by its name, UTC among them, which not every browser lists. */
export function zones(): string[] {
  return [...new Set([...Intl.supportedValuesOf('timeZone'), 'UTC'])].sort();
}
