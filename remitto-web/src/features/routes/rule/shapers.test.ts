import { describe, expect, it } from 'vitest';
import { freshShaper, KINDS, shaperName, SHAPERS } from './shapers';

describe('a shaper in few words', () => {
  it('says where the country comes from', () => {
    expect(shaperName({ kind: 'e164', country: 'NO', countryColumn: '' })).toBe('E.164, NO');
    expect(shaperName({ kind: 'e164', country: 'NO', countryColumn: 'land' })).toBe('E.164, country in land');
  });

  it.each(KINDS)('%s has a name and a value for every setting it offers', (kind) => {
    const fresh = freshShaper(kind) as unknown as Record<string, unknown>;
    expect(fresh.kind).toBe(kind);
    expect(shaperName(freshShaper(kind))).not.toBe('');
    for (const setting of SHAPERS[kind].settings) expect(fresh).toHaveProperty(setting.name);
  });
});
