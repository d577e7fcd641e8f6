import { fireEvent, screen, waitFor } from '@testing-library/react';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { show } from '../../testing/page';
import { server } from '../../testing/server';
import { SignInPage } from './SignInPage';

const SESSION = {
  signedIn: true,
  id: 7,
  name: 'Edda',
  role: 'EDITOR',
  rights: [],
  purpose: '',
  settings: { theme: 'SYSTEM' },
};

function fill(email: string, password: string) {
  fireEvent.change(screen.getByLabelText('E-mail'), { target: { value: email } });
  fireEvent.change(screen.getByLabelText('Password'), { target: { value: password } });
  fireEvent.click(screen.getByRole('button', { name: 'Sign in' }));
}

const NONE = { available: false, name: '', localAccounts: true, problem: '' };

beforeEach(() => server.on('GET', '/api/session/open-id', NONE));

describe('signing in', () => {
  it('sends what was typed, once', async () => {
    server.on('POST', '/api/session', SESSION);
    show(<SignInPage />);
    fill('edda@halvorn.example', 'quay-lantern-77-otter');
    await waitFor(() =>
      expect(server.askedOf('POST', '/api/session').map((one) => one.body)).toEqual([
        { email: 'edda@halvorn.example', password: 'quay-lantern-77-otter' },
      ]),
    );
  });

  it.each([
    [401, 'This e-mail and password do not belong together.'],
    [429, 'Too many attempts; try again in 30 seconds.'],
  ])('says why it did not go (%s), and keeps what was typed', async (status, why) => {
    server.refuse('POST', '/api/session', status, why);
    show(<SignInPage />, '/sign-in');
    // What an unsigned request of another page does, this one must not: go to where one signs in.
    window.history.replaceState({}, '', '/sign-in');
    fill('edda@halvorn.example', 'not it');
    expect(await screen.findByText(why)).toBeVisible();
    expect(screen.getByLabelText('E-mail')).toHaveValue('edda@halvorn.example');
    expect(screen.getByRole('button', { name: 'Sign in' })).toBeEnabled();
  });

  it('asks for the code of a second factor once the server does, without calling that a mistake', async () => {
    const words = 'Enter the code that your authenticator shows, or a recovery code.';
    server.refuse('POST', '/api/session', 401, words, [{ where: 'second-factor', message: words }]);
    show(<SignInPage />, '/sign-in');
    window.history.replaceState({}, '', '/sign-in');
    fill('edda@halvorn.example', 'quay-lantern-77-otter');
    const code = await screen.findByLabelText(/^Code/);
    expect(screen.queryByText(words)).toBeNull();
    expect(code).toHaveAttribute('autocomplete', 'one-time-code');
    server.on('POST', '/api/session', SESSION);
    fireEvent.change(code, { target: { value: '123 456' } });
    fireEvent.click(screen.getByRole('button', { name: 'Sign in' }));
    await waitFor(() =>
      expect(server.askedOf('POST', '/api/session').map((one) => one.body)).toEqual([
        { email: 'edda@halvorn.example', password: 'quay-lantern-77-otter' },
        { email: 'edda@halvorn.example', password: 'quay-lantern-77-otter', code: '123 456' },
      ]),
    );
  });

  it('says that a code was wrong, and keeps asking', async () => {
    const words = 'The code is wrong or was used before.';
    server.refuse('POST', '/api/session', 401, words, [{ where: 'second-factor', message: words }]);
    show(<SignInPage />, '/sign-in');
    window.history.replaceState({}, '', '/sign-in');
    fill('edda@halvorn.example', 'quay-lantern-77-otter');
    fireEvent.change(await screen.findByLabelText(/^Code/), { target: { value: '000000' } });
    fireEvent.click(screen.getByRole('button', { name: 'Sign in' }));
    expect(await screen.findByText(words)).toBeVisible();
    expect(screen.getByLabelText(/^Code/)).toHaveValue('000000');
  });

  it('lets a password manager fill it in', () => {
    show(<SignInPage />);
    expect(screen.getByLabelText('E-mail')).toHaveAttribute('autocomplete', 'username');
    expect(screen.getByLabelText('Password')).toHaveAttribute('autocomplete', 'current-password');
    expect(screen.getByLabelText('Password')).toHaveAttribute('type', 'password');
    expect(screen.getByLabelText('E-mail')).toBeRequired();
    expect(screen.getByLabelText('Password')).toBeRequired();
  });

  it('goes to the sign-in server of the company, with where one wanted to go', async () => {
    server.on('GET', '/api/session/open-id', { ...NONE, available: true, name: 'Quay account' });
    server.on('POST', '/api/session/open-id', { address: 'https://login.quay.example/authorize?state=x' });
    const went = vi.fn();
    vi.stubGlobal('location', { ...window.location, pathname: '/sign-in', search: '', assign: went });
    try {
      show(<SignInPage />, '/sign-in?to=%2Froutes%2F4');
      fireEvent.click(await screen.findByRole('button', { name: 'Sign in with Quay account' }));
      await waitFor(() => expect(went).toHaveBeenCalledWith('https://login.quay.example/authorize?state=x'));
      expect(server.askedOf('POST', '/api/session/open-id').map((one) => one.body)).toEqual([
        { to: '/routes/4' },
      ]);
      expect(screen.getByLabelText('Password')).toBeVisible();
    } finally {
      vi.unstubAllGlobals();
    }
  });

  it('has no password where there are none, and says why the last one came to nothing', async () => {
    server.on('GET', '/api/session/open-id', {
      available: true,
      name: 'Quay account',
      localAccounts: false,
      problem: 'You have no role here.',
    });
    show(<SignInPage />, '/sign-in');
    expect(await screen.findByText('You have no role here.')).toBeVisible();
    expect(screen.getByRole('button', { name: 'Sign in with Quay account' })).toBeVisible();
    expect(screen.queryByLabelText('Password')).toBeNull();
  });
});
