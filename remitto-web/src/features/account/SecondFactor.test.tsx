import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import { beforeEach, describe, expect, it } from 'vitest';
import { AT, show, signIn } from '../../testing/page';
import { server } from '../../testing/server';
import { SecondFactor } from './SecondFactor';

const CODES = ['AAAA-BBBB-CCCC-DDDD', 'EEEE-FFFF-GGGG-HHHH'];

beforeEach(() => signIn('EDITOR'));

function prove(words: string) {
  const form = screen.getByRole('button', { name: words }).closest('form') as HTMLFormElement;
  fireEvent.change(within(form).getByLabelText(/^Password/), { target: { value: 'quay-lantern-77' } });
  fireEvent.click(within(form).getByRole('button', { name: words }));
}

describe('a second factor', () => {
  it('is set up with a picture to scan, turned on by a code, and tells the recovery codes once', async () => {
    server.on('GET', '/api/session/second-factor', { recoveryCodesLeft: 0 });
    server.on('POST', '/api/session/second-factor', {
      secret: 'JBSWY3DPEHPK3PXP',
      uri: 'otpauth://totp/Remitto%3Aedda%40halvorn.example?secret=JBSWY3DPEHPK3PXP&issuer=Remitto',
    });
    server.on('POST', '/api/session/second-factor/confirm', { codes: CODES });
    show(<SecondFactor />);
    await screen.findByText(/^Off/);
    prove('Set up second factor');
    expect(await screen.findByRole('img', { name: /QR code/ })).toBeVisible();
    expect(screen.getByText('JBSWY3DPEHPK3PXP')).toBeVisible();
    server.on('GET', '/api/session/second-factor', { since: AT, recoveryCodesLeft: 2 });
    fireEvent.change(screen.getByLabelText('Code from the authenticator'), { target: { value: '123456' } });
    fireEvent.click(screen.getByRole('button', { name: 'Turn on' }));
    const told = await screen.findByRole('list', { name: 'Recovery codes' });
    expect(
      within(told)
        .getAllByRole('listitem')
        .map((one) => one.textContent),
    ).toEqual(CODES);
    expect(await screen.findByText(/2 recovery codes left/)).toBeVisible();
    expect(screen.queryByText('JBSWY3DPEHPK3PXP')).toBeNull();
    expect(server.askedOf('POST', '/api/session/second-factor').map((one) => one.body)).toEqual([
      { password: 'quay-lantern-77' },
    ]);
  });

  it('says that a code was wrong, and stays where it was', async () => {
    server.on('GET', '/api/session/second-factor', { recoveryCodesLeft: 0 });
    server.on('POST', '/api/session/second-factor', {
      secret: 'JBSWY3DP',
      uri: 'otpauth://totp/x?secret=JBSWY3DP',
    });
    server.refuse('POST', '/api/session/second-factor/confirm', 422, 'This code is wrong.');
    show(<SecondFactor />);
    await screen.findByText(/^Off/);
    prove('Set up second factor');
    fireEvent.change(await screen.findByLabelText('Code from the authenticator'), { target: { value: '1' } });
    fireEvent.click(screen.getByRole('button', { name: 'Turn on' }));
    expect(await screen.findByText('This code is wrong.')).toBeVisible();
    expect(screen.getByText('JBSWY3DP')).toBeVisible();
  });

  it('is turned off with the password', async () => {
    server.on('GET', '/api/session/second-factor', { since: AT, recoveryCodesLeft: 1 });
    server.on('POST', '/api/session/second-factor/off', { recoveryCodesLeft: 0 });
    show(<SecondFactor />);
    await screen.findByText(/1 recovery code left/);
    server.on('GET', '/api/session/second-factor', { recoveryCodesLeft: 0 });
    prove('Turn off second factor');
    await screen.findByText(/^Off/);
    await waitFor(() => expect(server.askedOf('POST', '/api/session/second-factor/off')).toHaveLength(1));
  });

  it('has new recovery codes made where the former are lost', async () => {
    server.on('GET', '/api/session/second-factor', { since: AT, recoveryCodesLeft: 0 });
    server.on('POST', '/api/session/second-factor/recovery-codes', { codes: CODES });
    show(<SecondFactor />);
    await screen.findByText(/0 recovery codes left/);
    prove('Make new recovery codes');
    expect(await screen.findByText('EEEE-FFFF-GGGG-HHHH')).toBeVisible();
  });
});
