import { describe, expect, it } from 'vitest';
import { freshRows, lacking, type Receiver, usualForFile, sendRequest } from './choice';

const LIST: Receiver = { destinationId: 2, object: 'commuters' };
const FILE: Receiver = {
  destinationId: 4,
  object: '',
  file: { name: 'islanders', jsonLines: true, changesOnly: false, key: 'Member' },
};
const PLACE = { country: 'NO', zone: 'Europe/Oslo' };

describe('what is chosen at sending', () => {
  it('goes to an object by its name, or to a new file', () => {
    expect(sendRequest('A route', LIST, { email: 'email_sha256' }, [], '', PLACE)).toEqual({
      name: 'A route',
      destinationId: 2,
      object: 'commuters',
      basis: { kind: 'none' },
      columns: [{ column: 'email', field: 'email_sha256' }],
      rows: [],
      ...PLACE,
    });
    const file = sendRequest('A route', FILE, { person_id: 'Member' }, [], 'may_newsletter_email', PLACE);
    expect(file.object).toBeUndefined();
    expect(file.file?.key).toBe('Member');
    expect(file.basis).toEqual({
      kind: 'consent',
      purpose: 'newsletter email',
      column: 'may_newsletter_email',
    });
  });

  it('says what is lacking', () => {
    expect(lacking('', { destinationId: 0, object: '' }, {}, [])).toEqual([
      'a name for the route',
      'a destination object or file',
      'at least one column to send',
    ]);
    expect(lacking('A route', LIST, { email: '' }, [])).toEqual([
      'a destination field for every sent column',
    ]);
    expect(lacking('A route', LIST, { email: 'to' }, [freshRows(1, 'to')])).toEqual([
      'different field names (to is used twice)',
    ]);
    expect(lacking('A route', FILE, { email: 'Mail' }, [])).toEqual(['the key column']);
    expect(lacking('A route', FILE, { person_id: 'Member' }, [freshRows(1, 'Trips')])).toEqual([]);
  });

  it('begins with the key and the address of a file, and with the latest three rows', () => {
    expect(
      usualForFile([
        { name: 'person_id', type: 'INTEGER', role: 'KEY' },
        { name: 'email', type: 'TEXT', role: 'IDENTIFIER' },
        { name: 'home_port', type: 'TEXT', role: 'ATTRIBUTE' },
      ]),
    ).toEqual({ person_id: 'person_id', email: 'email' });
    expect(freshRows(1, 'latest_bookings').pick).toEqual({
      orderBy: 'at',
      newestFirst: true,
      lookBackDays: 0,
      most: 3,
    });
  });
});
