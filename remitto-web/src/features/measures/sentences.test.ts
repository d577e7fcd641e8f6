import { expect, it } from 'vitest';
import { derivationWords } from './sentences';

it('says what is computed over what', () => {
  expect(
    derivationWords({
      kind: 'events',
      measure: {
        of: {
          events: 'Crossings',
          where: [{ column: 'line', test: { kind: 'one-of', values: ['TAR-YTR'] } }],
        },
        window: { kind: 'last-days', days: 90 },
        aggregation: { kind: 'count' },
      },
      zone: 'Europe/Oslo',
      steps: [7, 30],
    }),
  ).toBe('Crossings whose line is TAR-YTR: how many in the last 90 days; bounds 7, 30');
  expect(derivationWords({ kind: 'score', of: 'days_since_booking', bands: 5, largestIsBest: false })).toBe(
    'Days since booking in 5 bands, the smallest best',
  );
});
