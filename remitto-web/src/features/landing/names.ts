/** A table's name out of what its rows are called. */
export function tableOf(name: string): string {
  return name
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, '_')
    .replace(/^_+|_+$/g, '')
    .slice(0, 40);
}

/** A name as it stands in SQL. */
export function plain(name: string): string {
  return /^[a-z_][a-z0-9_]*$/.test(name) ? name : `"${name.replaceAll('"', '""')}"`;
}

/** The query over all columns of a landed table. */
export function queryOf(table: string, columns: string[]): string {
  return `select ${columns.map(plain).join(', ')}\nfrom landed.${plain(table)}`;
}

/** A size as people say it, in steps of a thousand. */
export function bytes(size: number): string {
  const units = ['bytes', 'kB', 'MB', 'GB', 'TB'];
  const step = size < 1000 ? 0 : Math.min(4, Math.floor(Math.log10(size) / 3));
  const value = size / 1000 ** step;
  return `${step === 0 || value >= 100 ? Math.round(value) : value.toFixed(1)} ${units[step]}`;
}
