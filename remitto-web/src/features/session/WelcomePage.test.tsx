import { fireEvent, screen, waitFor } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { show as page } from '../../testing/page';
import { server } from '../../testing/server';
import { WelcomePage } from './WelcomePage';

const WELCOME = '/api/welcome/{token}';
const show = () => page(<WelcomePage />, '/welcome/tok-31', '/welcome/:token');
const edit = (label: string, value: string) =>
  fireEvent.change(screen.getByLabelText(label), { target: { value } });

describe('an invitation', () => {
  it('makes the account it is for, and signs in', async () => {
    server.on('GET', WELCOME, {
      email: 'nils@halvorn.example',
      role: 'EDITOR',
      expiresAt: '2026-12-08T09:00:00Z',
    });
    server.on('POST', WELCOME, { email: 'nils@halvorn.example' });
    server.on('POST', '/api/session', {
      signedIn: true,
      id: 8,
      name: 'Nils',
      purpose: '',
      role: 'EDITOR',
      rights: [],
      settings: { theme: 'SYSTEM' },
    });
    show();
    expect(await screen.findByText('You will have the role Editor.')).toBeVisible();
    expect(screen.getByLabelText('E-mail')).toHaveValue('nils@halvorn.example');
    expect(screen.getByLabelText('E-mail')).toHaveAttribute('readonly');
    edit('Name', 'Nils Holm');
    edit('Password', 'quay-lantern-77');
    fireEvent.click(screen.getByRole('button', { name: 'Create account' }));
    await waitFor(() => expect(screen.getByLabelText('Address')).toHaveTextContent(/^\/$/));
    expect(server.askedOf('POST', WELCOME)[0]?.body).toEqual({
      email: 'nils@halvorn.example',
      name: 'Nils Holm',
      password: 'quay-lantern-77',
    });
    expect(server.askedOf('POST', '/api/session')[0]?.body).toEqual({
      email: 'nils@halvorn.example',
      password: 'quay-lantern-77',
    });
  });

  it('of the first administrator asks for the address too', async () => {
    server.on('GET', WELCOME, { email: '', role: 'ADMIN', expiresAt: '2026-12-08T09:00:00Z' });
    server.refuse('POST', WELCOME, 422, 'This password is among the first that are guessed.');
    show();
    expect(await screen.findByText('You will have the role Administrator.')).toBeVisible();
    edit('E-mail', 'anna@company.example');
    edit('Name', 'Anna');
    edit('Password', 'password1234');
    fireEvent.click(screen.getByRole('button', { name: 'Create account' }));
    expect(await screen.findByRole('alert')).toHaveTextContent('among the first that are guessed');
  });

  it('that was used says so, and offers nothing', async () => {
    server.refuse('GET', WELCOME, 404, 'This link is not valid or no longer works. Ask for a new one.');
    show();
    expect(await screen.findByRole('alert')).toHaveTextContent('Ask for a new one');
    expect(screen.queryByLabelText('Name')).toBeNull();
  });
});
