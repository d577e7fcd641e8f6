import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { cleanup, fireEvent, render, screen, waitFor } from '@testing-library/react';
import { MemoryRouter } from 'react-router';
import { afterEach, describe, expect, it, vi } from 'vitest';
import type { WhatIfJob } from '../../api/types';
import { RouteEffects } from './RouteEffects';

const server = vi.hoisted(() => ({ GET: vi.fn(), DELETE: vi.fn() }));
vi.mock('../../api/client', () => ({ api: server, ok: (answer: unknown) => answer }));

const job = (state: WhatIfJob['state'], more: Partial<WhatIfJob> = {}): WhatIfJob => ({
  id: 7,
  state,
  route: 'Passes',
  rows: 1200,
  effects: [],
  problem: '',
  ...more,
});

const shown = () => {
  const client = new QueryClient({ defaultOptions: { queries: { staleTime: Infinity } } });
  client.setQueryData(['session'], { role: 'EDITOR' });
  return render(
    <QueryClientProvider client={client}>
      <MemoryRouter>
        <RouteEffects changed judge={() => Promise.resolve(job('UNDER_WAY', { rows: 0, route: '' }))} />
      </MemoryRouter>
    </QueryClientProvider>,
  );
};

const ask = () => fireEvent.click(screen.getByRole('button', { name: 'Compare on all rows' }));

afterEach(() => {
  cleanup();
  vi.clearAllMocks();
});

describe('what a change would do to the routes', () => {
  it('tells how far it is, and is given up when the page is left', async () => {
    server.GET.mockResolvedValue(job('UNDER_WAY'));
    server.DELETE.mockResolvedValue(job('CANCELLED'));
    const page = shown();
    ask();
    await screen.findByText('1,200 rows compared, now of Passes');
    expect(server.DELETE).not.toHaveBeenCalled();
    page.unmount();
    await waitFor(() =>
      expect(server.DELETE).toHaveBeenCalledWith('/api/what-if/{id}', { params: { path: { id: 7 } } }),
    );
  });

  it('says so when no route is concerned, and has nothing to give up afterwards', async () => {
    server.GET.mockResolvedValue(job('DONE'));
    const page = shown();
    ask();
    await screen.findByText('No route in service uses it.');
    page.unmount();
    expect(server.DELETE).not.toHaveBeenCalled();
  });

  it('is given up by a click, and can be asked again', async () => {
    server.GET.mockResolvedValue(job('UNDER_WAY'));
    server.DELETE.mockImplementation(() => {
      server.GET.mockResolvedValue(job('CANCELLED'));
      return Promise.resolve(job('CANCELLED'));
    });
    shown();
    ask();
    fireEvent.click(await screen.findByRole('button', { name: 'Cancel' }));
    await waitFor(() =>
      expect(screen.getByRole('button', { name: 'Compare on all rows' })).toHaveProperty('disabled', false),
    );
    expect(screen.queryByText('No route in service uses it.')).toBeNull();
  });

  it('says why it failed', async () => {
    server.GET.mockResolvedValue(
      job('FAILED', { problem: 'The server that worked on it stopped. Try again.' }),
    );
    shown();
    ask();
    await screen.findByText(/stopped. Try again/);
  });
});
