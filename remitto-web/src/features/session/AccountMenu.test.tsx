import { fireEvent, screen, waitFor } from '@testing-library/react';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { showTimesIn } from '../../components/here';
import type { Session } from '../../api/types';
import { show } from '../../testing/page';
import { server } from '../../testing/server';
import { AccountMenu } from './AccountMenu';
import { useSettings } from './settings';

const SESSION: Session = {
  signedIn: true,
  id: 7,
  name: 'Edda Tester',
  purpose: '',
  role: 'EDITOR',
  rights: [],
  settings: { zone: 'Asia/Kolkata', theme: 'SYSTEM' },
};

function Shown({ session, onSignOut = () => undefined }: { session: Session; onSignOut?: () => void }) {
  useSettings(session.settings);
  return <AccountMenu session={session} onSignOut={onSignOut} />;
}

async function open() {
  fireEvent.keyDown(screen.getByRole('button', { name: 'ET, account of Edda Tester' }), { key: 'Enter' });
  return screen.findByRole('menu');
}

beforeEach(() => {
  // The menu measures itself, which the test browser cannot.
  vi.stubGlobal(
    'ResizeObserver',
    class {
      observe() {}
      unobserve() {}
      disconnect() {}
    },
  );
});

afterEach(() => {
  showTimesIn(undefined);
  delete document.documentElement.dataset.theme;
  vi.unstubAllGlobals();
});

describe('the account menu', () => {
  it('says who is signed in, as what, and where times are told', async () => {
    show(<Shown session={SESSION} />);
    const menu = await open();
    expect(menu).toHaveTextContent('Edda Tester');
    expect(menu).toHaveTextContent('Editor');
    expect(menu).toHaveTextContent('times in Kolkata');
    expect(screen.queryByRole('menuitem', { name: 'Users' })).toBeNull();
  });

  it('shows an administrator the way to users', async () => {
    show(<Shown session={{ ...SESSION, role: 'ADMIN' }} />);
    await open();
    expect(screen.getByRole('menuitem', { name: 'Users' })).toHaveAttribute('href', '/users');
  });

  it('signs out only where that is chosen', async () => {
    const signOut = vi.fn();
    show(<Shown session={SESSION} onSignOut={signOut} />);
    await open();
    expect(signOut).not.toHaveBeenCalled();
    fireEvent.click(screen.getByRole('menuitem', { name: 'Sign out' }));
    expect(signOut).toHaveBeenCalledOnce();
  });

  it('changes the theme and keeps the zone', async () => {
    server.on('PUT', '/api/session/settings', {
      ...SESSION,
      settings: { zone: 'Asia/Kolkata', theme: 'DARK' },
    });
    show(<Shown session={SESSION} />);
    await open();
    expect(screen.getByRole('menuitemradio', { name: /Same as the system/ })).toBeChecked();
    fireEvent.click(screen.getByRole('menuitemradio', { name: /Dark/ }));
    await waitFor(() =>
      expect(server.askedOf('PUT', '/api/session/settings').map((one) => one.body)).toEqual([
        { zone: 'Asia/Kolkata', theme: 'DARK' },
      ]),
    );
  });
});

describe('the theme', () => {
  it('is what the person chose, whatever the system has', () => {
    const { rerender } = show(<Shown session={SESSION} />);
    expect(document.documentElement.dataset.theme).toBe('SYSTEM');
    rerender(<></>);
    show(<Shown session={{ ...SESSION, settings: { theme: 'DARK' } }} />);
    expect(document.documentElement.dataset.theme).toBe('DARK');
  });
});
