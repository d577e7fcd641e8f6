import { expect, it } from 'vitest';
import { comparisonsOf, comparisonWords, degree, freshRule, withDegree } from './comparisons';

it('says every comparison of every kind, with its degree', () => {
  for (const kind of ['EMAIL', 'BIRTH_DATE', 'NUMBER', 'GIVEN_NAME', 'LIST', 'PHONE', 'COMPANY'] as const) {
    const all = comparisonsOf(kind);
    expect(all[0]).toEqual({ kind: 'same' });
    for (const one of all) {
      expect(comparisonWords(one)).toMatch(/^(is|sounds|begins|shares|ends|differs) /);
      const has = degree(one);
      if (has) expect(degree(withDegree(one, has.value + 1))?.value).toBe(has.value + 1);
      else expect(withDegree(one, 7)).toEqual(one);
    }
  }
});

it('keeps degrees within what they can be', () => {
  expect(withDegree({ kind: 'alike', least: 0.9 }, 140)).toEqual({ kind: 'alike', least: 1 });
  expect(withDegree({ kind: 'slips', most: 1 }, -3)).toEqual({ kind: 'slips', most: 0 });
  expect(withDegree({ kind: 'begins', characters: 4 }, 0)).toEqual({ kind: 'begins', characters: 1 });
});

it('begins a rule with one attribute being the same', () => {
  expect(freshRule('email').conditions).toEqual([
    { attribute: 'email', comparison: { kind: 'same' }, agrees: true },
  ]);
});
