import { MariaSQL, PostgreSQL, StandardSQL, type SQLDialect } from '@codemirror/lang-sql';
import { format } from 'sql-formatter';

/** How SQL of a kind of database is coloured and laid out. */
interface Sql {
  editor: SQLDialect;
  language: 'postgresql' | 'mariadb' | 'sql';
}

const POSTGRESQL: Sql = { editor: PostgreSQL, language: 'postgresql' };
const KNOWN: Record<string, Sql> = {
  postgresql: POSTGRESQL,
  mariadb: { editor: MariaSQL, language: 'mariadb' },
};

/** @param dialect as the address of a source says it; absent for PostgreSQL */
export function sqlOf(dialect: string | undefined): Sql {
  if (dialect === undefined) return POSTGRESQL;
  return KNOWN[dialect] ?? { editor: StandardSQL, language: 'sql' };
}

/** The same text laid out; as it was where it cannot be read. */
export function laidOut(text: string, { language }: Sql): string {
  try {
    return format(text, { language, keywordCase: 'lower' });
  } catch {
    return text;
  }
}
