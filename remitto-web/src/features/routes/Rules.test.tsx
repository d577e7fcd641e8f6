import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import { useState } from 'react';
import { beforeEach, describe, expect, it } from 'vitest';
import type { Column, FieldRule, RouteFault, Run, RuleWords } from '../../api/types';
import { field } from '../../testing/fields';
import { show } from '../../testing/page';
import { server } from '../../testing/server';
import { Rules } from './Rules';
import { freshRule } from './words';

const COLUMNS: Column[] = [
  { name: 'pass_number', type: 'TEXT', role: 'KEY' },
  { name: 'email', type: 'TEXT', role: 'IDENTIFIER' },
  { name: 'phone', type: 'TEXT', role: 'IDENTIFIER' },
  { name: 'agreed', type: 'TEXT', role: 'CONSENT' },
  { name: 'changed_at', type: 'TIMESTAMP', role: 'ATTRIBUTE' },
];

const FIELDS = [
  field('external_ref', { required: true, unique: true }),
  field('email'),
  field('mobile'),
  field('score', { readOnly: true }),
];

const column = (name: string, from: string): FieldRule => freshRule(name, { kind: 'column', column: from });
const RULES = [column('external_ref', 'pass_number'), column('email', 'email')];
const ENDS = { datasetId: 3, destinationId: 4, object: 'contact' };

let latest: FieldRule[];
let selected: string;

interface Given {
  rules?: FieldRule[];
  faults?: RouteFault[];
  words?: Record<string, RuleWords>;
  last?: Run;
}

function Held({ rules = RULES, faults = [], words = {}, last }: Given) {
  const [now, setNow] = useState(rules);
  const [chosen, setChosen] = useState('');
  const set = (changed: FieldRule[]) => {
    latest = changed;
    setNow(changed);
  };
  const select = (name: string) => {
    selected = name;
    setChosen(name);
  };
  return (
    <Rules
      rules={now}
      match={['external_ref']}
      fields={FIELDS}
      columns={COLUMNS}
      faults={faults}
      words={words}
      last={last}
      selected={chosen}
      onSelect={select}
      onChange={(rule) => set(now.map((one) => (one.field === rule.field ? rule : one)))}
      onAdd={(rule) => {
        set([...now, rule]);
        select(rule.field);
      }}
      onRemove={(name) => set(now.filter((one) => one.field !== name))}
      routeId={7}
      ends={ENDS}
      onPropose={(more) => set([...now, ...more])}
    />
  );
}

const edit = (label: string, value: string) =>
  fireEvent.change(screen.getByLabelText(label), { target: { value } });
const rule = (name: string) => latest.find((one) => one.field === name);

function open(name: string, given: Given = {}) {
  latest = given.rules ?? RULES;
  show(<Held {...given} />);
  fireEvent.click(screen.getByRole('button', { name }));
}

beforeEach(() => {
  server.on('GET', '/api/routes', []);
});

describe('the rules of a route', () => {
  it('say what each field receives, which is the key, and what is left over', () => {
    show(<Held />);
    const key = screen.getByRole('button', { name: 'external_ref' }).closest('tr');
    expect(within(key as HTMLElement).getByText('key')).toBeVisible();
    expect(within(key as HTMLElement).getByText('pass_number')).toBeVisible();
    expect(screen.getByText(/Unused: fields mobile; columns phone, agreed, changed_at\./)).toBeVisible();
    expect(screen.queryByLabelText('Find a rule')).toBeNull();
  });

  it('open and close at their name', () => {
    open('email');
    expect(selected).toBe('email');
    expect(screen.getByLabelText('What email receives')).toBeVisible();
    expect(screen.getByRole('button', { name: 'email' })).toHaveAttribute('aria-expanded', 'true');
    fireEvent.click(screen.getByRole('button', { name: 'email' }));
    expect(screen.queryByLabelText('What email receives')).toBeNull();
  });

  it('close at Escape, and the key goes back to the name', () => {
    open('email');
    const choice = screen.getByLabelText('Write policy');
    choice.focus();
    fireEvent.keyDown(choice, { key: 'Escape' });
    expect(screen.queryByLabelText('Write policy')).toBeNull();
    expect(document.activeElement).toBe(screen.getByRole('button', { name: 'email' }));
  });

  it('say the sentence that the server makes of them', () => {
    open('email', { words: { email: { sentence: 'The column email, always.', direction: 'SOURCE' } } });
    expect(screen.getByText('The column email, always.')).toBeVisible();
    expect(screen.getByLabelText('Conflict policy')).toHaveDisplayValue('the source');
  });

  it.each([
    ['SOURCE', { written: 'ALWAYS', onDrift: 'OVERWRITE' }],
    ['DESTINATION', { written: 'DESTINATION_DECIDES', onDrift: 'KEEP_THEIRS' }],
    ['HOLD_ON_CONFLICT', { written: 'ALWAYS', onDrift: 'HOLD_VALUE' }],
    ['NEWEST', { written: 'IF_NEWER', newer: { column: 'changed_at', skewSeconds: 0 } }],
  ])('take who decides as the choices that amount to it: %s', (direction, choices) => {
    open('email');
    edit('Conflict policy', direction);
    expect(rule('email')).toMatchObject(choices);
  });

  it('ask which column tells what is newer, only where that is asked', () => {
    open('email');
    expect(screen.queryByLabelText('Column with the time of the change')).toBeNull();
    edit('Write policy', 'IF_NEWER');
    expect(screen.getByLabelText('Column with the time of the change')).toHaveDisplayValue('changed_at');
    edit('Write policy', 'ALWAYS');
    expect(rule('email')?.newer).toBeUndefined();
  });

  it('take what happens where there is no value, and a default where one is used', () => {
    open('email');
    expect(screen.getByLabelText('Default')).toBeDisabled();
    edit('If blank', 'DEFAULT');
    edit('Default', 'nobody@mail.example');
    edit('If empty', 'CLEAR');
    edit('If no record is found', 'HOLD_RECORD');
    edit('If the value is invalid', 'LEAVE');
    expect(rule('email')).toMatchObject({
      ifBlank: 'DEFAULT',
      defaultText: 'nobody@mail.example',
      ifEmpty: 'CLEAR',
      ifMissing: 'HOLD_RECORD',
      ifUnusable: 'LEAVE',
    });
    edit('If blank', '');
    expect(rule('email')?.ifBlank).toBeUndefined();
  });

  it('are timed while anything is asked of the time, and not at all otherwise', () => {
    open('email');
    edit('At most every (hours)', '24');
    expect(rule('email')?.timing).toMatchObject({ atMostEveryHours: 24, onlyWithColumn: '' });
    edit('Only from', '08:00');
    expect(rule('email')?.timing?.window).toEqual({ from: '08:00', to: '23:59' });
    edit('to', '20:00');
    expect(rule('email')?.timing?.window).toEqual({ from: '08:00', to: '20:00' });
    edit('Only when this column changes', 'changed_at');
    edit('Not before', '2026-12-01');
    expect(rule('email')?.timing).toMatchObject({ onlyWithColumn: 'changed_at', notBefore: '2026-12-01' });
    edit('At most every (hours)', '-3');
    expect(rule('email')?.timing?.atMostEveryHours).toBe(0);
    edit('Only from', '');
    edit('Only when this column changes', '');
    edit('Not before', '');
    expect(rule('email')?.timing).toBeUndefined();
  });

  it('need consent where a column is said to tell it', () => {
    open('email');
    expect(screen.queryByLabelText('Consent to')).toBeNull();
    edit('Requires consent in column', 'agreed');
    edit('Consent to', 'letters');
    expect(rule('email')?.consent).toEqual({ column: 'agreed', purpose: 'letters' });
    expect(screen.getByText(/with consent/)).toBeVisible();
    edit('Requires consent in column', '');
    expect(rule('email')?.consent).toBeUndefined();
  });

  it('receive from elsewhere what is chosen', async () => {
    open('email');
    edit('What email receives', 'fixed');
    expect(rule('email')?.receives).toEqual({ kind: 'fixed', text: '' });
    edit('What email receives', 'column');
    expect(rule('email')?.receives).toMatchObject({ kind: 'column' });
    await waitFor(() => expect(server.askedOf('GET', '/api/routes')).toHaveLength(1));
  });

  it('are shaped, in an order that can be changed', () => {
    open('email');
    const names = () => rule('email')?.shapers.map((one) => one.kind);
    edit('Add a shaper', 'trim');
    edit('Add a shaper', 'lower');
    expect(names()).toEqual(['trim', 'lower']);
    fireEvent.click(screen.getByLabelText(/^Move .* left$/));
    expect(names()).toEqual(['lower', 'trim']);
    fireEvent.click(screen.getAllByLabelText(/^Remove /)[0] as HTMLElement);
    expect(names()).toEqual(['trim']);
  });

  it('are added for a field that has none, from a column of its name or from none yet', () => {
    latest = RULES;
    show(<Held />);
    const add = screen.getByLabelText('Add a rule for a field');
    expect(within(add).getByRole('option', { name: 'score, text, read-only' })).toBeInTheDocument();
    expect(within(add).queryByRole('option', { name: /^email/ })).toBeNull();
    edit('Add a rule for a field', 'mobile');
    expect(rule('mobile')).toMatchObject({
      receives: { kind: 'column', column: '' },
      written: 'ALWAYS',
    });
    expect(screen.getByLabelText('What mobile receives')).toBeVisible();
  });

  it('are taken away', () => {
    open('email');
    fireEvent.click(screen.getByRole('button', { name: 'Remove rule' }));
    expect(latest.map((one) => one.field)).toEqual(['external_ref']);
  });

  it('are proposed by name for fields that have none, and leave the others alone', async () => {
    latest = RULES;
    server.on('POST', '/api/routes/propose', {
      rules: [column('email', 'phone'), column('mobile', 'phone')],
      columnsLeft: [],
      fieldsLeft: [],
    });
    show(<Held />);
    fireEvent.click(screen.getByRole('button', { name: 'Propose rules' }));
    await waitFor(() => expect(latest.map((one) => one.field)).toEqual(['external_ref', 'email', 'mobile']));
    expect(rule('email')).toMatchObject({ receives: { column: 'email' } });
    expect(server.askedOf('POST', '/api/routes/propose')[0]?.body).toMatchObject({ ends: ENDS });
  });

  it('say why nothing could be proposed', async () => {
    server.refuse('POST', '/api/routes/propose', 409, 'The destination does not answer.');
    show(<Held />);
    fireEvent.click(screen.getByRole('button', { name: 'Propose rules' }));
    expect(await screen.findByText('The destination does not answer.')).toBeVisible();
  });

  it('show a fault that stands in the way at once, and advice where one is at work', () => {
    const faults: RouteFault[] = [
      {
        field: 'external_ref',
        message: 'A key may not be empty.',
        blocking: true,
        line: 0,
        column: 0,
        ruleOnly: false,
      },
      {
        field: 'email',
        message: 'Tidy addresses are found more often.',
        blocking: false,
        line: 0,
        column: 0,
        ruleOnly: false,
      },
      {
        field: 'gone',
        message: 'There is no such field any more.',
        blocking: true,
        line: 0,
        column: 0,
        ruleOnly: false,
      },
    ];
    show(<Held faults={faults} />);
    expect(screen.getByText('A key may not be empty.')).toBeVisible();
    expect(screen.queryByText('Tidy addresses are found more often.')).toBeNull();
    expect(screen.getByText('gone: There is no such field any more.')).toBeVisible();
    fireEvent.click(screen.getByRole('button', { name: 'email' }));
    expect(screen.getByText('Tidy addresses are found more often.')).toBeVisible();
  });

  it('can be searched when there are many', () => {
    const many = Array.from({ length: 13 }, (_, i) => column(`field_${i}`, i === 7 ? 'phone' : 'email'));
    show(<Held rules={many} />);
    fireEvent.change(screen.getByLabelText('Find a rule'), { target: { value: 'PHONE' } });
    expect(screen.getByText(/^1 rule\./)).toBeVisible();
    expect(screen.getByRole('button', { name: 'field_7' })).toBeVisible();
    fireEvent.keyDown(screen.getByLabelText('Find a rule'), { key: 'ArrowDown' });
    expect(document.activeElement).toBe(screen.getByRole('button', { name: 'field_7' }));
  });
});
