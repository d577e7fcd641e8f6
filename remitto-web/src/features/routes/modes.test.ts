import { describe, expect, it } from 'vitest';
import { firstRun, guardSentence, leaving } from './modes';

describe('sentences of a route', () => {
  it('says what happens to who leaves', () => {
    expect(leaving({ kind: 'stay' })).toBe('leave the record untouched');
    expect(leaving({ kind: 'set', fields: [{ field: 'pass_status', text: 'former' }] })).toBe(
      'set pass_status = former',
    );
    expect(leaving({ kind: 'clear', fields: ['mobile', 'port'] })).toBe('clear mobile, port');
  });

  it('says that the first run is not decided yet', () => {
    expect(firstRun(undefined)).toBe('not decided yet');
    expect(firstRun({ alreadyThere: 'ADOPT', olderRows: 'SEND' })).toContain('adopted');
  });

  it('names every limit that is set, and only those', () => {
    const none = {};
    expect(
      guardSentence({
        removed: { percent: 10, count: 50 },
        held: { percent: 5 },
        changed: none,
        added: none,
        cleared: none,
        week: false,
        stopOnEmptyDataset: true,
        stopOnSchemaChange: false,
      }),
    ).toBe('require approval above 10% or 50 records removed, 5% held');
  });
});
