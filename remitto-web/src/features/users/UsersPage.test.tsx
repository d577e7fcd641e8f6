import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import { beforeEach, describe, expect, it } from 'vitest';
import { show, signIn } from '../../testing/page';
import { server } from '../../testing/server';
import { UsersPage } from './UsersPage';

const BY_ROLE = {
  VIEWER: [],
  EDITOR: ['SEE_PERSONAL_VALUES'],
  APPROVER: ['SEE_PERSONAL_VALUES'],
  ADMIN: ['SEE_PERSONAL_VALUES', 'DOWNLOAD_PERSONAL_VALUES'],
};

const VERA = { id: 3, email: 'vera@halvorn.example', name: 'Vera', role: 'VIEWER', active: true, rights: [] };
const EDDA = {
  id: 4,
  email: 'edda@halvorn.example',
  name: 'Edda',
  role: 'EDITOR',
  active: true,
  rights: ['SEE_PERSONAL_VALUES', 'DOWNLOAD_PERSONAL_VALUES'],
};
const GONE = { id: 5, email: 'gone@halvorn.example', name: 'Odd', role: 'EDITOR', active: false, rights: [] };

beforeEach(() => {
  signIn('ADMIN');
  server.on('GET', '/api/users/invitations', []);
  server.on('GET', '/api/users', [VERA, EDDA, GONE]);
  server.on('GET', '/api/users/role-rights', BY_ROLE);
});

async function choose(name: string) {
  show(<UsersPage />);
  fireEvent.click(await screen.findByRole('button', { name }));
}

const edit = (label: string, value: string) =>
  fireEvent.change(screen.getByLabelText(label), { target: { value } });
const press = (name: string) => fireEvent.click(screen.getByRole('button', { name }));
/** Of the user, not of a role. */
const own = (right: string) =>
  within(screen.getByRole('group', { name: 'Rights of this user' })).getByLabelText(right);
const changed = () => server.askedOf('PUT', '/api/users/{id}').map((one) => one.body);

describe('the users', () => {
  it('are listed with what they may do, and who is deactivated', async () => {
    show(<UsersPage />);
    const vera = (await screen.findByRole('button', { name: 'Vera' })).closest('tr') as HTMLElement;
    expect(within(vera).getByText('personal values are masked')).toBeVisible();
    expect(within(vera).getByText('Viewer')).toBeVisible();
    const odd = screen.getByRole('button', { name: 'Odd' }).closest('tr') as HTMLElement;
    expect(within(odd).getByText('deactivated')).toBeVisible();
  });

  it('are added with a first password', async () => {
    server.on('POST', '/api/users', { ...VERA, id: 9 });
    show(<UsersPage />);
    await screen.findByRole('button', { name: 'Vera' });
    edit('Name', 'Nils');
    edit('E-mail', 'nils@halvorn.example');
    edit('Role', 'APPROVER');
    edit('First password', 'quay-lantern-77-otter');
    press('Add user');
    await waitFor(() =>
      expect(server.askedOf('POST', '/api/users').map((one) => one.body)).toEqual([
        { name: 'Nils', email: 'nils@halvorn.example', role: 'APPROVER', password: 'quay-lantern-77-otter' },
      ]),
    );
    await waitFor(() => expect(screen.getByLabelText('First password')).toHaveValue(''));
  });

  it('keep what was typed when they cannot be added', async () => {
    server.refuse('POST', '/api/users', 422, 'This password is among the first that are guessed.');
    show(<UsersPage />);
    await screen.findByRole('button', { name: 'Vera' });
    edit('Name', 'Nils');
    edit('First password', 'password123');
    edit('E-mail', 'nils@halvorn.example');
    press('Add user');
    expect(await screen.findByText('This password is among the first that are guessed.')).toBeVisible();
    expect(screen.getByLabelText('Name')).toHaveValue('Nils');
  });

  it('store no right that the role gives anyway', async () => {
    server.on('PUT', '/api/users/{id}', VERA);
    await choose('Vera');
    press('Save user');
    await waitFor(() =>
      expect(changed()).toEqual([{ email: VERA.email, name: 'Vera', role: 'VIEWER', rights: {} }]),
    );
  });

  it('are given and taken rights of their own', async () => {
    server.on('PUT', '/api/users/{id}', EDDA);
    await choose('Edda');
    fireEvent.click(own('See personal values'));
    press('Save user');
    await waitFor(() =>
      expect(changed()).toMatchObject([
        { rights: { SEE_PERSONAL_VALUES: false, DOWNLOAD_PERSONAL_VALUES: true } },
      ]),
    );
  });

  it('have the rights of their new role when it changes, and keep those that are theirs alone', async () => {
    server.on('PUT', '/api/users/{id}', VERA);
    await choose('Vera');
    edit('Role', 'EDITOR');
    expect(own('See personal values')).toBeChecked();
    press('Save user');
    await waitFor(() => expect(changed()).toMatchObject([{ role: 'EDITOR', rights: {} }]));
  });

  it('keep a right that was given to them alone', async () => {
    server.on('PUT', '/api/users/{id}', EDDA);
    await choose('Edda');
    edit('Role', 'VIEWER');
    expect(own('See personal values')).not.toBeChecked();
    expect(own('Download personal values')).toBeChecked();
    press('Save user');
    await waitFor(() =>
      expect(changed()).toMatchObject([{ role: 'VIEWER', rights: { DOWNLOAD_PERSONAL_VALUES: true } }]),
    );
  });

  it('are deactivated and activated, never removed', async () => {
    server.on('POST', '/api/users/{id}/activate', { ...GONE, active: true });
    await choose('Odd');
    press('Activate');
    await waitFor(() => expect(server.askedOf('POST', '/api/users/{id}/activate')).toHaveLength(1));
    expect(screen.queryByRole('button', { name: /Remove|Delete/ })).toBeNull();
  });

  it('lose their sessions at a word', async () => {
    server.on('DELETE', '/api/users/{id}/sessions', []);
    await choose('Vera');
    press('End sessions');
    expect(await screen.findByText('All sessions of Vera were ended.')).toBeVisible();
  });

  it('get rights by their role, one at a time', async () => {
    server.on('PUT', '/api/users/role-rights', BY_ROLE);
    show(<UsersPage />);
    fireEvent.click(await screen.findByLabelText('Editor: Download personal values'));
    await waitFor(() =>
      expect(server.askedOf('PUT', '/api/users/role-rights').map((one) => one.body)).toEqual([
        { EDITOR: ['SEE_PERSONAL_VALUES', 'DOWNLOAD_PERSONAL_VALUES'] },
      ]),
    );
  });

  it('are invited by a link that is shown once and can be withdrawn', async () => {
    server.on('POST', '/api/users/invitations', { token: 'tok-31', expiresAt: '2026-12-08T09:00:00Z' });
    server.on('DELETE', '/api/users/invitations/{id}', undefined, 204);
    show(<UsersPage />);
    fireEvent.change(await screen.findByLabelText('E-mail of the invited person'), {
      target: { value: 'nils@halvorn.example' },
    });
    edit('Role of the invited person', 'EDITOR');
    server.on('GET', '/api/users/invitations', [
      {
        id: 9,
        email: 'nils@halvorn.example',
        role: 'EDITOR',
        madeBy: 'Admin',
        madeAt: '2026-12-01T09:00:00Z',
        expiresAt: '2026-12-08T09:00:00Z',
      },
    ]);
    press('Make link');
    expect(await screen.findByText(/\/welcome\/tok-31$/)).toBeVisible();
    expect(server.askedOf('POST', '/api/users/invitations')[0]?.body).toEqual({
      email: 'nils@halvorn.example',
      role: 'EDITOR',
    });
    fireEvent.click(
      await screen.findByRole('button', { name: 'Withdraw invitation of nils@halvorn.example' }),
    );
    await waitFor(() =>
      expect(server.askedOf('DELETE', '/api/users/invitations/{id}').map((one) => one.path)).toEqual([
        '/api/users/invitations/9',
      ]),
    );
  });
});
