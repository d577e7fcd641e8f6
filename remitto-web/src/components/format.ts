import { zone } from './here';

const NUMBER = new Intl.NumberFormat('en-GB');

export function count(value: number): string {
  return NUMBER.format(value);
}

/** A count with its noun: 1 record, 2 records. */
export function counted(value: number, noun: string, several = `${noun}s`): string {
  return `${count(value)} ${value === 1 ? noun : several}`;
}

function shown(iso: string, parts: Intl.DateTimeFormatOptions, at = zone()): string {
  return new Intl.DateTimeFormat('en-GB', { ...parts, timeZone: at }).format(new Date(iso));
}

/** A moment in the reader's zone, or in another of the tz database. */
export function moment(iso: string, at?: string): string {
  return shown(iso, { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' }, at);
}

/** A moment to the second, with its year and zone: what a shorter spelling stands for. */
export function exact(iso: string, at = zone()): string {
  return `${shown(iso, { dateStyle: 'medium', timeStyle: 'medium' }, at)} in ${city(at)}`;
}

/** A moment of which there may be several a minute. */
export function toTheSecond(iso: string): string {
  return shown(iso, {
    day: 'numeric',
    month: 'short',
    hour: '2-digit',
    minute: '2-digit',
    second: '2-digit',
  });
}

export function clock(iso: string, at?: string): string {
  return shown(iso, { hour: '2-digit', minute: '2-digit' }, at);
}

export function weekday(iso: string, at?: string): string {
  return shown(iso, { weekday: 'short' }, at);
}

/** A day with its name, as a heading says it. */
export function day(iso: string, at?: string): string {
  return shown(iso, { weekday: 'long', day: 'numeric', month: 'long' }, at);
}

/** When the day began that a moment lies in, as an instant. */
export function midnight(now = new Date(), at = zone()): string {
  const date = new Intl.DateTimeFormat('en-CA', { timeZone: at });
  const today = date.format(now);
  // The first quarter of an hour of that date: a day may begin at one o'clock, where clocks go forward at midnight.
  const quarter = 15 * 60_000;
  let begin = Math.floor(now.getTime() / quarter) * quarter;
  while (date.format(begin - quarter) === today) begin -= quarter;
  return new Date(begin).toISOString();
}

/** How long ago, or until, in the largest fitting unit. */
export function ago(iso: string, now: number = Date.now()): string {
  const seconds = Math.round((now - new Date(iso).getTime()) / 1000);
  const size = Math.abs(seconds);
  if (size < 5) return 'just now';
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
