import { describe, expect, it } from 'vitest';
import type { Schedule } from '../../api/types';
import { sentence } from './schedule';

describe('a schedule as a sentence', () => {
  it.each<[Schedule, string]>([
    [{ kind: 'by-hand', zone: 'Europe/Oslo' }, 'manually'],
    [{ kind: 'on-change', zone: 'Europe/Oslo' }, 'when its data changes'],
    [{ kind: 'every', minutes: 1, zone: 'UTC' }, 'every minute'],
    [{ kind: 'every', minutes: 20, zone: 'UTC' }, 'every 20 min'],
    [{ kind: 'daily', time: '06:00:00', zone: 'Europe/Oslo' }, 'daily at 06:00 in Oslo'],
    [
      { kind: 'weekly', days: ['THURSDAY', 'MONDAY'], time: '08:30:00', zone: 'Europe/Oslo' },
      'Mon, Thu at 08:30 in Oslo',
    ],
  ])('%j', (schedule, text) => expect(sentence(schedule)).toBe(text));
});
