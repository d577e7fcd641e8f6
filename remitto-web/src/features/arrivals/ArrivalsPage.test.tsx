import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import { beforeEach, describe, expect, it } from 'vitest';
import type { Arrival } from '../../api/types';
import { AT, show, signIn } from '../../testing/page';
import { server } from '../../testing/server';
import { ArrivalsPage } from './ArrivalsPage';

const arrival = (over: Partial<Arrival> = {}): Arrival => ({
  kind: 'CALL',
  id: 12,
  at: AT,
  subject: { id: 4, name: 'Shop sign-ups', sourceId: 2, source: 'Calls of partners' },
  what: '',
  rows: 1,
  first: ['C-40911', 'Runa Thune'],
  mark: 'FITS',
  detail: '',
  ...over,
});

beforeEach(() => {
  signIn('EDITOR');
  server.on('GET', '/api/sources', []);
  server.on('GET', '/api/arrivals/sums', {
    arrivals: 3,
    subjects: [
      {
        kind: 'CALL',
        subject: arrival().subject,
        arrivals: 3,
        hours: Array.from({ length: 24 }, (_, i) => (i === 23 ? 3 : 0)),
      },
    ],
  });
  server.on('GET', '/api/arrivals', [
    arrival(),
    arrival({ id: 11, first: [], rows: 0, mark: 'HELD', detail: 'email is no text' }),
    arrival({
      kind: 'FILE',
      id: 3,
      what: 'berths.csv',
      rows: 211,
      first: [],
      subject: { id: 7, name: 'Harbour berths', sourceId: 3, source: 'Harbour offices' },
    }),
    arrival({
      kind: 'READ',
      id: 9,
      what: 'read for matching',
      rows: 2484,
      first: [],
      mark: 'UNEXPECTED',
      detail: 'Expected that email is never empty. 3 rows do not meet this.',
    }),
  ]);
});

const open = () => show(<ArrivalsPage />, '/sources/arrivals', '/sources/arrivals');

describe('what comes in', () => {
  it('stands with its content and what became of it', async () => {
    open();
    const call = within((await screen.findByText('C-40911, Runa Thune')).closest('tr') ?? document.body);
    expect(call.getByText('fits')).toBeVisible();
    expect(screen.getByText('email is no text')).toBeVisible();
    expect(screen.getByText('berths.csv, 211 rows')).toBeVisible();
    expect(screen.getByText('2,484 rows read for matching')).toBeVisible();
    expect(screen.getByText('not as expected')).toBeVisible();
    expect(screen.getByText(/3 arrivals within 24 hours/)).toBeVisible();
    expect(
      screen.getByRole('img', { name: /Shop sign-ups, by the hour:.*3 calls, this hour/ }),
    ).toBeVisible();
  });

  it('is asked for by what the filter says', async () => {
    open();
    await screen.findByText('C-40911, Runa Thune');
    fireEvent.change(screen.getByLabelText('Kind'), { target: { value: 'FILE' } });
    fireEvent.click(screen.getByRole('button', { name: 'Only problems' }));
    await waitFor(() =>
      expect(server.askedOf('GET', '/api/arrivals').at(-1)?.query).toMatchObject({
        kind: 'FILE',
        troubled: 'true',
      }),
    );
  });

  it('stands still while the view is paused', async () => {
    open();
    await screen.findByText('C-40911, Runa Thune');
    fireEvent.click(screen.getByRole('button', { name: 'Pause view' }));
    expect(screen.getByRole('button', { name: 'Resume view' })).toBeVisible();
  });

  it('says what the page is for while nothing came in', async () => {
    server.on('GET', '/api/arrivals', []);
    open();
    expect(await screen.findByText(/Nothing has come in yet/)).toBeVisible();
  });

  it('is followed to the person, the audiences and the destinations', async () => {
    server.on('GET', '/api/arrivals/{kind}/{id}', {
      arrival: arrival(),
      columns: ['customer_no', 'name'],
      rows: [['C-40911', 'Runa Thune']],
      records: [
        {
          datasetId: 6,
          dataset: 'Sign-ups',
          key: 'C-40911',
          person: 77,
          audiences: [{ id: 5, name: 'At risk' }],
          records: [
            {
              routeId: 1,
              route: 'Letters',
              destinationId: 2,
              destination: 'Postbag Mail',
              object: 'person',
              remoteId: 'p 1',
              held: '',
            },
            {
              routeId: 3,
              route: 'Contacts',
              destinationId: 2,
              destination: 'Purser CRM',
              object: 'contact',
              remoteId: '',
              held: 'phone is no number',
            },
          ],
        },
      ],
    });
    open();
    fireEvent.click((await screen.findAllByRole('button', { name: 'Shop sign-ups' }))[0] as HTMLElement);
    expect(await screen.findByRole('link', { name: 'Person 77' })).toHaveAttribute('href', '/people/77');
    expect(screen.getByRole('link', { name: 'At risk' })).toHaveAttribute('href', '/audiences/5');
    expect(screen.getByRole('link', { name: 'in Postbag Mail' })).toHaveAttribute(
      'href',
      '/explain?destination=2&object=person&record=p%201',
    );
    expect(screen.getByText('phone is no number')).toBeVisible();
    fireEvent.click(screen.getByRole('button', { name: 'Close' }));
    await waitFor(() => expect(screen.queryByRole('link', { name: 'Person 77' })).toBeNull());
  });
});
