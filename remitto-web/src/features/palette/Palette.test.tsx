import { fireEvent, screen, waitFor } from '@testing-library/react';
import { useState } from 'react';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { AT, show, signIn } from '../../testing/page';
import { aRoute } from '../../testing/routes';
import { server } from '../../testing/server';
import { fits, Palette } from './Palette';

function Shown() {
  const [open, setOpen] = useState(false);
  return <Palette open={open} onOpen={setOpen} />;
}

const WORDS = 'Find a person, a record, a page, or something to do';
const open = async () => {
  show(<Shown />);
  fireEvent.keyDown(document, { key: 'k', ctrlKey: true });
  return screen.findByPlaceholderText(WORDS);
};
const type = async (text: string) => fireEvent.change(await open(), { target: { value: text } });
const names = () => screen.queryAllByRole('option').map((one) => one.textContent);

beforeEach(() => {
  vi.stubGlobal(
    'ResizeObserver',
    class {
      observe() {}
      unobserve() {}
      disconnect() {}
    },
  );
  Element.prototype.scrollIntoView = () => undefined;
  server.on('GET', '/api/routes', [aRoute(4, 'Commuter passes', { liveVersion: 1 })]);
  server.on('GET', '/api/datasets', []);
  server.on('GET', '/api/sources', []);
  server.on('GET', '/api/audiences', {
    audiences: [],
    refresh: { schedule: { kind: 'by-hand', zone: 'UTC' }, runBy: '', stage: '', problem: '', oneOf: 0 },
  });
  server.on('GET', '/api/crosswalks', [
    {
      id: 3,
      name: 'Port codes',
      description: '',
      latestVersion: 1,
      author: 'Edda Lysne',
      savedAt: AT,
      entries: [],
    },
  ]);
  server.on('GET', '/api/destinations', []);
  server.on('GET', '/api/profiles', []);
  server.by('GET', '/api/people', (asked) =>
    asked.query.entityType === 'PERSON' && asked.query.find === 'ida@mail.example'
      ? [{ id: 1984, label: 'Ida Holm', records: 4 }]
      : [],
  );
  server.by('GET', '/api/search', (asked) => ({
    records:
      asked.query.text === '43526'
        ? [
            {
              destinationId: 1,
              destination: 'Purser CRM',
              object: 'contact',
              remoteId: '43526',
              route: 'Commuter passes',
              key: 'P-20001',
            },
          ]
        : [],
    fields:
      asked.query.text === 'pass_status'
        ? [
            {
              destinationId: 1,
              destination: 'Purser CRM',
              object: 'contact',
              field: 'pass_status',
              title: '',
            },
          ]
        : [],
    manifests: asked.query.text === 'no. 46' ? [{ runId: 46, route: 'Commuter passes' }] : [],
  }));
});

describe('the palette', () => {
  it('asks for nothing until it is opened', async () => {
    show(<Shown />);
    expect(server.asked).toEqual([]);
    fireEvent.keyDown(document, { key: 'k', ctrlKey: true });
    await waitFor(() => expect(names()).toContain('Commuter passesto Purser CRM, contact'));
  });

  it('goes by keyboard to what was typed', async () => {
    const field = await open();
    await screen.findByText('Commuter passes');
    fireEvent.change(field, { target: { value: 'port co' } });
    expect(names()).toEqual(['Port codes']);
    fireEvent.keyDown(field, { key: 'Enter' });
    await waitFor(() => expect(screen.getByLabelText('Address')).toHaveTextContent('/crosswalks/3'));
    expect(screen.queryByPlaceholderText(WORDS)).toBeNull();
  });

  it.each([
    ['ida@mail.example', 'Ida Holm', '/people/1984'],
    ['43526', 'Purser CRM, contact 43526', '/explain?destination=1&object=contact&record=43526'],
    ['no. 46', 'Manifest no. 46', '/manifests/46'],
    ['pass_status', 'pass_status', '/destinations/1/contact?field=pass_status'],
  ])('finds %s', async (text, name, to) => {
    await type(text);
    fireEvent.click(await screen.findByText(name));
    await waitFor(() => expect(screen.getByLabelText('Address')).toHaveTextContent(to));
  });

  it('does what it names, and leads to what came of it', async () => {
    server.on('POST', '/api/routes/{id}/pause', aRoute(4, 'Commuter passes', { paused: true }));
    await type('pause commuter');
    fireEvent.click(await screen.findByText('Pause Commuter passes'));
    await waitFor(() => expect(screen.getByLabelText('Address')).toHaveTextContent('/routes/4'));
    expect(server.askedOf('POST', '/api/routes/{id}/pause').map((one) => one.body)).toEqual([
      { paused: true },
    ]);
  });

  it('stays open when what it names was refused, and says why', async () => {
    server.refuse('POST', '/api/routes/{id}/runs', 409, 'A run of this route is under way.');
    await type('prepare commuter');
    fireEvent.click(await screen.findByText('Prepare manifest of Commuter passes'));
    expect(await screen.findByText('A run of this route is under way.')).toBeVisible();
    expect(screen.getByPlaceholderText(WORDS)).toBeVisible();
  });

  it('offers a viewer neither acts nor pages where something is made', async () => {
    signIn('VIEWER');
    await type('e');
    await waitFor(() => expect(names()).toContain('Departures'));
    expect(names().filter((name) => /^(Pause|Prepare|New|Run)/.test(name ?? ''))).toEqual([]);
  });

  it('says so when there is nothing by that name', async () => {
    await type('zeppelin');
    expect(await screen.findByText('No results.')).toBeVisible();
  });

  it('wants every word in the name, and what the server found in any case', () => {
    expect(fits('Prepare manifest of Commuter passes', 'commuter prep')).toBeGreaterThan(0);
    expect(fits('Prepare manifest of Commuter passes', 'commuter zeppelin')).toBe(0);
    expect(fits('Commuter passes', 'commuter')).toBeGreaterThan(fits('Pause Commuter passes', 'commuter'));
    expect(fits('Ida Holm', '+4799', ['found by the server'])).toBe(1);
  });
});
