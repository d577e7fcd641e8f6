import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { cleanup, fireEvent, render, screen, waitFor } from '@testing-library/react';
import { useState } from 'react';
import { MemoryRouter, useLocation } from 'react-router';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { Palette } from './Palette';

const server = vi.hoisted(() => ({ GET: vi.fn() }));
vi.mock('../../api/client', () => ({ api: server, ok: (answer: unknown) => answer }));

function Shown() {
  const [open, setOpen] = useState(false);
  return (
    <>
      <p>at {useLocation().pathname}</p>
      <Palette open={open} onOpen={setOpen} />
    </>
  );
}

const shown = () =>
  render(
    <QueryClientProvider client={new QueryClient()}>
      <MemoryRouter>
        <Shown />
      </MemoryRouter>
    </QueryClientProvider>,
  );

const open = async () => {
  fireEvent.keyDown(document, { key: 'k', ctrlKey: true });
  return screen.findByPlaceholderText('Search pages, routes and datasets');
};

const names = () => screen.getAllByRole('option').map((one) => one.textContent);

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
  server.GET.mockImplementation((path: string) =>
    Promise.resolve(
      path === '/api/routes' ? [{ id: 4, name: 'Commuter passes' }] : [{ id: 9, name: 'Pass holders' }],
    ),
  );
});

afterEach(() => {
  cleanup();
  vi.clearAllMocks();
  vi.unstubAllGlobals();
});

describe('the palette', () => {
  it('asks for nothing until it is opened', async () => {
    shown();
    expect(server.GET).not.toHaveBeenCalled();
    await open();
    await waitFor(() => expect(names()).toContain('Route: Commuter passes'));
    expect(names()).toContain('Dataset: Pass holders');
  });

  it('goes by keyboard to what was typed', async () => {
    shown();
    const field = await open();
    await screen.findByText('Route: Commuter passes');
    fireEvent.change(field, { target: { value: 'commuter' } });
    expect(names()).toEqual(['Route: Commuter passes']);
    fireEvent.keyDown(field, { key: 'Enter' });
    await screen.findByText('at /routes/4');
    expect(screen.queryByPlaceholderText('Search pages, routes and datasets')).toBeNull();
  });

  it('says so when there is nothing by that name', async () => {
    shown();
    fireEvent.change(await open(), { target: { value: 'zeppelin' } });
    await screen.findByText('No results.');
  });
});
