import { MariaSQL, PostgreSQL, StandardSQL } from '@codemirror/lang-sql';
import { describe, expect, it } from 'vitest';
import { laidOut, sqlOf } from './sqlOf';

describe('SQL of a source', () => {
  it('is PostgreSQL where nothing else is said', () => {
    expect(sqlOf(undefined).editor).toBe(PostgreSQL);
    expect(sqlOf('mariadb').editor).toBe(MariaSQL);
    expect(sqlOf('stone-tablets').editor).toBe(StandardSQL);
  });

  it('is laid out by its own rules', () => {
    expect(laidOut('SELECT `a b` FROM t # all', sqlOf('mariadb'))).toBe('select\n  `a b`\nfrom\n  t # all');
    expect(laidOut("SELECT a::text FROM t WHERE x = $$it's$$", sqlOf(undefined))).toContain('a::text');
  });

  it('stays as it is where it cannot be read', () => {
    expect(laidOut("select 'open", sqlOf('mariadb'))).toBe("select 'open");
  });
});
