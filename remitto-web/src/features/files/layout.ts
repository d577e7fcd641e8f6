import type { FileColumn, FileLayout } from '../../api/types';
import { zone } from '../../components/here';

/** A file to begin with: everybody, as CSV by the book. */
export function freshLayout(name: string): FileLayout {
  return {
    name,
    people: true,
    content: { kind: 'everybody' },
    folder: '',
    fileName: { pattern: `${name || 'file'}-{date}-{run}` },
    zone: zone(),
    form: {
      kind: 'csv',
      delimiter: ',',
      quoting: 'WHERE_NEEDED',
      lineEnd: 'CRLF',
      encoding: 'UTF_8',
      header: true,
      listDelimiter: ';',
    },
    gzip: false,
    key: 'id',
    columns: [{ name: 'id', kind: 'TEXT', required: true }],
  };
}

/** The layout with one of its columns another; the key follows its name. */
export function withColumn(layout: FileLayout, at: number, column: FileColumn): FileLayout {
  const before = layout.columns[at];
  return {
    ...layout,
    key: before !== undefined && before.name === layout.key ? column.name : layout.key,
    columns: layout.columns.map((one, place) => (place === at ? column : one)),
  };
}

/** The layout with a column at another place; nothing happens at the ends. */
export function moved(layout: FileLayout, at: number, by: number): FileLayout {
  const to = at + by;
  if (to < 0 || to >= layout.columns.length) return layout;
  const columns = [...layout.columns];
  const [column] = columns.splice(at, 1);
  if (column === undefined) return layout;
  columns.splice(to, 0, column);
  return { ...layout, columns };
}

export const ENCODINGS: Record<string, string> = {
  UTF_8: 'UTF-8',
  UTF_8_WITH_MARK: 'UTF-8 with a byte order mark',
  UTF_16: 'UTF-16',
  ISO_8859_1: 'ISO-8859-1',
  WINDOWS_1252: 'windows-1252',
};

export const DELIMITERS: Record<string, string> = {
  ',': 'commas',
  ';': 'semicolons',
  '\t': 'tabs',
  '|': 'vertical bars',
};
