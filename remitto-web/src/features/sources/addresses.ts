import type { KnownDialect, Source } from '../../api/types';

type Address = Source['address'];
export type DatabaseAddress = Extract<Address, { kind: 'database' }>;
export type FileAddress = Exclude<Address, { kind: 'database' | 'calls' }>;

export const POSTGRESQL = 'postgresql';

/** Kinds of source besides databases, by the kind of their address. */
export const PLACES = [
  { kind: 'folder', title: 'Folder on the server' },
  { kind: 'file-server', title: 'SFTP server' },
  { kind: 'upload', title: 'Uploaded files' },
] as const;

/** Other tools call with the rows. */
export const CALLS = { kind: 'calls', title: 'Receivers of calls' } as const;

export const BEGINNING: DatabaseAddress = {
  kind: 'database',
  host: '',
  port: 5432,
  database: '',
  user: '',
  tls: 'REQUIRED',
};

/** What a source is of: a dialect, or a kind of place. */
export function chosen(address: Address): string {
  return address.kind === 'database' ? (address.dialect ?? POSTGRESQL) : address.kind;
}

/** The address for another kind, with what both have in common. */
export function another(address: Address, to: string, dialects: KnownDialect[]): Address {
  switch (to) {
    case 'folder':
      return { kind: 'folder', folder: '' };
    case 'upload':
      return { kind: 'upload' };
    case 'calls':
      return { kind: 'calls' };
    case 'file-server':
      return { kind: 'file-server', host: '', port: 22, folder: '', user: '', hostKey: '' };
    default: {
      const before = address.kind === 'database' ? address : BEGINNING;
      const usual = dialects.find((one) => one.name === (before.dialect ?? POSTGRESQL))?.port;
      const next = dialects.find((one) => one.name === to);
      return {
        ...before,
        dialect: to === POSTGRESQL ? undefined : to,
        // A port that somebody wrote stays; the usual one of the former database goes with it.
        port: next && before.port === usual ? next.port : before.port,
        tls: next && !next.tls ? 'OFF' : before.tls,
      };
    }
  }
}

/** The same without spaces around what was typed. */
export function trimmed<T extends Address>(address: T): T {
  return Object.fromEntries(
    Object.entries(address).map(([name, value]) => [name, typeof value === 'string' ? value.trim() : value]),
  ) as T;
}

/** Where it is, in one line. */
export function addressWords(at: Address): string {
  switch (at.kind) {
    case 'folder':
      return at.folder || 'the inbox folder';
    case 'upload':
      return 'uploaded here';
    case 'calls':
      return 'other tools call here';
    case 'file-server':
      return `${at.user}@${at.host}:${at.port}/${at.folder.replace(/^\/+/, '')}`;
    default:
      return `${at.user}@${at.host}:${at.port}/${at.database}`;
  }
}

/** Whether a password that was given for one is for the other too. */
export function same(one: Address, other: Address): boolean {
  const plain = (address: Address) =>
    JSON.stringify(
      Object.entries(address)
        .filter(([, value]) => value !== undefined)
        .sort(),
    );
  return plain(one) === plain(other);
}
