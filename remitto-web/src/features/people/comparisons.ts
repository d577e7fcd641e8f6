import type { AttributeKind, Comparison, MatchRule } from '../../api/types';

type Kind = Comparison['kind'];

/** How a comparison is said after its attribute. */
export function comparisonWords(comparison: Comparison): string {
  switch (comparison.kind) {
    case 'same':
      return 'is the same';
    case 'alike':
      return `is similar by at least ${Math.round(comparison.least * 100)}%`;
    case 'sounds-alike':
      return 'sounds alike';
    case 'slips':
      return comparison.most === 1 ? 'differs by one typo' : `differs by up to ${comparison.most} typos`;
    case 'begins':
      return `begins with the same ${comparison.characters} characters`;
    case 'initial':
      return 'is the initial of the other';
    case 'shares-word':
      return 'shares a value with the other';
    case 'same-local-part':
      return 'is the same before the at sign';
    case 'same-tail':
      return `ends with the same ${comparison.characters} characters before the at sign`;
    case 'near':
      return `differs by at most ${comparison.most}`;
    case 'near-days':
      return comparison.most === 1
        ? 'differs by at most one day'
        : `differs by at most ${comparison.most} days`;
    case 'name-slip':
      return `differs by one typo, with ${comparison.letters} letters or more`;
    case 'first-word':
      return 'begins with the same name';
    case 'same-number-alike':
      return `is similar by at least ${Math.round(comparison.least * 100)}%, number the same`;
    case 'day-and-month-swapped':
      return 'is the same with day and month swapped';
    case 'two-date-parts':
      return 'is the same in two of year, month and day';
    default: {
      const never: never = comparison;
      return never;
    }
  }
}

const USUAL: Record<Kind, Comparison> = {
  same: { kind: 'same' },
  alike: { kind: 'alike', least: 0.92 },
  'sounds-alike': { kind: 'sounds-alike' },
  slips: { kind: 'slips', most: 1 },
  begins: { kind: 'begins', characters: 4 },
  initial: { kind: 'initial' },
  'shares-word': { kind: 'shares-word' },
  'same-local-part': { kind: 'same-local-part' },
  'same-tail': { kind: 'same-tail', characters: 8 },
  near: { kind: 'near', most: 1 },
  'near-days': { kind: 'near-days', most: 1 },
  'name-slip': { kind: 'name-slip', letters: 3 },
  'first-word': { kind: 'first-word' },
  'same-number-alike': { kind: 'same-number-alike', least: 0.85 },
  'day-and-month-swapped': { kind: 'day-and-month-swapped' },
  'two-date-parts': { kind: 'two-date-parts' },
};

/** What a kind of attribute can be compared by, the usual first. */
export function comparisonsOf(kind: AttributeKind): Comparison[] {
  const kinds: Kind[] =
    kind === 'EMAIL'
      ? ['same', 'same-local-part', 'slips', 'same-tail', 'alike']
      : kind === 'BIRTH_DATE'
        ? ['same', 'day-and-month-swapped', 'slips', 'two-date-parts', 'begins', 'near-days']
        : kind === 'NUMBER'
          ? ['same', 'near', 'slips']
          : kind === 'GIVEN_NAME'
            ? ['same', 'first-word', 'name-slip', 'alike', 'sounds-alike', 'slips', 'initial']
            : kind === 'LIST'
              ? ['same', 'shares-word']
              : kind === 'PHONE' || kind === 'IDENTIFIER' || kind === 'POSTCODE'
                ? ['same', 'slips', 'begins']
                : kind === 'ADDRESS'
                  ? ['same', 'same-number-alike', 'slips', 'alike', 'begins', 'shares-word']
                  : kind === 'FAMILY_NAME' || kind === 'TOWN'
                    ? ['same', 'name-slip', 'alike', 'sounds-alike', 'slips', 'begins']
                    : ['same', 'alike', 'sounds-alike', 'slips', 'begins', 'shares-word'];
  return kinds.map((one) => USUAL[one]);
}

/** The number a comparison hangs on, if it hangs on one. */
export function degree(comparison: Comparison): { name: string; value: number; step: number } | undefined {
  switch (comparison.kind) {
    case 'alike':
    case 'same-number-alike':
      return { name: 'similarity, %', value: Math.round(comparison.least * 100), step: 1 };
    case 'name-slip':
      return { name: 'minimum letters', value: comparison.letters, step: 1 };
    case 'slips':
      return { name: 'maximum typos', value: comparison.most, step: 1 };
    case 'near':
      return { name: 'maximum difference', value: comparison.most, step: 0.5 };
    case 'near-days':
      return { name: 'maximum days apart', value: comparison.most, step: 1 };
    case 'begins':
    case 'same-tail':
      return { name: 'characters', value: comparison.characters, step: 1 };
    default:
      return undefined;
  }
}

export function withDegree(comparison: Comparison, value: number): Comparison {
  switch (comparison.kind) {
    case 'alike':
      return { kind: 'alike', least: Math.min(100, Math.max(0, value)) / 100 };
    case 'same-number-alike':
      return { kind: 'same-number-alike', least: Math.min(100, Math.max(0, value)) / 100 };
    case 'name-slip':
      return { kind: 'name-slip', letters: Math.max(1, Math.round(value)) };
    case 'slips':
      return { kind: 'slips', most: Math.max(0, Math.round(value)) };
    case 'near':
      return { kind: 'near', most: Math.max(0, value) };
    case 'near-days':
      return { kind: 'near-days', most: Math.max(0, Math.round(value)) };
    case 'begins':
      return { kind: 'begins', characters: Math.max(1, Math.round(value)) };
    case 'same-tail':
      return { kind: 'same-tail', characters: Math.max(1, Math.round(value)) };
    default:
      return comparison;
  }
}

export const freshRule = (attribute: string): MatchRule => ({
  conditions: [{ attribute, comparison: USUAL.same, agrees: true }],
});
