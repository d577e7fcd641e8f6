import { describe, expect, it } from 'vitest';
import { freshLayout, moved, withColumn } from './layout';

describe('a file layout', () => {
  const layout = {
    ...freshLayout('members'),
    columns: [
      { name: 'id', kind: 'TEXT' as const, required: true },
      { name: 'mail', kind: 'EMAIL' as const, required: false },
    ],
  };

  it('keeps its key when the key column is renamed', () => {
    expect(withColumn(layout, 0, { name: 'Member', kind: 'TEXT', required: true }).key).toBe('Member');
    expect(withColumn(layout, 1, { name: 'E-mail', kind: 'EMAIL', required: false }).key).toBe('id');
  });

  it('moves columns, and leaves them at the ends', () => {
    expect(moved(layout, 0, 1).columns.map((one) => one.name)).toEqual(['mail', 'id']);
    expect(moved(layout, 0, -1)).toBe(layout);
    expect(moved(layout, 1, 1)).toBe(layout);
  });
});
