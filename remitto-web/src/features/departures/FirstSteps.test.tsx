import { screen, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { show as page, signIn } from '../../testing/page';
import { server } from '../../testing/server';
import { FirstSteps } from './FirstSteps';

const LINE = {
  sources: 1,
  sourcesInTrouble: 0,
  datasets: 0,
  people: 0,
  audiences: 0,
  audiencesInTrouble: 0,
  routes: 0,
  routesWaiting: 0,
  destinations: 0,
  destinationsInTrouble: 0,
  held: 0,
};

const source = (kind: string) => ({
  id: 1,
  name: kind,
  kind,
  product: 'PostgreSQL',
  problem: '',
  address: { kind: 'database', host: '127.0.0.1', port: 5432, database: 'd', user: 'u', tls: 'OFF' },
});

function show(line: object, sources: unknown[], sent = false) {
  server.on('GET', '/api/line', { ...LINE, ...line });
  server.on('GET', '/api/sources', sources);
  page(<FirstSteps sent={sent} />);
}

const current = async () =>
  (await screen.findAllByRole('listitem')).find((one) => one.getAttribute('aria-current') === 'step');

describe('the first hour', () => {
  it('begins with a source; the people of Remitto itself are none', async () => {
    show({}, [source('people')]);
    const step = (await current()) as HTMLElement;
    expect(step).toHaveTextContent('Connect a source');
    expect(within(step).getByRole('link', { name: 'Connect a source' })).toHaveAttribute(
      'href',
      '/sources/new',
    );
    expect(screen.getAllByRole('link')).toHaveLength(1);
  });

  it('goes on in the order of the work, with one action at a time', async () => {
    show({ datasets: 2, destinations: 1 }, [source('people'), source('warehouse')]);
    expect(await current()).toHaveTextContent('Create a route');
    expect(screen.getAllByText('(done)')).toHaveLength(3);
  });

  it('shows viewers the steps without actions', async () => {
    signIn('VIEWER');
    show({}, []);
    expect(await current()).toHaveTextContent('Connect a source');
    expect(screen.queryByRole('link')).toBeNull();
  });

  it('is over once everything is done', async () => {
    show({ datasets: 1, destinations: 1, routes: 1 }, [source('warehouse')], true);
    await server.settle();
    expect(screen.queryByText('First steps')).toBeNull();
  });
});
