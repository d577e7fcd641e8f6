import { describe, expect, it } from 'vitest';
import { afterEach } from 'vitest';
import { ago, city, clock, counted, day, duration, exact, midnight, moment, weekday } from './format';
import { showTimesIn, zone, zones } from './here';

describe('counts', () => {
  it.each([
    [0, '0 rows'],
    [1, '1 row'],
    [12480, '12,480 rows'],
  ])('%i is told as %s', (value, text) => expect(counted(value, 'row')).toBe(text));
});

describe('times', () => {
  const now = new Date('2026-11-24T09:00:00Z').getTime();
  it.each([
    ['2026-11-24T08:59:58Z', 'just now'],
    ['2026-11-24T09:00:02Z', 'just now'],
    ['2026-11-24T08:59:30Z', '30 s ago'],
    ['2026-11-24T08:20:00Z', '40 min ago'],
    ['2026-11-24T05:00:00Z', '4 h ago'],
    ['2026-11-20T09:00:00Z', '4 days ago'],
    ['2026-11-24T09:04:00Z', 'in 4 min'],
  ])('%s is %s', (at, text) => expect(ago(at, now)).toBe(text));

  it('tells a moment in the zone it is asked for, across a clock change', () => {
    expect(moment('2026-10-25T00:30:00Z', 'Europe/Oslo')).toBe('25 Oct, 02:30');
    expect(moment('2026-10-25T01:30:00Z', 'Europe/Oslo')).toBe('25 Oct, 02:30');
    expect(moment('2026-11-24T05:00:00Z', 'Asia/Tokyo')).toBe('24 Nov, 14:00');
  });

  it('names the city of a zone', () => {
    expect(city('America/Argentina/Buenos_Aires')).toBe('Buenos Aires');
    expect(city('UTC')).toBe('UTC');
  });

  it('gives durations in the largest fitting unit', () => {
    expect([0.2, 45, 600, 7200].map(duration)).toEqual(['1 s', '45 s', '10 min', '2 h']);
  });
});

describe('the zone that a person chose', () => {
  afterEach(() => showTimesIn(undefined));

  it('is that of every time without one of its own', () => {
    const at = '2026-11-24T22:15:09Z';
    showTimesIn('Asia/Kolkata');
    expect(zone()).toBe('Asia/Kolkata');
    expect(moment(at)).toBe('25 Nov, 03:45');
    expect(clock(at)).toBe('03:45');
    expect(weekday(at)).toBe('Wed');
    expect(day(at)).toBe('Wednesday 25 November');
    expect(exact(at)).toBe('25 Nov 2026, 03:45:09 in Kolkata');
    expect(clock(at, 'UTC')).toBe('22:15');
    showTimesIn(undefined);
    expect(zone()).toBe(Intl.DateTimeFormat().resolvedOptions().timeZone);
  });

  // Zones of the tz database; clocks in Asuncion went forward at midnight on 6 October 2024, so that day began at one o'clock.
  it.each([
    ['2026-11-24T22:15:00Z', 'UTC', '2026-11-24T00:00:00.000Z'],
    ['2026-11-24T22:15:00Z', 'Asia/Kolkata', '2026-11-24T18:30:00.000Z'],
    ['2026-11-24T22:15:00Z', 'America/St_Johns', '2026-11-24T03:30:00.000Z'],
    ['2026-10-25T10:00:00Z', 'Europe/Oslo', '2026-10-24T22:00:00.000Z'],
    ['2024-10-06T10:00:00Z', 'America/Asuncion', '2024-10-06T04:00:00.000Z'],
    ['2026-11-24T00:00:00Z', 'UTC', '2026-11-24T00:00:00.000Z'],
  ])('says when the day of %s began in %s', (now, at, began) => {
    expect(midnight(new Date(now), at)).toBe(began);
  });

  it('can be any of the tz database, UTC among them', () => {
    expect(zones()).toContain('Europe/Oslo');
    expect(zones().filter((one) => one === 'UTC')).toHaveLength(1);
  });
});
