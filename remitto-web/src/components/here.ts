/** Where phone numbers without a country are from, until a rule says otherwise. */
export const COUNTRY = 'NO';

/** The reader's time zone. */
export const ZONE = Intl.DateTimeFormat().resolvedOptions().timeZone;
