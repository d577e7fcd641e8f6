import type { AudienceSendRequest, Column, RowsRequest } from '../../../api/types';

/** What receives the audience: an object that is there, or a new file. */
export interface Receiver {
  destinationId: number;
  object: string;
  file?: { name: string; jsonLines: boolean; changesOnly: boolean; key: string };
}

/** By column, the name it has there; what is missing stays here. */
export type Travels = Record<string, string>;

/** The request as the server takes it. */
export function sendRequest(
  name: string,
  receiver: Receiver,
  travels: Travels,
  rows: RowsRequest[],
  consent: string,
  place: { country: string; zone: string },
): AudienceSendRequest {
  return {
    name,
    destinationId: receiver.destinationId,
    ...(receiver.file ? { file: receiver.file } : { object: receiver.object }),
    basis:
      consent === ''
        ? { kind: 'none' }
        : { kind: 'consent', purpose: consent.replace(/^may_/, '').replaceAll('_', ' '), column: consent },
    columns: Object.entries(travels).map(([column, field]) => ({ column, field })),
    rows,
    ...place,
  };
}

/** What keeps the request from being sent, in words; nothing when it is whole. */
export function lacking(name: string, receiver: Receiver, travels: Travels, rows: RowsRequest[]): string[] {
  const names = [...Object.values(travels), ...rows.map((one) => one.field)];
  const twice = names.find((one, i) => one !== '' && names.indexOf(one) !== i);
  return [
    ...(name.trim() === '' ? ['a name for the route'] : []),
    ...(receiver.file || receiver.object ? [] : ['a destination object or file']),
    ...(receiver.file?.name === '' ? ['a name for the file'] : []),
    ...(Object.keys(travels).length === 0 ? ['at least one column to send'] : []),
    ...(names.includes('') ? ['a destination field for every sent column'] : []),
    ...(twice === undefined ? [] : [`different field names (${twice} is used twice)`]),
    ...(receiver.file && !Object.values(travels).includes(receiver.file.key) ? ['the key column'] : []),
  ];
}

/** Rows to begin with: the latest three, by when they happened. */
export function freshRows(events: number, field: string): RowsRequest {
  return {
    events,
    field,
    parts: [],
    only: [],
    pick: { orderBy: 'at', newestFirst: true, lookBackDays: 0, most: 3 },
  };
}

/** The columns of a file to begin with: the key, and addresses. */
export function usualForFile(columns: Column[]): Travels {
  const usual = columns.filter((column) => column.role === 'KEY' || column.name === 'email');
  return Object.fromEntries(usual.map((column) => [column.name, column.name]));
}
