import { expect, it } from 'vitest';
import { nicknamesOf, nicknamesText, shortFormsOf } from './nicknames';

it('reads a line each and passes over what is not finished', () => {
  const pairs = nicknamesOf('Bea, Beatrix\n\nKalle\nPelle ,Per\nUlla,');
  expect(pairs).toEqual([
    { nickname: 'Bea', name: 'Beatrix' },
    { nickname: 'Pelle', name: 'Per' },
  ]);
  expect(nicknamesOf(nicknamesText(pairs))).toEqual(pairs);
});

const PAIRS = [
  { nickname: 'pelle', name: 'per' },
  { nickname: 'alex', name: 'alexandra' },
  { nickname: 'alex', name: 'alexander' },
  { nickname: 'alexa', name: 'alexandra' },
];

it('tells all the names of a short form in one line, in order', () => {
  expect(shortFormsOf(PAIRS, '').map((one) => one.nickname)).toEqual(['alex', 'alexa', 'pelle']);
  expect(shortFormsOf(PAIRS, '')[0]).toEqual({ nickname: 'alex', names: ['alexandra', 'alexander'] });
});

it('finds a short form by itself or by its names, and puts the very one first', () => {
  expect(shortFormsOf(PAIRS, ' Alexa ').map((one) => one.nickname)).toEqual(['alexa', 'alex']);
  expect(shortFormsOf(PAIRS, 'alexa').map((one) => one.nickname)).toEqual(['alexa', 'alex']);
  const more = [...PAIRS, { nickname: 'sandra', name: 'pelléa' }, { nickname: 'apella', name: 'a pel' }];
  expect(shortFormsOf(more, 'pel').map((one) => one.nickname)).toEqual(['pelle', 'apella', 'sandra']);
  expect(shortFormsOf(PAIRS, 'per').map((one) => one.nickname)).toEqual(['pelle']);
  expect(shortFormsOf(PAIRS, 'nobody')).toEqual([]);
});
