import { describe, expect, it } from 'vitest';
import { bytes, tableOf } from '../landing/names';
import { formatWords } from './words';

describe('words of files', () => {
  it('says sizes in steps of a thousand', () => {
    expect([0, 999, 1000, 1500, 99_949, 213_000, 2_000_000_000].map(bytes)).toEqual([
      '0 bytes',
      '999 bytes',
      '1.0 kB',
      '1.5 kB',
      '99.9 kB',
      '213 kB',
      '2.0 GB',
    ]);
  });

  it('makes a name of a table that queries can write without quotes', () => {
    expect(tableOf(' Berths of Sandvik! ')).toBe('berths_of_sandvik');
    expect(tableOf('Été 2026')).toBe('ete_2026');
    expect(tableOf('***')).toBe('');
  });

  it('tells how rows are spelled', () => {
    expect(
      formatWords({
        kind: 'delimited',
        delimiter: '\t',
        quote: '"',
        encoding: 'UTF-8',
        skippedLines: 0,
        header: false,
      }),
    ).toBe('tab between values, UTF-8, no header');
    expect(formatWords({ kind: 'json-lines' })).toBe('JSON Lines');
    expect(formatWords({ kind: 'xlsx', sheet: '', skippedLines: 0, header: true })).toBe('XLSX, first sheet');
    expect(formatWords({ kind: 'xlsx', sheet: 'Berths', skippedLines: 2, header: false })).toBe(
      'XLSX, sheet Berths, no header',
    );
  });
});
