import { fireEvent, screen, waitFor } from '@testing-library/react';
import { beforeEach, describe, expect, it } from 'vitest';
import { show, signIn } from '../../testing/page';
import { server } from '../../testing/server';
import { AccountPage } from './AccountPage';

const AT = '2026-11-24T09:00:00Z';

beforeEach(() => {
  server.on('GET', '/api/session/second-factor', { recoveryCodesLeft: 0 });
  signIn('EDITOR', ['SEE_PERSONAL_VALUES']);
  server.on('GET', '/api/session/all', [
    {
      handle: 'a',
      since: AT,
      lastUsed: AT,
      endsAt: AT,
      address: '127.0.0.1',
      browser: 'Chromium',
      mine: true,
    },
    {
      handle: 'b',
      since: AT,
      lastUsed: AT,
      endsAt: AT,
      address: '10.1.2.3',
      browser: 'Firefox',
      mine: false,
    },
  ]);
});

function changed(settings: object) {
  server.on('PUT', '/api/session/settings', {
    signedIn: true,
    id: 7,
    name: 'Edda Tester',
    purpose: '',
    role: 'EDITOR',
    rights: [],
    settings,
  });
}

describe('the account page', () => {
  it('takes a time zone at once, and goes back to that of the browser', async () => {
    changed({ zone: 'Asia/Tokyo', theme: 'SYSTEM' });
    show(<AccountPage />);
    const choice = await screen.findByLabelText<HTMLSelectElement>(/Time zone/);
    expect(choice.value).toBe('');
    fireEvent.change(choice, { target: { value: 'Asia/Tokyo' } });
    await waitFor(() => expect(choice.value).toBe('Asia/Tokyo'));
    changed({ theme: 'SYSTEM' });
    fireEvent.change(choice, { target: { value: '' } });
    await waitFor(() => expect(choice.value).toBe(''));
    expect(server.askedOf('PUT', '/api/session/settings').map((one) => one.body)).toEqual([
      { zone: 'Asia/Tokyo', theme: 'SYSTEM' },
      { theme: 'SYSTEM' },
    ]);
  });

  it('says why a choice was not taken, and keeps the one before', async () => {
    server.refuse('PUT', '/api/session/settings', 422, 'There is no time zone of that name.');
    show(<AccountPage />);
    const theme = await screen.findByLabelText<HTMLSelectElement>('Theme');
    fireEvent.change(theme, { target: { value: 'DARK' } });
    expect(await screen.findByText('There is no time zone of that name.')).toBeVisible();
    expect(theme.value).toBe('SYSTEM');
  });

  it('ends another session, and never offers to end this one', async () => {
    server.on('DELETE', '/api/session/all/{handle}', []);
    show(<AccountPage />);
    const buttons = await screen.findAllByRole('button', { name: 'End session' });
    expect(buttons).toHaveLength(1);
    buttons.forEach((one) => fireEvent.click(one));
    await waitFor(() => expect(server.askedOf('DELETE', '/api/session/all/{handle}')).toHaveLength(1));
  });

  it('changes the name that others see', async () => {
    server.on('PUT', '/api/session/name', {
      signedIn: true,
      id: 7,
      name: 'Edda Holm',
      purpose: '',
      role: 'EDITOR',
      rights: [],
      settings: { theme: 'SYSTEM' },
    });
    show(<AccountPage />);
    const name = await screen.findByLabelText<HTMLInputElement>(/Your name/);
    expect(screen.getByRole('button', { name: 'Change name' })).toBeDisabled();
    fireEvent.change(name, { target: { value: 'Edda Holm' } });
    fireEvent.click(screen.getByRole('button', { name: 'Change name' }));
    await waitFor(() => expect(screen.getByText('Edda Holm')).toBeVisible());
    expect(server.askedOf('PUT', '/api/session/name').map((one) => one.body)).toEqual([
      { name: 'Edda Holm' },
    ]);
  });

  it('changes the password and says what that ended', async () => {
    server.on('PUT', '/api/session/password', undefined, 204);
    show(<AccountPage />);
    fireEvent.change(await screen.findByLabelText('Current password'), { target: { value: 'old one' } });
    fireEvent.change(screen.getByLabelText(/New password/), { target: { value: 'quay-lantern-77' } });
    fireEvent.click(screen.getByRole('button', { name: 'Change password' }));
    expect(await screen.findByText(/Other sessions of this account were ended/)).toBeVisible();
    expect(server.askedOf('PUT', '/api/session/password').map((one) => one.body)).toEqual([
      {
        current: 'old one',
        fresh: 'quay-lantern-77',
      },
    ]);
    expect(screen.getByLabelText('Current password')).toHaveValue('');
  });
});
