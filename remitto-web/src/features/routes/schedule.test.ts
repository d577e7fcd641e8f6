import { describe, expect, it } from 'vitest';
import type { Schedule } from '../../api/types';
import { sentence } from './schedule';
import { shaperName } from './words';

describe('a schedule as a sentence', () => {
  it.each<[Schedule, string]>([
    [{ kind: 'by-hand', zone: 'Europe/Oslo' }, 'by hand'],
    [{ kind: 'every', minutes: 1, zone: 'UTC' }, 'every minute'],
    [{ kind: 'every', minutes: 20, zone: 'UTC' }, 'every 20 min'],
    [{ kind: 'daily', time: '06:00:00', zone: 'Europe/Oslo' }, 'daily at 06:00 in Oslo'],
    [
      { kind: 'weekly', days: ['THURSDAY', 'MONDAY'], time: '08:30:00', zone: 'Europe/Oslo' },
      'Mon, Thu at 08:30 in Oslo',
    ],
  ])('%j', (schedule, text) => expect(sentence(schedule)).toBe(text));
});

describe('a shaper in few words', () => {
  it('says where the country comes from', () => {
    expect(shaperName({ kind: 'e164', country: 'NO', countryColumn: '' })).toBe('E.164, NO');
    expect(shaperName({ kind: 'e164', country: 'NO', countryColumn: 'land' })).toBe('E.164, country in land');
  });
});
