import { zone } from '../../components/here';

/** Today where the reader is, as an ISO date; what a fresh window begins with. */
export function today(): string {
  return new Intl.DateTimeFormat('en-CA', { timeZone: zone() }).format(new Date());
}
