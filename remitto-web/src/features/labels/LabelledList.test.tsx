import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import { beforeEach, describe, expect, it } from 'vitest';
import { show, signIn } from '../../testing/page';
import { server } from '../../testing/server';
import { LabelledList } from './LabelledList';

interface Row {
  id: number;
  name: string;
}

const ROWS: Row[] = [
  { id: 1, name: 'Commuter passes' },
  { id: 2, name: 'Ticket customers' },
  { id: 3, name: 'Letters' },
];

function List() {
  return (
    <LabelledList<Row>
      main
      kind="ROUTE"
      of={['route', 'routes']}
      rows={ROWS}
      id={(row) => row.id}
      name={(row) => row.name}
      words={(row) => row.name}
      columns={[{ id: 'name', title: 'Name', by: (row) => row.name, cell: (row) => row.name }]}
    />
  );
}

const CHANGE = '/api/labels/{kind}';
const names = () => ROWS.map((row) => row.name).filter((name) => screen.queryByText(name));

beforeEach(() => {
  server.on('GET', CHANGE, [
    { id: 1, ownerId: 7, owner: 'Edda Lysne', tags: ['mail', 'weekly'] },
    { id: 2, tags: ['weekly'] },
  ]);
  server.on('GET', '/api/labels/colleagues', [
    { id: 7, name: 'Edda Lysne' },
    { id: 9, name: 'Oskar Lind' },
  ]);
});

describe('a list with owners and tags', () => {
  it('shows them, finds by them, and is narrowed by them', async () => {
    show(<List />);
    expect(await screen.findByText('mail', { selector: 'td *' })).toBeVisible();
    fireEvent.change(screen.getByLabelText('Tag of routes'), { target: { value: 'weekly' } });
    await waitFor(() => expect(names()).toEqual(['Commuter passes', 'Ticket customers']));
    expect(screen.getByLabelText('Address')).toHaveTextContent('tag=weekly');
    fireEvent.change(screen.getByLabelText('Owner of routes'), { target: { value: 'none' } });
    await waitFor(() => expect(names()).toEqual(['Ticket customers']));
    fireEvent.change(screen.getByLabelText('Tag of routes'), { target: { value: '' } });
    await waitFor(() => expect(names()).toEqual(['Ticket customers', 'Letters']));
    fireEvent.change(screen.getByLabelText('Owner of routes'), { target: { value: '' } });
    fireEvent.change(screen.getByLabelText('Find routes'), { target: { value: 'edda' } });
    await waitFor(() => expect(names()).toEqual(['Commuter passes']));
  });

  it('archives several, and what is still used says why it stays', async () => {
    show(<List />);
    fireEvent.click(await screen.findByLabelText('Select Commuter passes'));
    fireEvent.click(screen.getByLabelText('Select Letters'));
    fireEvent.click(screen.getByRole('button', { name: 'Archive' }));
    const question = await screen.findByRole('alertdialog');
    expect(question).toHaveTextContent('Archive 2 routes');
    expect(question).toHaveTextContent('Commuter passes, Letters');
    server.refuse('DELETE', '/api/routes/{id}', 409, 'Manifest 4 of this route waits.');
    fireEvent.click(within(question).getByRole('button', { name: 'Archive' }));
    expect(await within(question).findByRole('alert')).toHaveTextContent('2 routes could not be archived.');
    expect(question).toHaveTextContent('Commuter passes: Manifest 4 of this route waits.');
    expect(server.askedOf('DELETE', '/api/routes/{id}').map((one) => one.path)).toEqual([
      '/api/routes/1',
      '/api/routes/3',
    ]);
  });

  it('changes several at once', async () => {
    server.on('PUT', CHANGE, []);
    show(<List />);
    fireEvent.click(await screen.findByLabelText('Select Commuter passes'));
    fireEvent.click(screen.getByLabelText('Select Ticket customers'));
    fireEvent.click(screen.getByRole('button', { name: 'Owner and tags' }));
    fireEvent.change(await screen.findByLabelText('Add a tag'), { target: { value: ' nightly ' } });
    fireEvent.click(screen.getByRole('button', { name: 'Add' }));
    await waitFor(() =>
      expect(server.askedOf('PUT', CHANGE)[0]?.body).toEqual({
        ids: [1, 2],
        withoutOwner: false,
        add: ['nightly'],
        remove: [],
      }),
    );
    await screen.findByRole('option', { name: 'Oskar Lind' });
    await waitFor(() => expect(screen.getByLabelText('Owner')).toBeEnabled());
    fireEvent.change(screen.getByLabelText('Owner'), { target: { value: '9' } });
    await waitFor(() =>
      expect(server.askedOf('PUT', CHANGE)[1]?.body).toEqual({
        ids: [1, 2],
        ownerId: 9,
        withoutOwner: false,
        add: [],
        remove: [],
      }),
    );
  });

  it('lets a viewer choose nothing', async () => {
    signIn('VIEWER');
    show(<List />);
    expect(await screen.findByText('mail', { selector: 'td *' })).toBeVisible();
    expect(screen.queryByLabelText('Select Commuter passes')).toBeNull();
  });
});
