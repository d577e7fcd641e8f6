import { describe, expect, it } from 'vitest';
import { attributeWords, bits } from './words';

describe('bits', () => {
  it.each([
    [8.06, '+8.1'],
    [-2.34, '−2.3'],
    [0.04, '0.0'],
    [-0.04, '0.0'],
    [0, '0.0'],
  ])('says %d as %s', (value, text) => {
    expect(bits(value)).toBe(text);
  });
});

describe('attributeWords', () => {
  it.each([
    ['given_name', 'Given name'],
    ['BIRTH_DATE', 'Birth date'],
    ['passport', 'Passport'],
  ])('reads %s as %s', (name, words) => {
    expect(attributeWords(name)).toBe(words);
  });
});
