import { fireEvent, screen, waitFor } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { AT, show as page } from '../../testing/page';
import { server } from '../../testing/server';
import { HeldPage } from './HeldPage';

const GROUPS = [
  {
    routeId: 1,
    route: 'Passes',
    destination: 'Purser CRM',
    code: 'unusable:phone',
    title: 'phone cannot be used, so the record is held',
    about: 'phone',
    teller: 'ROUTE',
    remedies: ['TRY_AGAIN'],
    field: '',
    reasons: [
      { reason: '"12" has too few digits', records: 1 },
      { reason: '"none" is not a phone number', records: 1 },
    ],
    differentReasons: 4,
    firstSeen: AT,
    records: 2,
  },
  {
    routeId: 2,
    route: 'Say so',
    destination: 'Foghorn',
    code: 'outcome-unknown',
    title: 'Outcome unknown: no answer came back',
    about: '',
    teller: 'DESTINATION',
    remedies: ['SAY_WHETHER_IT_ARRIVED'],
    field: '',
    reasons: [{ reason: 'too few digits', records: 1 }],
    differentReasons: 1,
    firstSeen: AT,
    records: 1,
  },
  {
    routeId: 3,
    route: 'Freight',
    destination: 'Purser CRM',
    code: 'no-key',
    title: 'The key is empty',
    about: '',
    teller: 'SOURCE',
    remedies: [],
    field: '',
    reasons: [{ reason: 'too few digits', records: 1 }],
    differentReasons: 1,
    firstSeen: AT,
    records: 4,
  },
];

const RECORD = {
  id: 11,
  routeId: 1,
  route: 'Passes',
  key: 'P-7',
  label: 'Ingrid Solvang',
  field: 'phone',
  code: 'value:phone',
  reason: 'The number has too few digits',
  values: [{ field: 'phone', old: '+4791000000', fresh: '12' }],
  runId: 4,
  firstSeen: AT,
  lastSeen: AT,
  tries: 3,
};

const show = (at: string) => page(<HeldPage />, at, '/held');

/** What was asked for by a press. */
const posted = () =>
  server.asked.filter((one) => one.method === 'POST').map(({ path, body }) => ({ path, body }));

function holds() {
  server.on('GET', '/api/held', { total: 7, groups: GROUPS });
  server.on('GET', '/api/held/records', { records: [RECORD] });
}

describe('what is held', () => {
  it('has its reason in words, its values at that time, and how often it was tried', async () => {
    holds();
    show('/held');
    expect(await screen.findByText('The number has too few digits')).toBeVisible();
    expect(screen.getByText('phone cannot be used, so the record is held')).toBeVisible();
    expect(screen.getByText('Outcome unknown: no answer came back')).toBeVisible();
    expect(screen.getByLabelText('Most frequent: Outcome unknown: no answer came back')).toHaveTextContent(
      'too few digits1',
    );
    expect(screen.getByText('3', { selector: 'td' })).toBeVisible();
    expect(screen.getByText('+4791000000')).toBeInTheDocument();
    expect(screen.queryByText(/again now/)).toBeNull();
  });

  it('tells the values that hold most records, each with how often, and narrows the list to one', async () => {
    holds();
    show('/held?route=1&code=unusable:phone');
    const most = await screen.findByLabelText('Most frequent: phone cannot be used, so the record is held');
    expect(most).toHaveTextContent(
      '"12" has too few digits1"none" is not a phone number1and 2 other reasons',
    );
    fireEvent.click(screen.getByRole('button', { name: /is not a phone number/ }));
    await waitFor(() => expect(server.asked.at(-1)?.query.find).toBe('"none" is not a phone number'));
  });

  it('says so where no record matches', async () => {
    server.on('GET', '/api/held', { total: 7, groups: GROUPS });
    server.on('GET', '/api/held/records', { records: [] });
    show('/held?route=1&code=nothing');
    expect(await screen.findByText('No held record matches.')).toBeVisible();
  });

  it('can be tried again, some or all of a reason', async () => {
    holds();
    server.on('POST', '/api/routes/{id}/held/retry', { runId: 5 });
    show('/held?route=1&code=unusable:phone');
    expect(await screen.findByText('Try all of them again now')).toBeVisible();
    fireEvent.click(await screen.findByLabelText('Choose P-7'));
    fireEvent.click(screen.getByText('Try 1 record again now'));
    await waitFor(() =>
      expect(posted()).toEqual([
        { path: '/api/routes/1/held/retry', body: { code: 'unusable:phone', keys: ['P-7'] } },
      ]),
    );
    await waitFor(() => expect(screen.getByLabelText('Address')).toHaveTextContent('/manifests/5'));
  });

  it('asks a person what became of a call whose outcome nobody knows', async () => {
    holds();
    server.on('POST', '/api/routes/{id}/held/unknown', { records: 1 });
    show('/held?route=2&code=outcome-unknown');
    expect(await screen.findByText('It arrived: all of them')).toBeVisible();
    expect(screen.queryByText(/again now/)).toBeNull();
    fireEvent.click(screen.getByText('Send all of them again'));
    await waitFor(() =>
      expect(posted()).toEqual([{ path: '/api/routes/2/held/unknown', body: { keys: [], arrived: false } }]),
    );
  });

  it('offers nothing where nothing helps but mending the cause', async () => {
    holds();
    show('/held?route=3&code=no-key');
    expect(await screen.findByRole('button', { name: /The key is empty/ })).toHaveAttribute(
      'aria-pressed',
      'true',
    );
    expect(await screen.findByLabelText('Choose P-7')).toBeVisible();
    expect(screen.queryByText(/again/)).toBeNull();
    expect(screen.queryByText(/arrived/, { selector: 'button' })).toBeNull();
  });

  it('can be narrowed to what is about one field', async () => {
    holds();
    show('/held?field=phone');
    expect(await screen.findByText('phone cannot be used, so the record is held')).toBeVisible();
    expect(screen.queryByText('The key is empty')).toBeNull();
  });

  it('says what being held means when nothing is', async () => {
    server.on('GET', '/api/held', { total: 0, groups: [] });
    server.on('GET', '/api/held/records', { records: [] });
    show('/held');
    expect(await screen.findByText(/released when\s+the cause is resolved/)).toBeVisible();
  });
});
