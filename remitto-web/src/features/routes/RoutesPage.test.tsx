import { fireEvent, screen, waitFor } from '@testing-library/react';
import { beforeEach, describe, expect, it } from 'vitest';
import { aRoute } from '../../testing/routes';
import { show, signIn } from '../../testing/page';
import { server } from '../../testing/server';
import { RoutesPage } from './RoutesPage';

const ROUTES = [
  aRoute(1, 'Commuter passes', { liveVersion: 2 }),
  aRoute(2, 'Ticket customers', { liveVersion: 1, paused: true }),
  aRoute(3, 'Freight', {}),
];

beforeEach(() => {
  server.on('GET', '/api/runs/recent', []);
  server.on('GET', '/api/routes', ROUTES);
});

const choose = (name: string) => fireEvent.click(screen.getByLabelText(`Select ${name}`));
const asked = (path: string) =>
  server.asked.filter((one) => one.method === 'POST' && one.path.startsWith(path));

describe('the list of routes', () => {
  it('pauses those of several that are not paused, and resumes the others', async () => {
    show(<RoutesPage />, '/routes');
    await screen.findByText('Commuter passes');
    server.on('POST', '/api/routes/{id}/pause', ROUTES[0]);
    fireEvent.click(screen.getByLabelText('Select all routes'));
    fireEvent.click(screen.getByRole('button', { name: 'Pause 1 route' }));
    await screen.findByText('1 route paused.');
    expect(asked('/api/routes/1/pause')).toMatchObject([{ body: { paused: true } }]);
    expect(asked('/api/routes/2/pause')).toEqual([]);
    fireEvent.click(screen.getByRole('button', { name: 'Resume 1 route' }));
    await waitFor(() => expect(asked('/api/routes/2/pause')).toMatchObject([{ body: { paused: false } }]));
  });

  it('says what failed at one route, and goes on with the next', async () => {
    show(<RoutesPage />, '/routes');
    await screen.findByText('Commuter passes');
    server.refuse('POST', '/api/routes/{id}/runs', 409, 'A run of this route is under way.');
    choose('Commuter passes');
    choose('Ticket customers');
    fireEvent.click(screen.getByRole('button', { name: 'Prepare 2 routes' }));
    await screen.findByText('0 routes being prepared.');
    expect(screen.getByRole('alert')).toHaveTextContent(
      'Commuter passes: A run of this route is under way. Ticket customers: A run of this route is under way.',
    );
    expect(asked('/api/routes/2/runs')).toHaveLength(1);
  });

  it('has nothing to do for a route that is not in service', async () => {
    show(<RoutesPage />, '/routes');
    await screen.findByText('Freight');
    choose('Freight');
    expect(screen.getByText('None of them is in service.')).toBeVisible();
    expect(screen.queryByRole('button', { name: /1 route/ })).toBeNull();
  });

  it('lets a viewer find and sort, and choose nothing', async () => {
    signIn('VIEWER');
    show(<RoutesPage />, '/routes?find=paused');
    await screen.findByText('Ticket customers');
    expect(screen.queryByText('Freight')).toBeNull();
    expect(screen.queryByRole('checkbox')).toBeNull();
  });
});
