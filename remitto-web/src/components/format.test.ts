import { describe, expect, it } from 'vitest';
import { ago, city, counted, duration, moment } from './format';

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
