import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import { beforeEach, describe, expect, it } from 'vitest';
import { AT, show, signIn } from '../../testing/page';
import { server } from '../../testing/server';
import { SourcePage } from '../sources/SourcePage';
import { FileSetEditorPage } from './FileSetEditorPage';
import { FileSetPage } from './FileSetPage';

const COLUMNS = [
  { name: 'kai', from: 'Kai', type: 'INTEGER', spelling: '' },
  { name: 'lengde', from: 'Lengde', type: 'DECIMAL', spelling: 'comma' },
];

const DEFINITION = {
  pattern: 'berths_*.csv',
  format: {
    kind: 'delimited',
    delimiter: ';',
    quote: '"',
    encoding: 'windows-1252',
    skippedLines: 0,
    header: true,
  },
  columns: COLUMNS,
  zone: 'UTC',
  several: { kind: 'each-adds' },
  afterReading: 'LEAVE',
  keepDays: 0,
};

const SOURCE = {
  id: 3,
  name: 'Harbour',
  kind: 'files',
  product: 'Folder',
  address: { kind: 'folder', folder: 'harbour' },
  testedAt: AT,
  problem: '',
};

const SET = {
  id: 7,
  sourceId: 3,
  source: 'Harbour',
  name: 'Berths',
  table: 'berths',
  definition: DEFINITION,
  revision: 2,
  shownRevision: 2,
  reading: false,
  author: 'edda',
  savedAt: AT,
  paused: false,
  lookedAt: AT,
  readAt: AT,
  problem: '',
  counts: { read: 1, failed: 1, waiting: 0, heldRows: 1 },
};

const FILES = [
  {
    id: 20,
    path: 'berths_2.csv',
    size: 500,
    modifiedAt: AT,
    state: 'FAILED',
    readAt: AT,
    rows: 0,
    held: 0,
    problem: 'The file has no column called Kai.',
  },
  {
    id: 19,
    path: 'berths_1.csv',
    size: 2500,
    modifiedAt: AT,
    state: 'READ',
    readAt: AT,
    rows: 3,
    held: 1,
    problem: '',
  },
];

const SAMPLE = {
  matched: { count: 2, newest: [{ path: 'berths_2.csv', size: 500, modifiedAt: AT }] },
  file: { path: 'berths_2.csv', size: 500, modifiedAt: AT },
  packing: 'gzip',
  evidence: ['A semicolon gives 2 columns in 3 of 3 rows.'],
  columns: COLUMNS.map((column) => ({
    column,
    evidence: '2 of 2 filled: numbers',
    filled: 2,
    distinct: 2,
    asKey: true,
  })),
  definition: DEFINITION,
  rows: [
    { line: 2, cells: ['1', '42.5'], problem: '', content: '' },
    { line: 3, cells: [], problem: 'kai: "x" is not a number', content: 'x;1,0' },
  ],
  held: 1,
  problem: '',
};

beforeEach(() => {
  signIn('EDITOR');
  server.on('GET', '/api/sources/dialects', []);
  server.on('GET', '/api/sources/{id}', SOURCE);
  server.on('GET', '/api/file-sets', [SET]);
  server.on('GET', '/api/file-sets/{id}', SET);
  server.on('GET', '/api/file-sets/{id}/files', FILES);
  server.on('GET', '/api/file-sets/matches', SAMPLE.matched);
  server.on('POST', '/api/file-sets/sample', SAMPLE);
});

describe('a source of files', () => {
  it('shows its file sets and its files, and asks for no password', async () => {
    show(<SourcePage />, '/sources/3', '/sources/:id');
    const row = (await screen.findByRole('link', { name: 'Berths' })).closest('tr') as HTMLElement;
    expect(within(row).getByText('landed.berths')).toBeInTheDocument();
    expect(within(row).getByText('1 failed')).toBeInTheDocument();
    expect(within(row).getByText(/‖ 1/)).toBeInTheDocument();
    expect(await screen.findByText('berths_2.csv')).toBeInTheDocument();
    expect(screen.queryByLabelText('Password')).toBeNull();
    expect(screen.queryByRole('option', { name: 'SFTP server' })).toBeNull();
  });

  it('is called for its files by nobody who may only look', async () => {
    signIn('VIEWER');
    show(<SourcePage />, '/sources/3', '/sources/:id');
    expect(await screen.findByRole('link', { name: 'Berths' })).toBeInTheDocument();
    expect(server.askedOf('GET', '/api/file-sets/matches')).toHaveLength(0);
  });

  it('takes another folder', async () => {
    server.on('PUT', '/api/sources/{id}', SOURCE);
    show(<SourcePage />, '/sources/3', '/sources/:id');
    fireEvent.change(await screen.findByLabelText('Folder'), { target: { value: ' quay ' } });
    fireEvent.click(screen.getByRole('button', { name: 'Save and test' }));
    await waitFor(() =>
      expect(server.askedOf('PUT', '/api/sources/{id}').map((one) => one.body)).toEqual([
        { name: 'Harbour', address: { kind: 'folder', folder: 'quay' } },
      ]),
    );
  });
});

describe('a file set', () => {
  it('shows each file with what became of it, and the rows that are held', async () => {
    server.on('GET', '/api/file-sets/{id}/files/{file}/held', [
      { line: 4, problem: 'kai: "x" is not a number', content: 'x;1,0' },
    ]);
    show(<FileSetPage />, '/sources/3/file-sets/7', '/sources/:source/file-sets/:id');
    expect(await screen.findByText('The file has no column called Kai.')).toBeInTheDocument();
    fireEvent.click(screen.getByRole('button', { name: '1 held row of berths_1.csv' }));
    expect(await screen.findByText('x;1,0')).toBeInTheDocument();
    const dataset = screen.getByRole('link', { name: 'New dataset' }).getAttribute('href') ?? '';
    expect(new URL(dataset, 'http://x').searchParams.get('sql')).toBe(
      'select kai, lengde\nfrom landed.berths',
    );
  });

  it('is read, and tells what that came to', async () => {
    const job = { id: 5, state: 'UNDER_WAY', doing: 'Reading berths_3.csv', problem: '' };
    server.on('POST', '/api/file-sets/{id}/readings', job);
    server.on('GET', '/api/file-sets/readings/{job}', {
      ...job,
      state: 'DONE',
      result: { read: 1, failed: 0, waiting: 2, unchanged: 1 },
    });
    show(<FileSetPage />, '/sources/3/file-sets/7', '/sources/:source/file-sets/:id');
    fireEvent.click(await screen.findByRole('button', { name: 'Read files' }));
    expect(await screen.findByText('1 file read, 1 unchanged, 2 waiting.')).toBeInTheDocument();
  });

  it('is changed by nobody who may only look', async () => {
    signIn('VIEWER');
    show(<FileSetPage />, '/sources/3/file-sets/7', '/sources/:source/file-sets/:id');
    expect(await screen.findByText('berths_1.csv')).toBeInTheDocument();
    for (const name of ['Read files', 'Pause', 'Archive']) {
      expect(screen.queryByRole('button', { name })).toBeNull();
    }
  });
});

describe('making a file set', () => {
  const NEW = ['/sources/3/file-sets/new', '/sources/:source/file-sets/new'] as const;

  it('looks first, and saves what was proposed and corrected', async () => {
    server.on('POST', '/api/file-sets', SET);
    show(<FileSetEditorPage />, ...NEW);
    fireEvent.change(await screen.findByLabelText('Pattern of the names'), {
      target: { value: 'berths_*.csv' },
    });
    expect(screen.getByRole('button', { name: 'Save file set' })).toBeDisabled();
    await waitFor(() => expect(screen.getByRole('button', { name: 'Look at the file' })).toBeEnabled());
    fireEvent.click(screen.getByRole('button', { name: 'Look at the file' }));
    expect(await screen.findByText('A semicolon gives 2 columns in 3 of 3 rows.')).toBeInTheDocument();
    expect(await screen.findByText('kai: "x" is not a number', { exact: false })).toBeInTheDocument();
    expect(screen.getByText(/1 of 2 would be held/)).toBeInTheDocument();
    fireEvent.click(screen.getByLabelText('Keep Kai'));
    fireEvent.change(screen.getByLabelText('Name of Lengde'), { target: { value: 'length' } });
    fireEvent.change(screen.getByLabelText('Several files'), { target: { value: 'each-holds-changes' } });
    fireEvent.click(screen.getByLabelText('length'));
    fireEvent.change(screen.getByLabelText('File set'), { target: { value: 'Berth lists' } });
    fireEvent.click(screen.getByRole('button', { name: 'Save file set' }));
    await waitFor(() => expect(server.askedOf('POST', '/api/file-sets')).toHaveLength(1));
    expect(server.askedOf('POST', '/api/file-sets')[0]?.body).toMatchObject({
      name: 'Berth lists',
      sourceId: 3,
      table: 'berth_lists',
      basedOn: 0,
      definition: {
        pattern: 'berths_*.csv',
        columns: [{ name: 'length', from: 'Lengde', type: 'DECIMAL', spelling: 'comma' }],
        several: { kind: 'each-holds-changes', keys: ['length'], change: '', removes: [] },
      },
    });
  });

  it('asks for columns again by another form', async () => {
    show(<FileSetEditorPage />, ...NEW);
    await waitFor(() => expect(screen.getByRole('button', { name: 'Look at the file' })).toBeEnabled());
    fireEvent.click(screen.getByRole('button', { name: 'Look at the file' }));
    fireEvent.change(await screen.findByLabelText('Delimiter'), { target: { value: ',' } });
    await waitFor(() =>
      expect(
        server
          .askedOf('POST', '/api/file-sets/sample')
          .map((one) => (one.body as { format?: { delimiter: string } }).format?.delimiter),
      ).toContain(','),
    );
  });

  it('keeps the table of one that is there', async () => {
    show(<FileSetEditorPage />, '/sources/3/file-sets/7/edit', '/sources/:source/file-sets/:id/edit');
    expect(await screen.findByLabelText('Table in the schema landed')).toBeDisabled();
    server.on('PUT', '/api/file-sets/{id}', SET);
    fireEvent.click(screen.getByRole('button', { name: 'Save file set' }));
    await waitFor(() =>
      expect(server.askedOf('PUT', '/api/file-sets/{id}')[0]?.body).toMatchObject({
        basedOn: 2,
        table: 'berths',
      }),
    );
  });
});
