import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import { useState } from 'react';
import { beforeEach, describe, expect, it } from 'vitest';
import type { Expectation, ExpectationState } from '../../api/types';
import { AT, show, signIn } from '../../testing/page';
import { server } from '../../testing/server';
import { ExpectationsCard } from './ExpectationsCard';

const COLUMNS = [
  { name: 'id', type: 'INTEGER', role: 'KEY' },
  { name: 'email', type: 'TEXT', role: 'IDENTIFIER' },
  { name: 'score', type: 'DECIMAL', role: 'ATTRIBUTE' },
] as const;
const EMAIL: Expectation = { column: 'email', demand: { kind: 'not-empty' }, response: 'HOLD_ROWS' };

const state = (over: Partial<ExpectationState> = {}): ExpectationState => ({
  expectation: EMAIL,
  sentence: 'email is never empty',
  met: true,
  rows: 0,
  detail: '',
  timesMet: 14,
  timesChecked: 14,
  ...over,
});

let seen: Expectation[] = [];

function Held({ from }: { from: Expectation[] }) {
  const [value, setValue] = useState(from);
  seen = value;
  return <ExpectationsCard datasetId={3} live={1} columns={[...COLUMNS]} value={value} onChange={setValue} />;
}

function stands(states: ExpectationState[], over: object = {}) {
  server.on('GET', '/api/datasets/{id}/expectations', {
    expectations: states,
    lastRead: AT,
    checking: false,
    problem: '',
    ...over,
  });
}

beforeEach(() => {
  signIn('EDITOR');
  stands([]);
  server.on('GET', '/api/datasets/{id}/expectations/proposals', []);
});

const choose = (label: string, value: string) =>
  fireEvent.change(screen.getByLabelText(label), { target: { value } });

describe('expectations of a dataset', () => {
  it('says what they are for while there are none', async () => {
    show(<Held from={[]} />);
    expect(await screen.findByText(/Nothing is expected of this dataset yet/)).toBeVisible();
  });

  it('says of each whether the last read met it, and in how many reads', async () => {
    stands([state()]);
    show(<Held from={[EMAIL]} />);
    expect(await screen.findByText('met in 14 of 14 reads')).toBeVisible();
    expect(screen.getByText('met')).toBeVisible();
  });

  it('says what was found of one that is not met, and since when', async () => {
    stands([state({ met: false, rows: 12, detail: '12 rows do not meet this.', brokenSince: AT })]);
    show(<Held from={[EMAIL]} />);
    expect(await screen.findByText('not met')).toBeVisible();
    expect(screen.getByText(/12 rows do not meet this. Not met since/)).toBeVisible();
  });

  it('tells one that was changed apart from what was checked', async () => {
    stands([state({ expectation: { ...EMAIL, demand: { kind: 'unique' } } })]);
    show(<Held from={[EMAIL]} />);
    expect(await screen.findByText('not in service')).toBeVisible();
  });

  it('offers for a column and for the dataset only what can be expected of it', async () => {
    show(<Held from={[EMAIL]} />);
    const kinds = await screen.findByLabelText('What is expected of email');
    expect(within(kinds).queryByText('is within')).toBeNull();
    choose('Column or dataset', 'score');
    expect(within(screen.getByLabelText('What is expected of score')).getByText('is within')).toBeVisible();
    choose('What is expected of score', 'within');
    fireEvent.change(screen.getByLabelText('Greatest value of score'), { target: { value: '100' } });
    expect(seen).toEqual([
      { column: 'score', demand: { kind: 'within', least: '0', most: '100' }, response: 'HOLD_ROWS' },
    ]);

    choose('Column or dataset', '');
    expect(seen[0]?.response).toBe('STOP_ROUTES');
    expect(
      within(screen.getByLabelText('If the dataset does not meet this')).queryByText('hold the rows'),
    ).toBeNull();
    expect(seen[0]?.demand.kind).toBe('row-count');
  });

  it('takes values apart by commas', async () => {
    show(<Held from={[EMAIL]} />);
    await screen.findByLabelText('What is expected of email');
    choose('What is expected of email', 'one-of');
    choose('Values of email, separated by commas', 'gold,  blue ,,');
    expect(seen[0]?.demand).toEqual({ kind: 'one-of', values: ['gold', 'blue'] });
  });

  it('adds what is proposed, and does not propose it again', async () => {
    server.on('GET', '/api/datasets/{id}/expectations/proposals', [
      { expectation: EMAIL, sentence: 'email is never empty', evidence: 'Never empty in the last 14 reads.' },
    ]);
    show(<Held from={[]} />);
    fireEvent.click(await screen.findByRole('button', { name: 'Add: email is never empty' }));
    expect(seen).toEqual([EMAIL]);
    await waitFor(() => expect(screen.queryByText('Never empty in the last 14 reads.')).toBeNull());
    fireEvent.click(screen.getByRole('button', { name: 'Remove the expectation of email' }));
    expect(await screen.findByText('Never empty in the last 14 reads.')).toBeVisible();
  });

  it('shows rows that do not meet one that is not saved', async () => {
    server.on('POST', '/api/datasets/{id}/expectations/rows', {
      columns: ['id', 'email'],
      rows: [['7', 'guest at nowhere']],
      read: 40,
      whole: true,
    });
    show(<Held from={[EMAIL]} />);
    fireEvent.click(await screen.findByRole('button', { name: 'Show rows' }));
    expect(await screen.findByText('1 row does not meet this, of 40.')).toBeVisible();
    expect(screen.getByRole('cell', { name: '7' })).toBeVisible();
    expect(screen.getByRole('cell', { name: 'guest at nowhere' })).toBeVisible();
  });

  it('asks for a check and says why the last one failed', async () => {
    stands([], { problem: 'User shop_reader may not read this.' });
    server.on('POST', '/api/datasets/{id}/check', { expectations: [], checking: true, problem: '' });
    show(<Held from={[]} />);
    expect(await screen.findByRole('alert')).toHaveTextContent('User shop_reader may not read this.');
    fireEvent.click(screen.getByRole('button', { name: 'Check now' }));
    expect(await screen.findByRole('button', { name: 'Checking' })).toBeDisabled();
  });

  it('is read and not edited by a viewer', async () => {
    signIn('VIEWER');
    stands([state()]);
    show(<Held from={[EMAIL]} />);
    expect(await screen.findByText('met')).toBeVisible();
    expect(screen.queryByRole('button', { name: 'Add expectation' })).toBeNull();
    expect(screen.queryByRole('button', { name: 'Show rows' })).toBeNull();
    expect(screen.getByLabelText('What is expected of email')).toBeDisabled();
  });
});
