import { cleanup, render, screen } from '@testing-library/react';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { page, Pages } from './pages';

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
      <Pages at="/opened">
        <Opened />
      </Pages>,
    );
    expect(screen.getByRole('status').textContent).toBe('Loading the page');
    await screen.findByRole('heading', { name: 'Opened' });
  });

  it('with a fault say so, and the next one is shown', async () => {
    const Faulty = fails('rules is not iterable');
    const { rerender } = render(
      <Pages at="/faulty">
        <Faulty />
      </Pages>,
    );
    expect(screen.getByRole('heading', { name: 'This page has a fault' })).toBeDefined();
    expect(screen.getByRole('alert').textContent).toContain('rules is not iterable');
    rerender(
      <Pages at="/next">
        <h1>The next</h1>
      </Pages>,
    );
    await screen.findByRole('heading', { name: 'The next' });
  });

  it('whose script is gone ask to be loaded again', async () => {
    const Gone = page<'Gone'>(
      () => Promise.reject(new TypeError('Failed to fetch dynamically imported module: /assets/Gone-1.js')),
      'Gone',
    );
    render(
      <Pages at="/gone">
        <Gone />
      </Pages>,
    );
    await screen.findByRole('heading', { name: 'A newer version was installed' });
    expect(screen.getByRole('button', { name: 'Load it again' })).toBeDefined();
  });
});
