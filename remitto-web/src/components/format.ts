const NUMBER = new Intl.NumberFormat('en-GB');

export function count(value: number): string {
  return NUMBER.format(value);
}

/** A count with its noun: 1 record, 2 records. */
export function counted(value: number, noun: string, several = `${noun}s`): string {
  return `${count(value)} ${value === 1 ? noun : several}`;
}

/** A moment in a zone of the tz database, with the zone named when it is not the reader's. */
export function moment(iso: string, zone?: string): string {
  const format = new Intl.DateTimeFormat('en-GB', {
    day: 'numeric',
    month: 'short',
    hour: '2-digit',
    minute: '2-digit',
    timeZone: zone,
  });
  return format.format(new Date(iso));
}

export function clock(iso: string, zone?: string): string {
  return new Intl.DateTimeFormat('en-GB', { hour: '2-digit', minute: '2-digit', timeZone: zone }).format(
    new Date(iso),
  );
}

export function weekday(iso: string, zone?: string): string {
  return new Intl.DateTimeFormat('en-GB', { weekday: 'short', timeZone: zone }).format(new Date(iso));
}

/** How long ago, or until, in the largest fitting unit. */
export function ago(iso: string, now: number = Date.now()): string {
  const seconds = Math.round((now - new Date(iso).getTime()) / 1000);
  const size = Math.abs(seconds);
  const [amount, unit] =
    size < 90
      ? [size, 's']
      : size < 5400
        ? [Math.round(size / 60), 'min']
        : size < 129600
          ? [Math.round(size / 3600), 'h']
          : [Math.round(size / 86400), 'days'];
  return seconds >= 0 ? `${amount} ${unit} ago` : `in ${amount} ${unit}`;
}

/** The city of a zone: Europe/Oslo is Oslo. */
export function city(zone: string): string {
  return (zone.split('/').pop() ?? zone).replaceAll('_', ' ');
}

export function secondsBetween(from: string, until: string): number {
  return (Date.parse(until) - Date.parse(from)) / 1000;
}

export function duration(seconds: number): string {
  if (seconds < 90) return `${Math.max(1, Math.round(seconds))} s`;
  return seconds < 5400 ? `${Math.round(seconds / 60)} min` : `${Math.round(seconds / 3600)} h`;
}
