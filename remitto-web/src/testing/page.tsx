import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { render } from '@testing-library/react';
import type { ReactNode } from 'react';
import { createMemoryRouter, Route, RouterProvider, Routes, useLocation } from 'react-router';
import { server } from './server';

export const AT = '2026-11-24T09:00:00Z';

/** Who is signed in, as every page asks. */
export function signIn(role: 'VIEWER' | 'EDITOR' | 'APPROVER' | 'ADMIN', rights: string[] = []) {
  server.on('GET', '/api/session', {
    signedIn: true,
    id: 7,
    name: 'Edda Tester',
    purpose: '',
    role,
    rights,
    settings: { theme: 'SYSTEM' },
  });
}

/** Keeps drafts as the server does, beginning with none, unless a test says otherwise. */
function drafts() {
  const kept = new Map<string, unknown>();
  const path = '/api/drafts/{kind}/{subject}';
  const unless: typeof server.by = (method, ...rest) => {
    if (!server.knows(method, path)) server.by(method, ...rest);
  };
  unless('GET', path, (asked) => ({ draft: kept.get(asked.path) }));
  if (!server.knows('GET', '/api/drafts')) server.on('GET', '/api/drafts', []);
  unless('PUT', path, (asked) => {
    const [kind, subject] = asked.path.split('/').slice(-2);
    kept.set(asked.path, { kind, subject, ...(asked.body as object), savedAt: AT });
    return { draft: kept.get(asked.path) };
  });
  unless('DELETE', path, (asked) => void kept.delete(asked.path));
}

/** Nothing has an owner or a tag, unless a test says otherwise. */
function labels() {
  if (!server.knows('GET', '/api/labels/{kind}')) server.on('GET', '/api/labels/{kind}', []);
  if (!server.knows('GET', '/api/labels/colleagues')) server.on('GET', '/api/labels/colleagues', []);
}

function Place() {
  const { pathname, search } = useLocation();
  return <output aria-label="Address">{pathname + search}</output>;
}

/** Shows a page at an address, beside the address that it goes to; to an editor, unless a test says to whom. @param path with parameters, such as `/audiences/:id` */
export function show(page: ReactNode, at = '/', path = '*') {
  const client = new QueryClient({
    defaultOptions: { queries: { retry: false }, mutations: { retry: false } },
  });
  if (!server.knows('GET', '/api/session')) signIn('EDITOR');
  drafts();
  labels();
  // As in the product, where who is signed in is known before any page is shown.
  client.setQueryData(['session'], server.told('GET', '/api/session'));
  const all = (
    <>
      <Routes>
        <Route path={path} element={page} />
        <Route path="*" element={<p>elsewhere</p>} />
      </Routes>
      <Place />
    </>
  );
  return render(
    <QueryClientProvider client={client}>
      <RouterProvider router={createMemoryRouter([{ path: '*', element: all }], { initialEntries: [at] })} />
    </QueryClientProvider>,
  );
}
