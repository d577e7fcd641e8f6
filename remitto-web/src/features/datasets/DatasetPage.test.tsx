import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import { beforeEach, describe, expect, it } from 'vitest';
import type { Dataset } from '../../api/types';
import { AT, show, signIn } from '../../testing/page';
import { field } from '../../testing/fields';
import { server } from '../../testing/server';
import { DatasetPage } from './DatasetPage';

const dataset = (over: Partial<Dataset> = {}): Dataset => ({
  id: 3,
  name: 'Pass holders',
  description: '',
  sourceId: 1,
  source: 'Warehouse',
  latestVersion: 2,
  liveVersion: 2,
  author: 'Oskar Lind',
  savedAt: AT,
  routes: 1,
  definition: {
    query: { kind: 'sql', text: 'select pass_number, town from ferry.passes' },
    columns: [
      { name: 'pass_number', type: 'TEXT', role: 'KEY' },
      { name: 'town', type: 'TEXT', role: 'ATTRIBUTE' },
    ],
    expectations: [],
  },
  ...over,
});
const preview = (...names: string[]) => ({
  preview: {
    columns: names.map((name) => ({ name, type: 'TEXT', sourceType: 'text' })),
    rows: [names.map((name) => `${name} of one`)],
    cut: false,
    millis: 4,
  },
  roles: { mail: 'IDENTIFIER' },
  sql: 'select',
});

beforeEach(() => {
  // Measures of text, which are not there outside a browser.
  Range.prototype.getClientRects = () => [] as unknown as DOMRectList;
  Range.prototype.getBoundingClientRect = () => new DOMRect();
  server.on('GET', '/api/datasets/{id}', dataset());
  server.on('GET', '/api/sources', []);
  server.on('GET', '/api/datasets/{id}/changes', {
    waiting: [],
    made: false,
    millis: 0,
    everySeconds: 60,
    problem: '',
  });
  server.on('GET', '/api/datasets/{id}/expectations', { expectations: [], checking: false, problem: '' });
  server.on('GET', '/api/datasets/{id}/expectations/proposals', []);
  server.on('GET', '/api/datasets/{id}/column-profiles', { reads: [], columns: [] });
  server.on('GET', '/api/datasets/{id}/routes', ['Commuter passes']);
  server.on('GET', '/api/datasets/{id}/versions', []);
  server.on('GET', '/api/datasets/{id}/use', []);
  server.on('GET', '/api/destinations/{id}/objects/{object}', {
    describedAt: AT,
    object: {
      name: 'contact',
      title: 'Contact',
      people: true,
      fields: [field('external_ref'), field('town')],
      abilities: { list: false, reads: true, updates: true, removes: true, tellsFieldTimes: true },
    },
  });
  server.on('GET', '/api/field-fits', [
    {
      destinationId: 5,
      destination: 'Purser CRM',
      object: 'contact',
      title: 'Contact',
      routes: 1,
      matching: 1,
    },
  ]);
  server.on('POST', '/api/datasets/{id}/differences', {
    columns: [],
    before: 'a',
    after: 'b',
    dropped: [],
    expected: [],
  });
});

const open = () => show(<DatasetPage />, '/datasets/3', '/datasets/:id');
const name = () => screen.findByLabelText('Name');

describe('a dataset', () => {
  it('shows the fields of the object that fits, and which of them a column covers', async () => {
    open();
    const list = await screen.findByText(/town/, { selector: 'li span' });
    expect(list).toHaveTextContent('covered by a column');
    expect(screen.getByText('external_ref')).not.toHaveTextContent('covered');
    expect(server.askedOf('GET', '/api/field-fits')[0]?.query).toMatchObject({ dataset: '3' });
  });

  it('keeps the rows of a preview when it is saved, and asks nothing by itself', async () => {
    server.on('POST', '/api/datasets/preview', preview('pass_number', 'mail'));
    server.on('POST', '/api/datasets/{id}/versions', dataset({ latestVersion: 3 }));
    open();
    await name();
    expect(server.askedOf('POST', '/api/datasets/preview')).toEqual([]);
    fireEvent.click(screen.getByRole('button', { name: 'Run preview' }));
    expect(await screen.findByText('pass_number of one')).toBeVisible();
    expect(screen.getByLabelText('Role of pass_number')).toHaveValue('KEY');
    expect(screen.getByLabelText('Role of mail')).toHaveValue('IDENTIFIER');
    fireEvent.click(screen.getByRole('button', { name: 'Save version 3' }));
    await waitFor(() => expect(screen.queryByRole('region', { name: 'Unsaved changes' })).toBeNull());
    expect(await screen.findByText('pass_number of one')).toBeVisible();
    expect(server.askedOf('POST', '/api/datasets/preview')).toHaveLength(1);
  });

  it('is saved by Ctrl+S once there is something to save', async () => {
    server.on('POST', '/api/datasets/{id}/versions', dataset({ latestVersion: 3 }));
    open();
    await name();
    fireEvent.keyDown(document, { key: 's', ctrlKey: true });
    expect(server.askedOf('POST', '/api/datasets/{id}/versions')).toEqual([]);
    fireEvent.change(await name(), { target: { value: 'Holders' } });
    fireEvent.keyDown(document, { key: 's', ctrlKey: true });
    await waitFor(() =>
      expect(server.askedOf('POST', '/api/datasets/{id}/versions')[0]?.body).toMatchObject({
        name: 'Holders',
        basedOn: 2,
      }),
    );
  });

  it('is changed by nobody who may only look', async () => {
    signIn('VIEWER');
    server.on('GET', '/api/sources', [
      {
        id: 1,
        name: 'Warehouse',
        kind: 'warehouse',
        product: 'PostgreSQL',
        address: {
          kind: 'database',
          host: 'db.example',
          port: 5432,
          database: 'w',
          user: 'u',
          tls: 'REQUIRED',
        },
        problem: '',
        report: {
          server: '15',
          user: 'reader',
          encrypted: true,
          warnings: [],
          grants: [],
          schemas: [
            {
              name: 'ferry',
              usable: true,
              tables: [
                {
                  name: 'passes',
                  view: false,
                  kind: 'TABLE',
                  readable: true,
                  rowEstimate: 4,
                  columns: [{ name: 'town', type: 'text', readable: true }],
                },
              ],
            },
          ],
        },
      },
    ]);
    open();
    fireEvent.click(await screen.findByRole('button', { name: /ferry\.passes/ }));
    expect(screen.queryByTitle('Insert into the query')).toBeNull();
    expect(screen.getByLabelText('Query', { selector: '.cm-content' })).toHaveAttribute(
      'aria-readonly',
      'true',
    );
  });

  it('says what keeps it from being saved', async () => {
    show(<DatasetPage />, '/datasets/new', '/datasets/:id');
    const bar = within(await screen.findByRole('region', { name: 'Unsaved changes' }));
    expect(bar.getByText('Enter a name.')).toBeVisible();
    fireEvent.change(await name(), { target: { value: 'Holders' } });
    expect(bar.getByText('Run the preview to learn the columns.')).toBeVisible();
    expect(bar.getByRole('button', { name: 'Save version 1' })).toBeDisabled();
  });

  it('shows what goes live, and for whom, before it is put in service', async () => {
    server.on('GET', '/api/datasets/{id}', dataset({ liveVersion: 1 }));
    server.on('GET', '/api/datasets/{id}/versions/{number}/differences/{other}', {
      columns: [{ name: 'town', after: { name: 'town', type: 'TEXT', role: 'ATTRIBUTE' } }],
      before: 'select pass_number',
      after: 'select pass_number, town',
      dropped: [],
      expected: [],
    });
    server.on('POST', '/api/datasets/{id}/in-service', dataset());
    open();
    fireEvent.click(await screen.findByRole('button', { name: 'Put version 2 in service' }));
    expect(await screen.findByText(/Read by Commuter passes/)).toBeVisible();
    expect(await screen.findByText('text, attribute')).toBeVisible();
    fireEvent.click(screen.getByRole('button', { name: 'Put in service' }));
    await waitFor(() =>
      expect(server.askedOf('POST', '/api/datasets/{id}/in-service')[0]?.body).toEqual({ version: 2 }),
    );
  });
});
