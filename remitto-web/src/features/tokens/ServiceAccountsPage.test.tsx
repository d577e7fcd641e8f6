import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import { beforeEach, describe, expect, it } from 'vitest';
import { AT, show, signIn } from '../../testing/page';
import { server } from '../../testing/server';
import { ServiceAccountsPage } from './ServiceAccountsPage';

const NEVER = '2999-01-01T00:00:00Z';
const NONE = { routeIds: [], destinationIds: [] };

function token(id: number, name: string, more: object = {}) {
  return {
    id,
    name,
    tail: 'x7Qa',
    scopes: ['READ', 'SEND'],
    narrowing: NONE,
    madeBy: 'Anna',
    madeAt: AT,
    expiresAt: NEVER,
    ...more,
  };
}

const LOADER = {
  id: 9,
  name: 'Nightly loader',
  active: true,
  rights: [],
  tokens: [
    token(1, 'Deploys', { lastUsedAt: AT, lastUsedFrom: '10.1.2.3' }),
    token(2, 'Old', { revokedAt: AT }),
    token(3, 'Older', { expiresAt: AT, narrowing: { routeIds: [4], destinationIds: [] } }),
  ],
};

beforeEach(() => {
  signIn('ADMIN');
  server.on('GET', '/api/service-accounts', [LOADER]);
  server.on('GET', '/api/routes', []);
  server.on('GET', '/api/destinations', []);
});

async function choose() {
  show(<ServiceAccountsPage />);
  fireEvent.click(await screen.findByRole('button', { name: 'Nightly loader' }));
}

describe('service accounts', () => {
  it('say which tokens still work, what each may, and where it was last used', async () => {
    await choose();
    expect(screen.getByText('1 token')).toBeVisible();
    const row = (name: RegExp) => screen.getByRole('row', { name });
    expect(within(row(/^Deploys/)).getByText('read, send')).toBeVisible();
    expect(within(row(/^Deploys/)).getByText('from 10.1.2.3')).toBeVisible();
    expect(within(row(/^Deploys/)).getByRole('button', { name: 'Revoke token Deploys' })).toBeVisible();
    expect(within(row(/^Old …/)).getByText('revoked')).toBeVisible();
    expect(within(row(/^Older/)).getByText('expired')).toBeVisible();
    expect(within(row(/^Older/)).getByText('1 route')).toBeVisible();
  });

  it('get a token that is told once', async () => {
    server.on('POST', '/api/service-accounts/{id}/tokens', {
      token: 'remitto_abc',
      made: token(4, 'Reports', { scopes: ['READ', 'PREPARE'] }),
    });
    await choose();
    fireEvent.change(screen.getByLabelText('What the token is for'), { target: { value: 'Reports' } });
    fireEvent.change(screen.getByLabelText('Expires after'), { target: { value: '30' } });
    fireEvent.click(screen.getByRole('checkbox', { name: /^prepare/ }));
    const before = Date.now();
    fireEvent.click(screen.getByRole('button', { name: 'Make token' }));
    expect(await screen.findByText('remitto_abc')).toBeVisible();
    const [asked] = server.askedOf('POST', '/api/service-accounts/{id}/tokens');
    const body = asked?.body as { name: string; scopes: string[]; expiresAt: string };
    expect(body).toMatchObject({ name: 'Reports', scopes: ['READ', 'PREPARE'], narrowing: NONE });
    const days = (new Date(body.expiresAt).getTime() - before) / 86_400_000;
    expect(days).toBeGreaterThan(29.9);
    expect(days).toBeLessThan(30.1);
  });

  it('have a token revoked', async () => {
    server.on('DELETE', '/api/service-accounts/{id}/tokens/{token}', { ...LOADER, tokens: [] });
    await choose();
    fireEvent.click(screen.getByRole('button', { name: 'Revoke token Deploys' }));
    await waitFor(() =>
      expect(
        server.askedOf('DELETE', '/api/service-accounts/{id}/tokens/{token}').map((one) => one.path),
      ).toEqual(['/api/service-accounts/9/tokens/1']),
    );
  });

  it('are added, and never with sensitive values', async () => {
    server.on('GET', '/api/service-accounts', []);
    server.on('POST', '/api/service-accounts', { ...LOADER, tokens: [] });
    show(<ServiceAccountsPage />);
    expect(await screen.findByText(/No program has an account yet/)).toBeVisible();
    expect(screen.queryByLabelText('See sensitive values')).toBeNull();
    fireEvent.change(screen.getByLabelText('Name of the program'), { target: { value: 'Nightly loader' } });
    fireEvent.click(screen.getByLabelText('See personal values'));
    fireEvent.click(screen.getByRole('button', { name: 'Add service account' }));
    await waitFor(() =>
      expect(server.askedOf('POST', '/api/service-accounts').map((one) => one.body)).toEqual([
        { name: 'Nightly loader', rights: ['SEE_PERSONAL_VALUES'], active: true },
      ]),
    );
  });

  it('are deactivated as they are', async () => {
    server.on('PUT', '/api/service-accounts/{id}', { ...LOADER, active: false });
    await choose();
    fireEvent.click(screen.getByRole('button', { name: 'Deactivate' }));
    await waitFor(() =>
      expect(server.askedOf('PUT', '/api/service-accounts/{id}').map((one) => one.body)).toEqual([
        { name: 'Nightly loader', rights: [], active: false },
      ]),
    );
  });

  it('say why one was not saved', async () => {
    server.refuse(
      'PUT',
      '/api/service-accounts/{id}',
      409,
      'A user or another service account has this name.',
    );
    await choose();
    fireEvent.click(screen.getByRole('button', { name: 'Save service account' }));
    expect(await screen.findByText('A user or another service account has this name.')).toBeVisible();
  });
});
