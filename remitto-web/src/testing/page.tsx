import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { render } from '@testing-library/react';
import type { ReactNode } from 'react';
import { MemoryRouter, Route, Routes, useLocation } from 'react-router';
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
  // As in the product, where who is signed in is known before any page is shown.
  client.setQueryData(['session'], server.told('GET', '/api/session'));
  return render(
    <QueryClientProvider client={client}>
      <MemoryRouter initialEntries={[at]}>
        <Routes>
          <Route path={path} element={page} />
          <Route path="*" element={<p>elsewhere</p>} />
        </Routes>
        <Place />
      </MemoryRouter>
    </QueryClientProvider>,
  );
}
