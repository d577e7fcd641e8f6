import { cleanup, fireEvent, render, screen } from '@testing-library/react';
import type { ReactNode } from 'react';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { MemoryRouter, useLocation, useNavigate } from 'react-router';
import { page, Pages, usePagesAhead } from './pages';
import { Page } from './ui';

function shown(children: ReactNode) {
  return <MemoryRouter>{children}</MemoryRouter>;
}

const fails = (words: string) => () => {
  throw new Error(words);
};

beforeEach(() => {
  // The library tells the console of what it caught.
  vi.spyOn(console, 'error').mockImplementation(() => undefined);
});

afterEach(() => {
  cleanup();
  vi.restoreAllMocks();
});

describe('pages', () => {
  it('come when they are opened', async () => {
    const Opened = page(() => Promise.resolve({ Opened: () => <h1>Opened</h1> }), 'Opened');
    render(
      shown(
        <Pages at="/opened">
          <Opened />
        </Pages>,
      ),
    );
    expect(screen.getByRole('status').textContent).toBe('Loading the page');
    await screen.findByRole('heading', { name: 'Opened' });
  });

  it('with a fault say so, and the next one is shown', async () => {
    const Faulty = fails('rules is not iterable');
    const { rerender } = render(
      shown(
        <Pages at="/faulty">
          <Faulty />
        </Pages>,
      ),
    );
    expect(screen.getByRole('heading', { name: 'This page failed to load' })).toBeDefined();
    expect(screen.getByRole('alert').textContent).toContain('rules is not iterable');
    rerender(
      shown(
        <Pages at="/next">
          <h1>The next</h1>
        </Pages>,
      ),
    );
    await screen.findByRole('heading', { name: 'The next' });
  });

  it('whose script is gone ask to be loaded again', async () => {
    const Gone = page<'Gone'>(
      () => Promise.reject(new TypeError('Failed to fetch dynamically imported module: /assets/Gone-1.js')),
      'Gone',
    );
    render(
      shown(
        <Pages at="/gone">
          <Gone />
        </Pages>,
      ),
    );
    await screen.findByRole('heading', { name: 'A newer version was installed' });
    expect(screen.getByRole('button', { name: 'Reload' })).toBeDefined();
  });
});

/** Two pages with a way from one to the other, and back. */
function Two() {
  const { pathname } = useLocation();
  const go = useNavigate();
  return (
    <>
      <button onClick={() => void go('/other')}>There</button>
      <button onClick={() => void go(-1)}>Back</button>
      <Pages at={pathname}>
        {pathname === '/other' ? (
          <Page title="Route" of="Commuter passes">
            <input aria-label="Name" />
          </Page>
        ) : (
          <Page title="Routes">
            <p>none</p>
          </Page>
        )}
      </Pages>
    </>
  );
}

describe('coming to a page', () => {
  it('names it in the title of the window', () => {
    render(shown(<Two />));
    expect(document.title).toBe('Routes · Remitto');
    vi.spyOn(window, 'scrollTo').mockImplementation(() => undefined);
    fireEvent.click(screen.getByRole('button', { name: 'There' }));
    expect(document.title).toBe('Route Commuter passes · Remitto');
  });

  it('by a link begins at its top, and back where the reader was', () => {
    const scrolled = vi.spyOn(window, 'scrollTo').mockImplementation(() => undefined);
    render(shown(<Two />));
    expect(scrolled).not.toHaveBeenCalled();
    fireEvent.click(screen.getByRole('button', { name: 'There' }));
    expect(scrolled).toHaveBeenCalledExactlyOnceWith(0, 0);
    fireEvent.click(screen.getByRole('button', { name: 'Back' }));
    expect(scrolled).toHaveBeenCalledOnce();
  });

  it('takes the keyboard along, but not when the first page opens', () => {
    vi.spyOn(window, 'scrollTo').mockImplementation(() => undefined);
    render(shown(<Two />));
    expect(document.body).toHaveFocus();
    screen.getByRole('button', { name: 'There' }).focus();
    fireEvent.click(screen.getByRole('button', { name: 'There' }));
    expect(screen.getByRole('main')).toHaveFocus();
  });

  it('come ahead once nothing else goes on, and not before somebody is signed in', async () => {
    vi.useFakeTimers();
    try {
      const load = vi.fn(() => Promise.resolve({ Later: () => <h1>Later</h1> }));
      page(load, 'Later');
      const gone = vi.fn(() => Promise.reject(new Error('Importing a module script failed')));
      page<'Gone'>(gone, 'Gone');
      const last = vi.fn(() => Promise.resolve({ Last: () => null }));
      page(last, 'Last');
      function Ahead({ wanted }: { wanted: boolean }) {
        usePagesAhead(wanted);
        return null;
      }
      const { rerender } = render(<Ahead wanted={false} />);
      await vi.advanceTimersByTimeAsync(10_000);
      expect(load).not.toHaveBeenCalled();
      rerender(<Ahead wanted />);
      await vi.advanceTimersByTimeAsync(500);
      expect(load).not.toHaveBeenCalled();
      await vi.advanceTimersByTimeAsync(10_000);
      expect(load).toHaveBeenCalledOnce();
      expect(last, 'one that does not come keeps no other').toHaveBeenCalledOnce();
    } finally {
      vi.useRealTimers();
    }
  });
});
