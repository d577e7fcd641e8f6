import { fireEvent, screen, waitFor } from '@testing-library/react';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { AT, show, signIn } from '../../testing/page';
import { server } from '../../testing/server';
import { CrosswalkPage } from './CrosswalkPage';

const PORTS = {
  id: 3,
  name: 'Ports',
  description: 'codes and names',
  latestVersion: 2,
  liveVersion: 2,
  author: 'Edda Tester',
  savedAt: AT,
  entries: [
    { from: 'TAR', to: 'Tarva' },
    { from: 'BRE', to: 'Brenn' },
  ],
};

const USE = [
  { routeId: 8, route: 'Passes to Purser', field: 'home_port', datasetId: 4, column: 'home_port' },
];

beforeEach(() => {
  // A list that draws only what is in view needs a view; outside a browser nothing has a height.
  vi.spyOn(Element.prototype, 'clientHeight', 'get').mockReturnValue(600);
  vi.spyOn(Element.prototype, 'clientWidth', 'get').mockReturnValue(600);
  signIn('EDITOR');
  server.on('GET', '/api/crosswalks/{id}', PORTS);
  server.on('GET', '/api/crosswalks/{id}/use', USE);
  server.on('GET', '/api/crosswalks/{id}/unmapped', [{ word: 'LYS', rows: 41 }]);
  server.on('GET', '/api/crosswalks/{id}/versions', [
    { number: 2, author: 'Edda Tester', savedAt: AT, note: 'Brenn', entries: 2 },
    { number: 1, author: 'Edda Tester', savedAt: AT, note: '', entries: 4 },
  ]);
});

afterEach(() => vi.restoreAllMocks());

const open = () => show(<CrosswalkPage />, '/crosswalks/3', '/crosswalks/:id');
const type = (label: string, value: string) =>
  fireEvent.change(screen.getByLabelText(label), { target: { value } });
/** The browser's own way to read a file is not there outside one. */
const csv = (text: string) =>
  Object.assign(new File([text], 'ports.csv', { type: 'text/csv' }), { text: () => Promise.resolve(text) });
const saved = () => server.askedOf('POST', '/api/crosswalks/{id}/versions').map((one) => one.body);

describe('a crosswalk', () => {
  it('says who uses it, and that it is in service', async () => {
    open();
    expect(await screen.findByText(/It is in service/)).toBeVisible();
    expect(await screen.findByRole('link', { name: 'Passes to Purser' })).toHaveAttribute(
      'href',
      '/routes/8',
    );
    expect(screen.queryByRole('button', { name: /Save version/ })).toBeNull();
  });

  it('is edited word by word, and saved as a whole with a note', async () => {
    server.on('POST', '/api/crosswalks/{id}/versions', { ...PORTS, latestVersion: 3 });
    server.on('GET', '/api/crosswalks/{id}/versions/{number}', PORTS.entries);
    open();
    expect(await screen.findByLabelText('Our value 1')).toHaveValue('TAR');
    type("Destination's value for BRE", 'Brenn ferry port');
    expect(screen.getByText('was Brenn')).toBeVisible();
    type('Note on this version', 'longer names');
    fireEvent.click(screen.getByRole('button', { name: 'Save version 3' }));
    await waitFor(() =>
      expect(saved()).toEqual([
        {
          name: 'Ports',
          description: 'codes and names',
          note: 'longer names',
          basedOn: 2,
          entries: [
            { from: 'TAR', to: 'Tarva' },
            { from: 'BRE', to: 'Brenn ferry port' },
          ],
        },
      ]),
    );
    fireEvent.click(await screen.findByRole('button', { name: 'Put version 3 in service' }));
    expect(await screen.findByText(/Used by Passes to Purser/)).toBeVisible();
    expect(screen.getByRole('button', { name: 'Put in service' })).toBeEnabled();
  });

  it('says which words stand twice, before anybody saves them', async () => {
    open();
    await screen.findByLabelText('Our value 1');
    fireEvent.click(screen.getByRole('button', { name: 'Add value' }));
    type('Our value 3', ' TAR ');
    expect(screen.getAllByText('duplicate')).toHaveLength(2);
    type('Our value 3', 'LYS');
    expect(screen.queryByText('duplicate')).toBeNull();
    expect(screen.getByText('new')).toBeVisible();
  });

  it('goes on with another word at Enter in the last one only', async () => {
    open();
    await screen.findByLabelText('Our value 2');
    fireEvent.keyDown(screen.getByLabelText("Destination's value for TAR"), { key: 'Enter' });
    expect(screen.queryByLabelText('Our value 3')).toBeNull();
    fireEvent.keyDown(screen.getByLabelText("Destination's value for BRE"), { key: 'Enter' });
    expect(screen.getByLabelText('Our value 3')).toHaveValue('');
  });

  it('takes a word away, and finds others', async () => {
    open();
    await screen.findByLabelText('Our value 2');
    fireEvent.click(screen.getByLabelText('Remove TAR'));
    expect(screen.getByLabelText('Our value 1')).toHaveValue('BRE');
    expect(screen.queryByLabelText('Our value 2')).toBeNull();
    type('Find a value', 'nothing like it');
    expect(screen.getByText('0 words')).toBeVisible();
    type('Find a value', 'brenn');
    expect(screen.getByText('1 word')).toBeVisible();
  });

  it('takes up a word that rows hold and it does not know', async () => {
    open();
    fireEvent.click(await screen.findByRole('button', { name: /LYS/ }));
    expect(screen.getByLabelText('Our value 3')).toHaveValue('LYS');
    expect(server.askedOf('GET', '/api/crosswalks/{id}/unmapped')[0]?.query).toEqual({
      datasetId: '4',
      column: 'home_port',
    });
  });

  it('reads words from a file', async () => {
    server.on('POST', '/api/crosswalks/read-csv', [{ from: 'STO', to: 'Storholm' }]);
    open();
    await screen.findByLabelText('Our value 1');
    const file = csv('from,to\nSTO,Storholm\n');
    fireEvent.change(screen.getByLabelText('Import CSV'), { target: { files: [file] } });
    await waitFor(() => expect(screen.getByLabelText('Our value 1')).toHaveValue('STO'));
    expect(server.askedOf('POST', '/api/crosswalks/read-csv')[0]?.body).toEqual({
      text: 'from,to\nSTO,Storholm\n',
    });
    expect(saved()).toEqual([]);
  });

  it('says what is wrong with a file, and keeps the words', async () => {
    server.refuse('POST', '/api/crosswalks/read-csv', 422, 'Line 3 has three columns; two are wanted.');
    open();
    await screen.findByLabelText('Our value 1');
    const file = csv('a,b\nc,d,e\n');
    fireEvent.change(screen.getByLabelText('Import CSV'), { target: { files: [file] } });
    expect(await screen.findByText('Line 3 has three columns; two are wanted.')).toBeVisible();
    expect(screen.getByLabelText('Our value 1')).toHaveValue('TAR');
  });

  it('is made new with a name, and opened', async () => {
    server.on('POST', '/api/crosswalks', { ...PORTS, latestVersion: 1, liveVersion: undefined });
    show(<CrosswalkPage />, '/crosswalks/new', '/crosswalks/:id');
    const save = await screen.findByRole('button', { name: 'Save version 1' });
    expect(save).toBeDisabled();
    type('Name', 'Ports');
    fireEvent.click(save);
    await waitFor(() => expect(screen.getByLabelText('Address')).toHaveTextContent('/crosswalks/3'));
    expect(server.askedOf('POST', '/api/crosswalks')[0]?.body).toEqual({
      name: 'Ports',
      description: '',
      entries: [],
    });
  });
});
