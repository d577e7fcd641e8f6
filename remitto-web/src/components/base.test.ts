import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';

/** The module as a page has it that the server put below a path. */
async function below(href: string | undefined, path: string) {
  document.head.innerHTML = href === undefined ? '' : `<base href="${href}">`;
  window.history.replaceState({}, '', path);
  vi.resetModules();
  return import('./base');
}

beforeEach(() => window.history.replaceState({}, '', '/'));
afterEach(() => {
  document.head.innerHTML = '';
  window.history.replaceState({}, '', '/');
});

describe('addresses', () => {
  it.each([
    ['at the root', '/', '/routes/4', '', '/api/runs', '/routes/4'],
    ['below a path', '/remitto/', '/remitto/routes/4', '/remitto', '/remitto/api/runs', '/routes/4'],
    ['below two', '/tools/remitto/', '/tools/remitto/', '/tools/remitto', '/tools/remitto/api/runs', '/'],
    ['of a page that does not say', undefined, '/routes/4', '', '/api/runs', '/routes/4'],
    ['beside the path', '/remitto/', '/remittoes', '/remitto', '/remitto/api/runs', '/remittoes'],
  ])('%s', async (_, href, path, base, runs, here) => {
    const found = await below(href, path);
    expect(found.BASE).toBe(base);
    expect(found.at('/api/runs')).toBe(runs);
    expect(found.here()).toBe(here);
  });
});
