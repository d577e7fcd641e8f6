import { fireEvent, screen, waitFor } from '@testing-library/react';
import { beforeEach, describe, expect, it } from 'vitest';
import { AT, show, signIn } from '../../testing/page';
import { server } from '../../testing/server';
import { SourcePage } from './SourcePage';

const HOTEL = {
  id: 4,
  name: 'Hotel',
  kind: 'warehouse',
  product: 'MariaDB',
  address: {
    kind: 'database',
    host: 'hotel.example',
    port: 3306,
    database: 'hotel',
    user: 'reader',
    tls: 'REQUIRED',
    dialect: 'mariadb',
  },
  testedAt: AT,
  problem: '',
};

beforeEach(() => {
  signIn('ADMIN');
  server.on('GET', '/api/sources/dialects', [
    { name: 'postgresql', title: 'PostgreSQL', port: 5432, tls: true },
    { name: 'mariadb', title: 'MariaDB', port: 3306, tls: true },
    { name: 'harbour', title: 'Harbour store', port: 900, tls: false },
  ]);
  server.on('GET', '/api/sources/{id}', HOTEL);
});

const choose = (title: string) =>
  fireEvent.change(screen.getByLabelText('Kind of source'), { target: { value: title } });

const open = async (path: string) => {
  show(<SourcePage />, path, '/sources/:id');
  await screen.findByRole('option', { name: 'Harbour store' });
};

describe('a source', () => {
  it('takes the usual port of its kind of database, and leaves one that somebody wrote', async () => {
    await open('/sources/new');
    expect(screen.getByLabelText('Port')).toHaveValue('5432');
    choose('mariadb');
    expect(screen.getByLabelText('Port')).toHaveValue('3306');
    fireEvent.change(screen.getByLabelText('Port'), { target: { value: '3307' } });
    choose('postgresql');
    expect(screen.getByLabelText('Port')).toHaveValue('3307');
  });

  it('offers no TLS where the dialect declares none', async () => {
    await open('/sources/new');
    choose('harbour');
    expect(screen.getByLabelText('TLS')).toBeDisabled();
    expect(screen.getByLabelText('TLS')).toHaveValue('OFF');
  });

  it('says what database it is, and wants the password again for another', async () => {
    await open('/sources/4');
    expect(screen.getByText('database, MariaDB')).toBeInTheDocument();
    expect(screen.getByLabelText('Password')).toHaveAttribute('placeholder', 'unchanged');
    choose('postgresql');
    expect(screen.getByLabelText('Password')).toHaveAttribute('placeholder', 'enter it again');
  });

  it('is saved with its dialect', async () => {
    server.on('PUT', '/api/sources/{id}', HOTEL);
    await open('/sources/4');
    fireEvent.click(screen.getByRole('button', { name: 'Save and test' }));
    await waitFor(() =>
      expect(server.askedOf('PUT', '/api/sources/{id}').map((one) => one.body)).toEqual([
        { name: 'Hotel', address: HOTEL.address },
      ]),
    );
    choose('postgresql');
    fireEvent.click(screen.getByRole('button', { name: 'Save and test' }));
    await waitFor(() => expect(server.askedOf('PUT', '/api/sources/{id}')).toHaveLength(2));
    const { dialect, ...plain } = HOTEL.address;
    expect(dialect).toBe('mariadb');
    expect(server.askedOf('PUT', '/api/sources/{id}')[1]?.body).toEqual({
      name: 'Hotel',
      address: { ...plain, port: 5432 },
    });
  });
});
