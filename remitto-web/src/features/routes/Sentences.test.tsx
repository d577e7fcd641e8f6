import { fireEvent, screen, within } from '@testing-library/react';
import { useState } from 'react';
import { beforeEach, describe, expect, it } from 'vitest';
import type { Column, Route, RouteFault, RouteSpec } from '../../api/types';
import { field } from '../../testing/fields';
import { AT, show } from '../../testing/page';
import { server } from '../../testing/server';
import { Sentences } from './Sentences';
import { freshRule } from './words';

const COLUMNS: Column[] = [
  { name: 'pass_number', type: 'TEXT', role: 'KEY' },
  { name: 'email', type: 'TEXT', role: 'IDENTIFIER' },
  { name: 'agreed', type: 'TEXT', role: 'CONSENT' },
];

const FIELDS = ['external_ref', 'email', 'mobile'].map((name) => field(name, { unique: name !== 'mobile' }));

const SPEC: RouteSpec = {
  mode: 'ADD_OR_UPDATE',
  match: ['external_ref'],
  rules: [
    freshRule('external_ref', { kind: 'column', column: 'pass_number' }),
    freshRule('email', { kind: 'column', column: 'email' }),
  ],
  basis: { kind: 'none' },
  guards: {
    removed: { percent: 5 },
    held: { percent: 5 },
    changed: {},
    added: {},
    cleared: {},
    week: false,
    stopOnEmptyDataset: true,
    stopOnSchemaChange: true,
  },
  schedule: { kind: 'by-hand', zone: 'Europe/Oslo' },
  leavers: { kind: 'stay' },
  firstRun: { alreadyThere: 'ADOPT', olderRows: 'SEND' },
  after: [],
};

const ROUTE: Route = {
  id: 7,
  name: 'Passes',
  datasetId: 3,
  dataset: 'Pass holders',
  destinationId: 4,
  destination: 'Purser CRM',
  object: 'contact',
  latestVersion: 1,
  paused: false,
  author: 'Edda Tester',
  savedAt: AT,
  spec: SPEC,
};

let latest: RouteSpec;

interface Given {
  spec?: Partial<RouteSpec>;
  people?: boolean;
  columns?: Column[];
  faults?: RouteFault[];
}

function Held({ spec = {}, people = true, columns = COLUMNS, faults = [] }: Given) {
  const [now, setNow] = useState<RouteSpec>({ ...SPEC, ...spec });
  return (
    <Sentences
      route={ROUTE}
      spec={now}
      columns={columns}
      fields={FIELDS}
      people={people}
      faults={faults}
      onChange={(changed) => {
        latest = changed;
        setNow(changed);
      }}
    />
  );
}

function opened(token: string | RegExp, given: Given = {}) {
  show(<Held {...given} />);
  fireEvent.click(screen.getByRole('button', { name: token }));
  return within(screen.getByRole('dialog'));
}

const edit = (element: HTMLElement, value: string) => fireEvent.change(element, { target: { value } });

beforeEach(() => {
  server.on('GET', '/api/routes', [ROUTE, { ...ROUTE, id: 8, name: 'Freight accounts' }]);
});

describe('what a route does, as sentences', () => {
  it('names its dataset, its match and its schedule', () => {
    show(<Held />);
    expect(screen.getByText('Pass holders')).toBeVisible();
    expect(screen.getByText('pass_number = external_ref')).toBeVisible();
    expect(screen.getByText('Europe/Oslo,')).toBeVisible();
    expect(screen.getByText(/or when the dataset is empty; such a run waits for approval/)).toBeVisible();
  });

  it('takes every mode, each with what it means', () => {
    const modes = opened(/^Mode:/);
    expect(modes.getAllByRole('radio')).toHaveLength(7);
    fireEvent.click(modes.getByRole('radio', { name: /^only updates/ }));
    expect(latest.mode).toBe('UPDATE_ONLY');
    expect(latest.leavers).toEqual({ kind: 'stay' });
  });

  it('lets nobody leave where a mode takes away or only appends', () => {
    const modes = opened(/^Mode:/, { spec: { mode: 'KEEP_EQUAL', leavers: { kind: 'delete' } } });
    expect(screen.getByText('when a row leaves')).toBeVisible();
    fireEvent.click(modes.getByRole('radio', { name: /^appends events/ }));
    expect(latest).toMatchObject({ mode: 'APPEND', leavers: { kind: 'stay' } });
    expect(screen.queryByText('when a row leaves')).toBeNull();
  });

  it('matches by another field that has a rule', () => {
    const match = opened(/^Match by external_ref/);
    const choice = match.getByLabelText('Key field');
    expect(within(choice).getByRole('option', { name: 'email (unique)' })).toBeInTheDocument();
    expect(within(choice).queryByRole('option', { name: 'mobile' })).toBeNull();
    edit(choice, 'email');
    expect(latest.match).toEqual(['email']);
  });

  it('matches by further fields, one after the other, which can be taken away', () => {
    const more = opened(/^Add a match key/);
    edit(more.getByLabelText('Match by'), 'email');
    expect(latest.match).toEqual(['external_ref', 'email']);
    expect(screen.getByText('then')).toBeInTheDocument();
    fireEvent.keyDown(document.activeElement ?? document.body, { key: 'Escape' });
    fireEvent.click(screen.getByRole('button', { name: /^Match by email/, hidden: true }));
    fireEvent.click(screen.getByText('Remove'));
    expect(latest.match).toEqual(['external_ref']);
  });

  it('rests on consent, told by a column that says so', () => {
    const basis = opened(/^Legal basis:/);
    fireEvent.click(basis.getByRole('radio', { name: 'only with consent' }));
    expect(latest.basis).toEqual({ kind: 'consent', purpose: '', column: 'agreed' });
    edit(basis.getByLabelText('Purpose'), 'letters');
    expect(latest.basis).toMatchObject({ purpose: 'letters', column: 'agreed' });
    expect(screen.getByText('who gave consent to letters (agreed)')).toBeInTheDocument();
    expect(screen.getByText('everyone else is left out, with a reason')).toBeInTheDocument();
    fireEvent.click(basis.getByRole('radio', { name: 'another legal basis' }));
    edit(basis.getByLabelText('In words'), 'a contract');
    expect(latest.basis).toEqual({ kind: 'stated', reason: 'a contract' });
  });

  it('asks for no basis where nobody is a person', () => {
    show(<Held people={false} />);
    expect(screen.queryByRole('button', { name: /^Legal basis:/ })).toBeNull();
  });

  it('departs by hand, every few minutes, daily, or on days of the week', () => {
    const when = opened(/^When it departs/);
    edit(when.getByLabelText('Departs'), 'every');
    expect(latest.schedule).toEqual({ kind: 'every', minutes: 20, zone: 'Europe/Oslo' });
    edit(when.getByLabelText('Minutes'), '45');
    expect(latest.schedule).toMatchObject({ minutes: 45 });
    edit(when.getByLabelText('Departs'), 'weekly');
    expect(latest.schedule).toMatchObject({ kind: 'weekly', days: ['MONDAY'], time: '06:00' });
    edit(when.getByLabelText('At'), '21:30');
    fireEvent.click(when.getByRole('checkbox', { name: /Fri/ }));
    expect(latest.schedule).toMatchObject({ days: ['MONDAY', 'FRIDAY'], time: '21:30' });
    fireEvent.click(when.getByRole('checkbox', { name: /Mon/ }));
    expect(latest.schedule).toMatchObject({ days: ['FRIDAY'] });
    edit(when.getByLabelText('Departs'), 'daily');
    expect(latest.schedule).toEqual({ kind: 'daily', time: '21:30', zone: 'Europe/Oslo' });
    edit(when.getByLabelText('Time zone'), 'Europe/Athens');
    edit(when.getByLabelText('Departs'), 'by-hand');
    expect(latest.schedule).toEqual({ kind: 'by-hand', zone: 'Europe/Athens' });
  });

  it('asks what becomes of two who turn out to be one, only where rows are people', () => {
    show(<Held />);
    expect(screen.queryByText('when two people are merged')).toBeNull();
  });

  it('asks it of a dataset of people', () => {
    const joined = opened(/^When a record is merged into another/, {
      columns: [{ name: 'person_id', type: 'TEXT', role: 'KEY' }, ...COLUMNS.slice(1)],
    });
    const choice = joined.getByRole('combobox');
    expect(choice).toHaveValue('REVIEW');
    edit(choice, 'LEAVES');
    expect(latest.joined).toBe('LEAVES');
  });

  it('says what is wrong with it', () => {
    show(
      <Held
        faults={[
          {
            field: '',
            message: 'Say why these people may be sent.',
            blocking: true,
            line: 0,
            column: 0,
            ruleOnly: false,
          },
        ]}
      />,
    );
    expect(screen.getByText('Say why these people may be sent.')).toBeVisible();
  });
});
