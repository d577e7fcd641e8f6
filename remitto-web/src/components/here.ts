/** The reader's country by their browser, for phone numbers without one; blank where it does not say, so that a rule asks. */
export const COUNTRY = new Intl.Locale(navigator.language).region ?? '';

/** The reader's time zone. */
export const ZONE = Intl.DateTimeFormat().resolvedOptions().timeZone;
