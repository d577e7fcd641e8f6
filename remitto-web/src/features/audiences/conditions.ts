import type {
  Aggregation,
  ColumnType,
  Condition,
  ConditionWords,
  Measure,
  TestOf,
  ValueTest,
  Window,
  EventsOf,
} from '../../api/types';
import { attributeWords } from '../people/words';

export type Group = Extract<Condition, { kind: 'all' | 'any' }>;
export type Leaf = Exclude<Condition, { kind: 'all' | 'any' | 'not' }>;

/** A line of a group: a condition, or that it must not hold. */
export interface LineOf {
  not: boolean;
  condition: Leaf | Group;
}

/** A condition as a group that can be edited; a single condition is a group of one. */
export function asGroup(condition: Condition): Group {
  return condition.kind === 'all' || condition.kind === 'any'
    ? condition
    : { kind: 'all', conditions: [condition] };
}

/** Double negations fall away. */
export function asLine(condition: Condition): LineOf {
  if (condition.kind !== 'not') return { not: false, condition };
  const inner = asLine(condition.condition);
  return { not: !inner.not, condition: inner.condition };
}

export function fromLine(line: LineOf): Condition {
  return line.not ? { kind: 'not', condition: line.condition } : line.condition;
}

const RELATIONS: Record<TestOf<'number'>['relation'], string> = {
  EXACTLY: 'exactly',
  OVER: 'over',
  AT_LEAST: 'at least',
  UNDER: 'under',
  AT_MOST: 'at most',
};
export const RELATION_WORDS = Object.entries(RELATIONS) as [TestOf<'number'>['relation'], string][];

export const ANSWER_WORDS = { YES: 'agreed', NO: 'said no', NOT_ASKED: 'was not asked' } as const;

/** A day as people write it; the ISO text when it is none yet. */
export function dayWords(iso: string): string {
  const day = new Date(`${iso}T12:00:00Z`);
  return Number.isNaN(day.getTime())
    ? iso
    : new Intl.DateTimeFormat('en-GB', {
        day: 'numeric',
        month: 'short',
        year: 'numeric',
        timeZone: 'UTC',
      }).format(day);
}

const SPANS = { DAY: 'day', WEEK: 'week', MONTH: 'month', YEAR: 'year' } as const;
export const SPAN_WORDS = Object.entries(SPANS) as [keyof typeof SPANS, string][];

export function windowWords(window: Window): string {
  switch (window.kind) {
    case 'ever':
      return 'at any time';
    case 'last-days':
      return window.days === 0 ? 'today' : `in the last ${window.days} days`;
    case 'last-hours':
      return `in the last ${window.hours} hours`;
    case 'from-to':
      return `between ${dayWords(window.from)} and ${dayWords(window.to)}`;
    case 'since':
      return `on or after ${dayWords(window.day)}`;
    case 'until':
      return `before ${dayWords(window.day)}`;
    case 'calendar':
      return window.back === 0
        ? `this ${SPANS[window.span]}`
        : window.back === 1
          ? `the ${SPANS[window.span]} before this one`
          : `${window.back} ${SPANS[window.span]}s ago`;
  }
}

export const WINDOW_KINDS: [Window['kind'], string][] = [
  ['ever', 'at any time'],
  ['last-days', 'in the last days'],
  ['last-hours', 'in the last hours'],
  ['from-to', 'between two days'],
  ['since', 'on or after a day'],
  ['until', 'before a day'],
  ['calendar', 'a calendar period'],
];

export function freshWindow(kind: Window['kind'], today: string): Window {
  switch (kind) {
    case 'ever':
      return { kind };
    case 'last-days':
      return { kind, days: 60 };
    case 'last-hours':
      return { kind, hours: 24 };
    case 'from-to':
      return { kind, from: `${today.slice(0, 4)}-01-01`, to: today };
    case 'since':
    case 'until':
      return { kind, day: today };
    case 'calendar':
      return { kind, span: 'MONTH', back: 1 };
  }
}

/** Up to three values by name; of more, how many more. */
function listed(values: string[]): string {
  const shown = values.slice(0, 3).join(', ');
  return values.length > 3 ? `${shown} and ${values.length - 3} more` : shown;
}

export function testWords(test: ValueTest): string {
  switch (test.kind) {
    case 'one-of':
      return test.values.length === 1 ? `is ${test.values[0]}` : `is one of ${listed(test.values)}`;
    case 'contains':
      return `contains ${test.part}`;
    case 'begins':
      return `begins with ${test.part}`;
    case 'has-value':
      return 'has a value';
    case 'has-none':
      return 'has no value';
    case 'number':
      return test.relation === 'EXACTLY' && test.number === 0
        ? 'none'
        : `${RELATIONS[test.relation]} ${test.number}`;
    case 'number-within':
      return `from ${test.least} to ${test.most}`;
    case 'day-within':
      return windowWords(test.window);
    case 'comes-round':
      return test.days === 0 ? 'has its anniversary today' : `has its anniversary within ${test.days} days`;
    case 'truth':
      return test.truth ? 'is yes' : 'is no';
  }
}

/** How often, before what was done: "made no crossings". */
export function countWords(test: ValueTest): string {
  return test.kind === 'number' && test.relation === 'EXACTLY' && test.number === 0 ? 'no' : testWords(test);
}

/** What is asked of a computed value, after "is". */
export function valueWords(test: ValueTest): string {
  return test.kind === 'number' && test.number === 0 ? `${RELATIONS[test.relation]} 0` : testWords(test);
}

/** How a line begins before it is negated: "whose home port", "who made". */
export function lineWord(condition: Condition): 'who' | 'whose' {
  const value =
    condition.kind === 'attribute' ||
    (condition.kind === 'events' && condition.measure.aggregation.kind !== 'count');
  return value ? 'whose' : 'who';
}

const TEST_KINDS: Record<ValueTest['kind'], { words: string; types: ColumnType[] }> = {
  'one-of': { words: 'is one of', types: ['TEXT'] },
  contains: { words: 'contains', types: ['TEXT'] },
  begins: { words: 'begins with', types: ['TEXT'] },
  number: { words: 'compared with a number', types: ['INTEGER', 'DECIMAL'] },
  'number-within': { words: 'from one number to another', types: ['INTEGER', 'DECIMAL'] },
  'day-within': { words: 'within a period', types: ['DATE', 'TIMESTAMP'] },
  'comes-round': { words: 'has its anniversary, such as a birthday', types: ['DATE'] },
  truth: { words: 'is yes or no', types: ['BOOLEAN'] },
  'has-value': {
    words: 'has a value',
    types: ['TEXT', 'INTEGER', 'DECIMAL', 'BOOLEAN', 'DATE', 'TIMESTAMP'],
  },
  'has-none': {
    words: 'has no value',
    types: ['TEXT', 'INTEGER', 'DECIMAL', 'BOOLEAN', 'DATE', 'TIMESTAMP'],
  },
};

/** Tests that can be asked of values of a type, the usual one first. */
export function testsFor(type: ColumnType): [ValueTest['kind'], string][] {
  return (Object.keys(TEST_KINDS) as ValueTest['kind'][])
    .filter((kind) => TEST_KINDS[kind].types.includes(type))
    .map((kind) => [kind, TEST_KINDS[kind].words]);
}

export function freshTest(kind: ValueTest['kind'], today: string): ValueTest {
  switch (kind) {
    case 'one-of':
      return { kind, values: ['…'] };
    case 'contains':
    case 'begins':
      return { kind, part: '' };
    case 'has-value':
    case 'has-none':
      return { kind };
    case 'number':
      return { kind, relation: 'AT_LEAST', number: 1 };
    case 'number-within':
      return { kind, least: 1, most: 10 };
    case 'day-within':
      return { kind, window: freshWindow('last-days', today) };
    case 'comes-round':
      return { kind, days: 14 };
    case 'truth':
      return { kind, truth: true };
  }
}

export function usualTest(type: ColumnType, today: string): ValueTest {
  return freshTest(testsFor(type)[0]?.[0] ?? 'has-value', today);
}

const AGGREGATIONS: Record<Aggregation['kind'], string> = {
  count: 'how many',
  sum: 'the sum of',
  average: 'the average of',
  smallest: 'the smallest',
  largest: 'the largest',
  first: 'the first',
  last: 'the latest',
  'first-day': 'the day of the first',
  'last-day': 'the day of the latest',
  'days-since': 'days since the latest',
  distinct: 'how many different',
  streak: 'the longest streak of',
  share: 'the share that also match',
};
export const AGGREGATION_WORDS = Object.entries(AGGREGATIONS) as [Aggregation['kind'], string][];

export function aggregationWords(how: Aggregation): string {
  if ('column' in how) return `${AGGREGATIONS[how.kind]} ${attributeWords(how.column).toLowerCase()}`;
  if (how.kind === 'streak') return `the longest streak of ${SPANS[how.span]}s with one`;
  return AGGREGATIONS[how.kind];
}

const NUMBERS_ONLY: Aggregation['kind'][] = ['sum', 'average', 'smallest', 'largest'];

/** Columns that an aggregation can be over. */
export function columnsFor(
  kind: Aggregation['kind'],
  columns: { name: string; type: ColumnType }[],
): string[] {
  return columns
    .filter((one) => !NUMBERS_ONLY.includes(kind) || one.type === 'INTEGER' || one.type === 'DECIMAL')
    .map((one) => one.name);
}

/** An aggregation of a kind, or none where the events have no column it could be over. */
export function freshAggregation(
  kind: Aggregation['kind'],
  columns: { name: string; type: ColumnType }[],
): Aggregation | undefined {
  switch (kind) {
    case 'count':
    case 'first-day':
    case 'last-day':
    case 'days-since':
      return { kind };
    case 'streak':
      return { kind, span: 'WEEK' };
    case 'share':
      return { kind, tests: [] };
    default: {
      const column = columnsFor(kind, columns)[0];
      return column === undefined ? undefined : { kind, column };
    }
  }
}

/** The type of a measure's value. */
export function measureType(measure: Measure, words: ConditionWords): ColumnType {
  const how = measure.aggregation;
  if (how.kind === 'first-day' || how.kind === 'last-day') return 'DATE';
  if (how.kind === 'first' || how.kind === 'last') {
    const columns = words.events.find((one) => one.name === measure.of.events)?.columns ?? [];
    return columns.find((one) => one.name === how.column)?.type ?? 'TEXT';
  }
  return how.kind === 'count' || how.kind === 'distinct' || how.kind === 'streak' || how.kind === 'days-since'
    ? 'INTEGER'
    : 'DECIMAL';
}

function eventsWords(of: EventsOf): string {
  const where = of.where.map((one) => `${attributeWords(one.column).toLowerCase()} ${testWords(one.test)}`);
  return of.events.toLowerCase() + (where.length > 0 ? ` whose ${where.join(' and ')}` : '');
}

const ONCE: Partial<Record<TestOf<'number'>['relation'], string>> = {
  EXACTLY: ' exactly once',
  AT_LEAST: '',
  AT_MOST: ' at most once',
  OVER: ' more than once',
};

/** What somebody did, as a sentence without its subject: "made at least 3 crossings in the last 90 days". */
function eventWords({ of, aggregation, window }: Measure, test: ValueTest): string {
  const events = eventsWords(of);
  const when = windowWords(window);
  if (aggregation.kind === 'count' && test.kind === 'number') {
    if (
      (test.relation === 'EXACTLY' && test.number === 0) ||
      (test.relation === 'UNDER' && test.number === 1)
    )
      return `made no ${events} ${when}`;
    const once = test.number === 1 ? ONCE[test.relation] : undefined;
    return once === undefined ? `made ${testWords(test)} ${events} ${when}` : `made ${events}${once} ${when}`;
  }
  if (aggregation.kind === 'count' && test.kind === 'number-within') {
    return `made ${test.least} to ${test.most} ${events} ${when}`;
  }
  const value = `${aggregationWords(aggregation)} of ${events} ${when}`;
  return test.kind === 'number' || test.kind === 'number-within'
    ? `${value} is ${valueWords(test)}`
    : `${value} ${testWords(test)}`;
}

/** A condition in one line, for lists and for readers. */
export function conditionWords(condition: Condition, words?: ConditionWords): string {
  const named = (list: { id: number; name: string }[] | undefined, id: number) =>
    list?.find((one) => one.id === id)?.name ?? `${id}`;
  switch (condition.kind) {
    case 'everyone':
      return 'all people';
    case 'all':
    case 'any':
      return condition.conditions
        .map((one) =>
          one.kind === 'all' || one.kind === 'any'
            ? `(${conditionWords(one, words)})`
            : conditionWords(one, words),
        )
        .join(condition.kind === 'all' ? ' and ' : ' or ');
    case 'not':
      return `not ${conditionWords(condition.condition, words)}`;
    case 'attribute':
      return `${attributeWords(condition.attribute)} ${testWords(condition.test)}`;
    case 'events':
      return eventWords(condition.measure, condition.test);
    case 'sequence':
      return `made ${eventsWords(condition.first)} ${windowWords(condition.window)}, then ${condition.none ? 'no ' : ''}${eventsWords(condition.then)} within ${condition.days} days`;
    case 'audience':
      return `in audience ${named(words?.audiences, condition.audience)}`;
    case 'consent':
      return `${ANSWER_WORDS[condition.answer]} to ${condition.purpose} by ${condition.channel}`;
    case 'dataset':
      return `has a record in ${named(words?.datasets, condition.dataset)}`;
    case 'sent':
      return `${condition.state === 'SENT' ? 'present in the destination of' : 'held for'} ${named(words?.routes, condition.route)}`;
  }
}

/** Conditions of every kind that can be begun with what there is. The value is how a list names its choice. */
export function subjects(words: ConditionWords): { group: string; choices: [string, string][] }[] {
  const attributes = words.attributes.filter((one) => !one.measure);
  const measures = words.attributes.filter((one) => one.measure);
  const choice = (one: { name: string }): [string, string] => [
    `attribute ${one.name}`,
    attributeWords(one.name),
  ];
  const more: [string, string][] = [['everyone', 'All people']];
  if (words.audiences.length > 0) more.push(['audience', 'In another audience']);
  if (words.datasets.length > 0) more.push(['dataset', 'Has a record in a dataset']);
  if (words.purposes.length > 0) more.push(['consent', 'Consent']);
  if (words.routes.length > 0) more.push(['sent', 'Route activity']);
  return [
    { group: 'Attributes', choices: attributes.map(choice) },
    { group: 'Measures', choices: measures.map(choice) },
    {
      group: 'Events',
      choices: words.events.flatMap((one): [string, string][] => [
        [`events ${one.name}`, one.name],
        [`sequence ${one.name}`, `${one.name}, followed by`],
      ]),
    },
    { group: 'More', choices: more },
  ].filter((one) => one.choices.length > 0);
}

/** Which of {@link subjects} a condition is. */
export function subjectOf(leaf: Leaf): string {
  if (leaf.kind === 'attribute') return `attribute ${leaf.attribute}`;
  if (leaf.kind === 'events') return `events ${leaf.measure.of.events}`;
  if (leaf.kind === 'sequence') return `sequence ${leaf.first.events}`;
  return leaf.kind;
}

export function freshLeaf(subject: string, words: ConditionWords, today: string): Leaf {
  const [kind = '', name = ''] = subject.split(/ (.*)/s);
  switch (kind) {
    case 'attribute': {
      const type = words.attributes.find((one) => one.name === name)?.type ?? 'TEXT';
      return { kind: 'attribute', attribute: name, test: usualTest(type, today) };
    }
    case 'events':
      return {
        kind: 'events',
        measure: {
          of: { events: name, where: [] },
          window: freshWindow('last-days', today),
          aggregation: { kind: 'count' },
        },
        test: { kind: 'number', relation: 'AT_LEAST', number: 1 },
      };
    case 'sequence': {
      const then = words.events.find((one) => one.name !== name)?.name ?? name;
      return {
        kind: 'sequence',
        first: { events: name, where: [] },
        window: freshWindow('last-days', today),
        then: { events: then, where: [] },
        days: 14,
        none: true,
      };
    }
    case 'audience':
      return { kind: 'audience', audience: words.audiences[0]?.id ?? 0 };
    case 'dataset':
      return { kind: 'dataset', dataset: words.datasets[0]?.id ?? 0 };
    case 'consent': {
      const purpose = words.purposes[0];
      return {
        kind: 'consent',
        purpose: purpose?.purpose ?? '',
        channel: purpose?.channel ?? '',
        answer: 'YES',
      };
    }
    case 'sent':
      return { kind: 'sent', route: words.routes[0]?.id ?? 0, state: 'SENT' };
    default:
      return { kind: 'everyone' };
  }
}
