import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import { beforeEach, describe, expect, it } from 'vitest';
import { AT, show, signIn } from '../../testing/page';
import { server } from '../../testing/server';
import { SourcePage } from '../sources/SourcePage';
import { ReceiverEditorPage } from './ReceiverEditorPage';
import { ReceiverPage } from './ReceiverPage';

const SOURCE = {
  id: 4,
  name: 'Partner calls',
  kind: 'calls',
  product: 'Receivers',
  address: { kind: 'calls' },
  testedAt: AT,
  problem: '',
};

const COLUMNS = [{ name: 'mail', from: 'person.mail', type: 'TEXT', spelling: '' }];

const DEFINITION = {
  check: { kind: 'standard-webhooks' },
  records: '',
  columns: COLUMNS,
  eventKey: '',
  several: { kind: 'every-call-adds' },
  zone: 'UTC',
  keepDays: 0,
  callsPerMinute: 6000,
  mostKilobytes: 256,
};

const RECEIVER = {
  id: 9,
  sourceId: 4,
  source: 'Partner calls',
  name: 'Sign-ups',
  table: 'sign_ups',
  definition: DEFINITION,
  revision: 2,
  shownRevision: 2,
  catching: false,
  layingOut: false,
  author: 'edda',
  savedAt: AT,
  paused: false,
  problem: '',
  counts: { lastDay: 10_000, waiting: 0, held: 1, lastAt: AT },
};

const CATCHING = {
  ...RECEIVER,
  definition: { ...DEFINITION, columns: [] },
  revision: 1,
  shownRevision: 0,
  catching: true,
  counts: { lastDay: 2, waiting: 2, held: 0, lastAt: AT },
};

const CALLS = [
  {
    id: 32,
    receivedAt: AT,
    verdict: 'REFUSED',
    records: 0,
    rows: 0,
    problem: 'The call is not signed.',
    bytes: 2,
  },
  {
    id: 31,
    receivedAt: AT,
    verdict: 'HELD',
    records: 3,
    rows: 2,
    problem: 'record 2: is no object.',
    bytes: 90,
  },
  { id: 30, receivedAt: AT, verdict: 'KEPT', records: 5, rows: 4, problem: '', bytes: 1500 },
];

const value = (from: string, name: string, type: string, example: string) => ({
  from,
  example,
  proposed: {
    column: { name, from, type, spelling: '' },
    evidence: '2 of 2 filled',
    filled: 2,
    distinct: 2,
    asKey: true,
  },
});

const SAMPLE = {
  calls: 2,
  values: [
    value('person.mail', 'person_mail', 'TEXT', 'liv@vik.example'),
    value('person.seats', 'person_seats', 'INTEGER', '2'),
    value('@header.x-event', 'x_event', 'TEXT', 'e1'),
  ],
  rows: [
    { call: 31, cells: ['liv@vik.example'], event: 'e1', problem: '' },
    { call: 30, cells: [], event: '', problem: 'person_seats: "many" is not a number.' },
  ],
  held: 1,
};

beforeEach(() => {
  signIn('EDITOR');
  server.on('GET', '/api/sources/dialects', []);
  server.on('GET', '/api/sources/{id}', SOURCE);
  server.on('GET', '/api/receivers', [RECEIVER]);
  server.on('GET', '/api/receivers/{id}', RECEIVER);
  server.on('GET', '/api/receivers/{id}/calls', CALLS);
  server.on('POST', '/api/receivers/{id}/sample', SAMPLE);
});

const PAGE = ['/sources/4/receivers/9', '/sources/:source/receivers/:id'] as const;
const EDIT = ['/sources/4/receivers/9/edit', '/sources/:source/receivers/:id/edit'] as const;

/** What the page asked for last by a method. */
const last = (method: string) => server.asked.filter((one) => one.method === method).at(-1)?.body;

describe('a source of calls', () => {
  it('shows its receivers, and asks for neither an address nor a password', async () => {
    show(<SourcePage />, '/sources/4', '/sources/:id');
    const row = (await screen.findByRole('link', { name: 'Sign-ups' })).closest('tr') as HTMLElement;
    expect(row.textContent).toContain('landed.sign_ups');
    expect(row.textContent).toContain('10,000+');
    expect(row.textContent).toContain('‖ 1');
    expect(screen.queryByLabelText('Password')).toBeNull();
    expect(screen.queryByLabelText('Host')).toBeNull();
  });
});

describe('a receiver', () => {
  it('shows its last calls, each with its verdict', async () => {
    show(<ReceiverPage />, ...PAGE);
    const calls = await screen.findByRole('table', { name: 'Last calls' });
    const rows = within(calls).getAllByRole('row').slice(1);
    expect(rows.map((one) => one.textContent)).toEqual([
      expect.stringMatching(/refusedThe call is not signed\.2 bytes$/),
      expect.stringMatching(/‖ heldrecord 2: is no object\.90 bytes$/),
      expect.stringMatching(/in the table4 rows of 5 records1\.5 kB$/),
    ]);
  });

  it('opens a call with its headers and its body', async () => {
    server.on('GET', '/api/receivers/{id}/calls/{call}', {
      call: CALLS[2],
      headers: { 'webhook-signature': '••••••', 'x-shop': 'Vik' },
      body: '{"a":1}',
    });
    show(<ReceiverPage />, ...PAGE);
    const calls = await screen.findByRole('table', { name: 'Last calls' });
    fireEvent.click(within(calls).getAllByRole('button')[2] as HTMLElement);
    expect((await screen.findByLabelText('Body')).textContent).toBe('{\n  "a": 1\n}');
    expect(screen.getByLabelText('Headers').textContent).toBe('webhook-signature••••••x-shopVik');
  });

  it('shows its address and secret when asked for them', async () => {
    server.on('POST', '/api/receivers/{id}/address/show', {
      url: 'http://remitto.example/in/abc',
      secret: 'whsec_x',
    });
    show(<ReceiverPage />, ...PAGE);
    expect(await screen.findByText(/checked by Standard Webhooks/)).toBeTruthy();
    expect(screen.queryByText('whsec_x')).toBeNull();
    fireEvent.click(screen.getByRole('button', { name: 'Show address and secret' }));
    expect(await screen.findByText('http://remitto.example/in/abc')).toBeTruthy();
    expect(screen.getByText('whsec_x')).toBeTruthy();
  });

  it('asks for columns once a sample was caught', async () => {
    server.on('GET', '/api/receivers/{id}', CATCHING);
    show(<ReceiverPage />, ...PAGE);
    expect(await screen.findByText(/2 calls caught as samples/)).toBeTruthy();
    expect(screen.getByRole('link', { name: 'Choose columns' }).getAttribute('href')).toBe(
      '/sources/4/receivers/9/edit',
    );
    expect(screen.queryByRole('button', { name: 'Replay calls' })).toBeNull();
  });

  it('replays calls from a moment on', async () => {
    server.on('POST', '/api/receivers/{id}/replay', { calls: 3 });
    show(<ReceiverPage />, ...PAGE);
    fireEvent.click(await screen.findByRole('button', { name: 'Replay calls' }));
    const dialog = await screen.findByRole('alertdialog');
    fireEvent.change(within(dialog).getByLabelText('From'), { target: { value: '0' } });
    fireEvent.click(within(dialog).getByRole('button', { name: 'Replay calls' }));
    await waitFor(() =>
      expect(within(dialog).getByRole('status').textContent).toBe('3 calls laid out again.'),
    );
    expect(last('POST')).toEqual({ from: '1970-01-01T00:00:00.000Z' });
  });

  it('shows a viewer no address and nothing to change', async () => {
    signIn('VIEWER');
    show(<ReceiverPage />, ...PAGE);
    await screen.findByRole('table', { name: 'Last calls' });
    for (const name of ['Show address and secret', 'Pause', 'Replay calls', 'Archive'])
      expect(screen.queryByRole('button', { name })).toBeNull();
  });
});

describe('the editor of a receiver', () => {
  it('lays columns out by pointing at what was caught', async () => {
    server.on('GET', '/api/receivers/{id}', CATCHING);
    server.on('PUT', '/api/receivers/{id}', RECEIVER);
    show(<ReceiverEditorPage />, ...EDIT);
    fireEvent.click(await screen.findByLabelText('Keep person.mail'));
    fireEvent.click(screen.getByLabelText('Keep person.seats'));
    fireEvent.click(screen.getByLabelText('@header.x-event tells events apart'));
    expect(screen.getByText('liv@vik.example', { selector: 'div' })).toBeTruthy();
    expect(await screen.findByText('‖ person_seats: "many" is not a number.')).toBeTruthy();
    fireEvent.click(screen.getByRole('button', { name: 'Save receiver' }));
    await waitFor(() =>
      expect(last('PUT')).toMatchObject({
        basedOn: 1,
        definition: {
          eventKey: '@header.x-event',
          columns: [
            { name: 'person_mail', from: 'person.mail', type: 'TEXT' },
            { name: 'person_seats', from: 'person.seats', type: 'INTEGER' },
          ],
        },
      }),
    );
  });

  it('says that another check brings another secret', async () => {
    show(<ReceiverEditorPage />, ...EDIT);
    fireEvent.change(await screen.findByLabelText('Calls are checked by'), { target: { value: 'hmac' } });
    expect(screen.getByText(/gets another secret/)).toBeTruthy();
    expect((screen.getByLabelText('Header') as HTMLInputElement).value).toBe('X-Signature');
  });

  it('chooses keys and the order of calls', async () => {
    server.on('PUT', '/api/receivers/{id}', RECEIVER);
    show(<ReceiverEditorPage />, ...EDIT);
    fireEvent.change(await screen.findByLabelText('Several calls'), { target: { value: 'latest-per-key' } });
    fireEvent.click(screen.getByLabelText('mail'));
    fireEvent.change(screen.getByLabelText('Column that says what changed'), { target: { value: 'mail' } });
    fireEvent.change(screen.getByLabelText('Words that remove a record'), { target: { value: 'gone, D,' } });
    fireEvent.click(screen.getByRole('button', { name: 'Save receiver' }));
    await waitFor(() =>
      expect(last('PUT')).toMatchObject({
        definition: {
          several: {
            kind: 'latest-per-key',
            keys: ['mail'],
            orderBy: '',
            change: 'mail',
            removes: ['gone', 'D'],
          },
        },
      }),
    );
  });
});
