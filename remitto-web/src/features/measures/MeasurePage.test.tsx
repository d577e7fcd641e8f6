import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import { beforeEach, describe, expect, it } from 'vitest';
import { AT, show, signIn } from '../../testing/page';
import { server } from '../../testing/server';
import { MeasurePage } from './MeasurePage';

const WORDS = {
  attributes: [
    { name: 'home_port', type: 'TEXT', measure: false },
    { name: 'fares_total', type: 'DECIMAL', measure: true },
  ],
  events: [
    { name: 'crossing', columns: [{ name: 'fare', type: 'DECIMAL' }] },
    { name: 'complaint', columns: [] },
  ],
  audiences: [],
  datasets: [],
  routes: [],
  purposes: [],
};

const MEASURE = {
  id: 6,
  name: 'crossings_90d',
  entityType: 'PERSON',
  derivation: {
    kind: 'events',
    measure: {
      of: { events: 'crossing', where: [] },
      window: { kind: 'last-days', days: 90 },
      aggregation: { kind: 'count' },
    },
    zone: 'Europe/Oslo',
    steps: [],
  },
  people: 812,
  refreshedAt: AT,
  millis: 40,
  problem: '',
};

beforeEach(() => {
  signIn('EDITOR');
  server.on('GET', '/api/measures', [MEASURE]);
  server.by('GET', '/api/conditions/words', ({ query }) =>
    query.entityType === 'COMPANY' ? { ...WORDS, events: [{ name: 'freight', columns: [] }] } : WORDS,
  );
  server.on('GET', '/api/measures/{id}/distribution', {
    type: 'INTEGER',
    with: 812,
    without: 88,
    middle: '3',
    bars: [
      { from: '1', to: '1', people: 300 },
      { from: '2', to: '9', people: 512 },
    ],
  });
});

const open = (id: string) => show(<MeasurePage />, `/audiences/measures/${id}`, '/audiences/measures/:id');
const edit = (element: HTMLElement, value: string) => fireEvent.change(element, { target: { value } });
const token = (name: RegExp) => {
  fireEvent.click(screen.getByRole('button', { name }));
  return within(screen.getByRole('dialog'));
};
const save = () => screen.getByRole('button', { name: 'Save and compute' });
const NAME = 'Name in conditions and routes';

describe('a measure', () => {
  it('is made with a name, from events, and opened', async () => {
    server.on('POST', '/api/measures', MEASURE);
    open('new');
    edit(await screen.findByLabelText(NAME), 'crossings_90d');
    fireEvent.click(save());
    await waitFor(() => expect(screen.getByLabelText('Address')).toHaveTextContent('/audiences/measures/6'));
    expect(server.askedOf('POST', '/api/measures')[0]?.body).toMatchObject({
      name: 'crossings_90d',
      entityType: 'PERSON',
      derivation: { kind: 'events', measure: { of: { events: 'crossing' }, aggregation: { kind: 'count' } } },
    });
  });

  it('keeps its name when it turns out to be of companies, whose events are others', async () => {
    server.on('POST', '/api/measures', { ...MEASURE, entityType: 'COMPANY' });
    open('new');
    edit(await screen.findByLabelText(NAME), 'loads_90d');
    edit(screen.getByLabelText('Of'), 'COMPANY');
    expect(await screen.findByText('For every company,')).toBeVisible();
    expect(screen.getByLabelText(NAME)).toHaveValue('loads_90d');
    fireEvent.click(save());
    await waitFor(() => expect(server.askedOf('POST', '/api/measures')).toHaveLength(1));
    expect(server.askedOf('POST', '/api/measures')[0]?.body).toMatchObject({
      name: 'loads_90d',
      entityType: 'COMPANY',
      derivation: { measure: { of: { events: 'freight' } } },
    });
  });

  it('cannot be saved without a name, nor where nothing changed', async () => {
    open('new');
    await screen.findByLabelText(NAME);
    expect(save()).toBeDisabled();
  });

  it('says how its values are spread', async () => {
    open('6');
    expect(await screen.findByText('812 people have a value, 88 have none.')).toBeVisible();
    expect(screen.getByText('median 3')).toBeVisible();
    expect(screen.getByRole('rowheader', { name: '2 to 9' })).toBeVisible();
    expect(save()).toBeDisabled();
  });

  it('is changed in its sentence, and counts again where other events have no such column', async () => {
    server.on('PUT', '/api/measures/{id}', MEASURE);
    open('6');
    await screen.findByText('For every person,');
    edit(token(/^Computed as:/).getByLabelText('Computed as'), 'sum');
    fireEvent.keyDown(document.activeElement ?? document.body, { key: 'Escape' });
    edit(token(/^Events:/).getByLabelText('Events'), 'complaint');
    fireEvent.click(screen.getByRole('button', { name: 'Save and compute', hidden: true }));
    await waitFor(() => expect(server.askedOf('PUT', '/api/measures/{id}')).toHaveLength(1));
    expect(server.askedOf('PUT', '/api/measures/{id}')[0]?.body).toMatchObject({
      derivation: { measure: { of: { events: 'complaint' }, aggregation: { kind: 'count' } } },
    });
  });

  it('takes bounds that are numbers, and no others', async () => {
    server.on('PUT', '/api/measures/{id}', MEASURE);
    open('6');
    await screen.findByText('For every person,');
    const bounds = token(/^Bounds:/).getByLabelText(/^Bounds in ascending order/);
    edit(bounds, '5, ten,, 20 ');
    fireEvent.blur(bounds);
    fireEvent.click(screen.getByRole('button', { name: 'Save and compute', hidden: true }));
    await waitFor(() => expect(server.askedOf('PUT', '/api/measures/{id}')).toHaveLength(1));
    expect(server.askedOf('PUT', '/api/measures/{id}')[0]?.body).toMatchObject({
      derivation: { steps: [5, 20] },
    });
  });

  it('is a score over what can be ordered, or an expression over all', async () => {
    open('new');
    edit(await screen.findByLabelText('Computed'), 'score');
    expect(screen.getByText('values. Equal values share a band.')).toBeVisible();
    edit(token(/^Best:/).getByLabelText('Highest band for the'), 'smallest');
    expect(screen.getByText('smallest', { selector: 'button *, button' })).toBeInTheDocument();
    fireEvent.keyDown(document.activeElement ?? document.body, { key: 'Escape' });
    edit(screen.getByLabelText('Computed'), 'computed');
    expect(screen.getByText(/Can use home_port, fares_total/)).toBeVisible();
  });

  it('says why it could not be computed, and keeps what was written', async () => {
    server.refuse('POST', '/api/measures', 422, 'There is no attribute fare_total.');
    open('new');
    edit(await screen.findByLabelText(NAME), 'score');
    edit(screen.getByLabelText('Computed'), 'computed');
    edit(screen.getByLabelText(/^Expression/), 'fare_total * 2.0');
    fireEvent.click(save());
    expect(await screen.findByText('There is no attribute fare_total.')).toBeVisible();
    expect(screen.getByLabelText(/^Expression/)).toHaveValue('fare_total * 2.0');
  });

  it('is removed, and one is back at the list', async () => {
    server.on('DELETE', '/api/measures/{id}', []);
    open('6');
    fireEvent.click(await screen.findByRole('button', { name: 'Remove' }));
    await waitFor(() =>
      expect(screen.getByLabelText('Address')).toHaveTextContent(/^\/audiences\/measures$/),
    );
  });
});
