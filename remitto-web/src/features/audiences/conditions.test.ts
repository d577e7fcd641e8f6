import { describe, expect, it } from 'vitest';
import type { Condition, ConditionWords } from '../../api/types';
import {
  asGroup,
  asLine,
  columnsFor,
  conditionWords,
  freshAggregation,
  freshLeaf,
  fromLine,
  measureType,
  subjectOf,
  subjects,
  testsFor,
  windowWords,
} from './conditions';

const WORDS: ConditionWords = {
  attributes: [
    { name: 'home_port', type: 'TEXT', measure: false },
    { name: 'crossings_90d', type: 'INTEGER', measure: true },
  ],
  events: [
    {
      name: 'Crossings',
      columns: [
        { name: 'line', type: 'TEXT' },
        { name: 'price', type: 'DECIMAL' },
      ],
    },
  ],
  audiences: [{ id: 3, name: 'Staff and families' }],
  datasets: [],
  routes: [],
  purposes: [],
};

const lapsed: Condition = {
  kind: 'all',
  conditions: [
    { kind: 'attribute', attribute: 'home_port', test: { kind: 'one-of', values: ['Tarva', 'Sandvær'] } },
    {
      kind: 'events',
      measure: {
        of: { events: 'Crossings', where: [] },
        window: { kind: 'from-to', from: '2025-11-01', to: '2026-03-31' },
        aggregation: { kind: 'count' },
      },
      test: { kind: 'number', relation: 'AT_LEAST', number: 12 },
    },
    { kind: 'not', condition: { kind: 'audience', audience: 3 } },
  ],
};

describe('conditions as sentences', () => {
  it('says what is asked, with days and names as people write them', () => {
    expect(conditionWords(lapsed, WORDS)).toBe(
      'Home port is one of Tarva, Sandvær and made at least 12 crossings between 1 Nov 2025 and 31 Mar 2026' +
        ' and not in audience Staff and families',
    );
  });

  it.each([
    ['AT_LEAST', 3, 'made at least 3 crossings in the last 90 days'],
    ['EXACTLY', 0, 'made no crossings in the last 90 days'],
    ['AT_LEAST', 1, 'made crossings in the last 90 days'],
    ['EXACTLY', 1, 'made crossings exactly once in the last 90 days'],
    ['AT_MOST', 1, 'made crossings at most once in the last 90 days'],
    ['OVER', 1, 'made crossings more than once in the last 90 days'],
    ['UNDER', 1, 'made no crossings in the last 90 days'],
    ['UNDER', 4, 'made under 4 crossings in the last 90 days'],
  ] as const)('reads as a sentence: %s %d', (relation, number, sentence) => {
    const measure = {
      of: { events: 'Crossings', where: [] },
      aggregation: { kind: 'count' as const },
      window: { kind: 'last-days' as const, days: 90 },
    };
    expect(conditionWords({ kind: 'events', measure, test: { kind: 'number', relation, number } })).toBe(
      sentence,
    );
  });

  it('reads as a sentence where something other than how often is asked, and of some events only', () => {
    const of = {
      events: 'Crossings',
      where: [{ column: 'line', test: { kind: 'one-of' as const, values: ['Tarva'] } }],
    };
    const window = { kind: 'ever' as const };
    expect(
      conditionWords({
        kind: 'events',
        measure: { of, aggregation: { kind: 'sum', column: 'price' }, window },
        test: { kind: 'number', relation: 'OVER', number: 500 },
      }),
    ).toBe('the sum of price of crossings whose line is Tarva at any time is over 500');
    expect(
      conditionWords({
        kind: 'sequence',
        first: of,
        window,
        then: { events: 'Bookings', where: [] },
        days: 7,
        none: true,
      }),
    ).toBe('made crossings whose line is Tarva at any time, then no bookings within 7 days');
  });

  it('tells windows by whether an end belongs to them', () => {
    expect(windowWords({ kind: 'since', day: '2026-02-01' })).toBe('on or after 1 Feb 2026');
    expect(windowWords({ kind: 'until', day: '2026-02-01' })).toBe('before 1 Feb 2026');
    expect(windowWords({ kind: 'last-days', days: 0 })).toBe('today');
    expect(windowWords({ kind: 'calendar', span: 'WEEK', back: 2 })).toBe('2 weeks ago');
  });

  it('takes a line apart and puts it together again', () => {
    const not: Condition = { kind: 'not', condition: { kind: 'everyone' } };
    expect(fromLine(asLine(not))).toEqual(not);
    expect(asLine({ kind: 'not', condition: not })).toEqual({ not: false, condition: { kind: 'everyone' } });
    expect(asGroup(not)).toEqual({ kind: 'all', conditions: [not] });
    expect(asGroup(lapsed)).toBe(lapsed);
  });
});

describe('what can be begun', () => {
  it('offers only what there is', () => {
    expect(subjects(WORDS).map((one) => one.group)).toEqual(['Attributes', 'Measures', 'Events', 'More']);
    expect(subjects(WORDS).flatMap((one) => one.choices.map(([value]) => value))).not.toContain('consent');
  });

  it('begins every choice as itself', () => {
    for (const { choices } of subjects(WORDS)) {
      for (const [subject] of choices) {
        expect(subjectOf(freshLeaf(subject, WORDS, '2026-11-25'))).toBe(subject);
      }
    }
  });

  it('asks of a value only what can be asked of its type', () => {
    expect(testsFor('TEXT').map(([kind]) => kind)).toEqual([
      'one-of',
      'contains',
      'begins',
      'has-value',
      'has-none',
    ]);
    expect(testsFor('DATE').map(([kind]) => kind)).not.toContain('number');
  });

  it('counts numbers only, and knows what comes out', () => {
    const columns = WORDS.events[0]?.columns ?? [];
    expect(columnsFor('sum', columns)).toEqual(['price']);
    expect(freshAggregation('sum', [{ name: 'line', type: 'TEXT' }])).toBeUndefined();
    const measure = { of: { events: 'Crossings', where: [] }, window: { kind: 'ever' as const } };
    expect(measureType({ ...measure, aggregation: { kind: 'last', column: 'price' } }, WORDS)).toBe(
      'DECIMAL',
    );
    expect(measureType({ ...measure, aggregation: { kind: 'last-day' } }, WORDS)).toBe('DATE');
  });
});
