import type { Column, Expectation } from '../../api/types';

export type Demand = Expectation['demand'];
export type Kind = Demand['kind'];

const OF_CELLS: [Kind, string][] = [
  ['not-empty', 'is never empty'],
  ['unique', 'is unique'],
  ['one-of', 'is one of'],
  ['within', 'is within'],
  ['matches', 'matches the pattern'],
];
const OF_DATASET: [Kind, string][] = [
  ['row-count', 'has a row count'],
  ['fresh', 'has a new row within'],
];

export const RESPONSES: [Expectation['response'], string][] = [
  ['TELL', 'show it'],
  ['HOLD_ROWS', 'hold the rows'],
  ['STOP_ROUTES', 'stop routes'],
];

/** Whether the values of a column have an order. */
const isOrdered = (column: Column | undefined) => column?.type !== 'TEXT' && column?.type !== 'BOOLEAN';

/** What can be expected of a column, or of the dataset where there is none. */
export function kindsOf(column: Column | undefined, name: string | undefined): [Kind, string][] {
  if (!name) return OF_DATASET;
  return OF_CELLS.filter(([kind]) => kind !== 'within' || isOrdered(column));
}

export function fresh(kind: Kind): Demand {
  switch (kind) {
    case 'one-of':
      return { kind, values: [] };
    case 'within':
      return { kind, least: '0' };
    case 'matches':
      return { kind, pattern: '' };
    case 'row-count':
      return { kind, changePercent: 30 };
    case 'fresh':
      return { kind, hours: 24 };
    default:
      return { kind };
  }
}

export const isAboutCells = (one: Expectation) => one.column !== undefined;

/** Tells expectations apart whatever happens when they are not met. */
export const subjectOf = (one: Expectation) => JSON.stringify([one.column ?? '', one.demand]);
