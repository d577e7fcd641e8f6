import { describe, expect, it } from 'vitest';
import { freshShaper, KINDS, shaperName, SHAPERS } from './shapers';

describe('a telephone number', () => {
  const named = (...names: string[]) => names.map((name) => ({ name }));
  it.each([
    [['phone', 'country'], 'country'],
    [['home_country', 'phone'], 'home_country'],
    [['Country_Code'], 'Country_Code'],
    [['phone', 'county', 'island'], ''],
  ])('of columns %j reads its country from %j', (columns, country) => {
    expect(freshShaper('e164', named(...columns))).toMatchObject({ kind: 'e164', countryColumn: country });
  });

  it('alone among shapers', () => {
    expect(freshShaper('trim', named('country'))).toEqual({ kind: 'trim' });
  });
});

describe('a shaper in few words', () => {
  it('says where the country comes from', () => {
    expect(shaperName({ kind: 'e164', country: 'NO', countryColumn: '' })).toBe('E.164, NO');
    expect(shaperName({ kind: 'e164', country: 'NO', countryColumn: 'land' })).toBe('E.164, country in land');
  });

  it.each(KINDS)('%s has a name and a value for every setting it offers', (kind) => {
    const fresh = freshShaper(kind, []) as unknown as Record<string, unknown>;
    expect(fresh.kind).toBe(kind);
    expect(shaperName(freshShaper(kind, []))).not.toBe('');
    for (const setting of SHAPERS[kind].settings) expect(fresh).toHaveProperty(setting.name);
  });
});
