import { fireEvent, screen, within } from '@testing-library/react';
import { useState } from 'react';
import { describe, expect, it } from 'vitest';
import type { ConditionWords, LineAnswer, LiveCount } from '../../api/types';
import { ConditionEditor } from './ConditionEditor';
import type { Group } from './conditions';
import { show as showPage } from '../../testing/page';

const WORDS: ConditionWords = {
  attributes: [
    { name: 'home_port', type: 'TEXT', measure: false },
    { name: 'crossings', type: 'INTEGER', measure: true },
  ],
  events: [{ name: 'crossing', columns: [{ name: 'fare', type: 'DECIMAL' }] }],
  audiences: [{ id: 4, name: 'Loyal' }],
  datasets: [],
  routes: [],
  purposes: [{ purpose: 'news', channel: 'mail' }],
};

const PORT: Group['conditions'][number] = {
  kind: 'attribute',
  attribute: 'home_port',
  test: { kind: 'one-of', values: ['TAR', 'BRE'] },
};
const EVERYONE: Group['conditions'][number] = { kind: 'everyone' };

let latest: Group;

function Held({ group, counts, answers }: { group: Group; counts?: LiveCount; answers?: LineAnswer[] }) {
  const [now, setNow] = useState(group);
  return (
    <ConditionEditor
      entityType="PERSON"
      group={now}
      words={WORDS}
      counts={counts}
      answers={answers}
      onChange={(changed) => {
        latest = changed;
        setNow(changed);
      }}
    />
  );
}

function show(
  conditions: Group['conditions'],
  kind: Group['kind'] = 'all',
  more: Partial<Parameters<typeof Held>[0]> = {},
) {
  latest = { kind, conditions };
  showPage(<Held group={latest} {...more} />);
}

function choose(label: string, value: string) {
  fireEvent.change(screen.getByLabelText(label), { target: { value } });
}

const counted = (lines: LiveCount['lines'], margin?: number): LiveCount => ({
  people: 1000,
  lines,
  members: 5,
  inControlGroup: 0,
  millis: 3,
  sql: '',
  ...(margin === undefined ? {} : { margin }),
});

describe('a condition as lines', () => {
  it('offers every subject that there is, and none that there is nothing of', () => {
    show([]);
    const add = screen.getByLabelText('Add a line');
    const groups = within(add)
      .getAllByRole('group')
      .map((one) => one.getAttribute('label'));
    expect(groups).toEqual(['Attributes', 'Measures', 'Events', 'More']);
    expect(within(add).getByRole('option', { name: 'In another audience' })).toBeInTheDocument();
    expect(within(add).getByRole('option', { name: 'Consent' })).toBeInTheDocument();
    expect(within(add).queryByRole('option', { name: 'Has a record in a dataset' })).toBeNull();
    expect(within(add).queryByRole('option', { name: 'Route activity' })).toBeNull();
  });

  it('begins a line with what is usual for its subject', () => {
    show([]);
    choose('Add a line', 'attribute crossings');
    expect(latest.conditions).toMatchObject([
      { kind: 'attribute', attribute: 'crossings', test: { kind: 'number' } },
    ]);
    choose('Add a line', 'events crossing');
    expect(latest.conditions[1]).toMatchObject({
      kind: 'events',
      measure: { of: { events: 'crossing' }, aggregation: { kind: 'count' } },
    });
    choose('Add a line', 'consent');
    expect(latest.conditions[2]).toEqual({
      kind: 'consent',
      purpose: 'news',
      channel: 'mail',
      answer: 'YES',
    });
    choose('Add a line', 'audience');
    expect(latest.conditions[3]).toEqual({ kind: 'audience', audience: 4 });
    expect(screen.getAllByRole('listitem').map((one) => one.getAttribute('aria-label'))).toEqual([
      'line 1',
      'line 2',
      'line 3',
      'line 4',
    ]);
  });

  it('changes nothing when nothing is chosen', () => {
    show([PORT]);
    choose('Add a line', '');
    expect(latest.conditions).toEqual([PORT]);
  });

  it('joins its lines by and, or by or', () => {
    show([PORT, EVERYONE]);
    expect(within(screen.getByLabelText('line 2')).getByText('and')).toBeVisible();
    choose('Match all or any of the conditions', 'any');
    expect(latest.kind).toBe('any');
    expect(within(screen.getByLabelText('line 2')).getByText('or')).toBeVisible();
    expect(within(screen.getByLabelText('line 1')).queryByText('or')).toBeNull();
  });

  it('turns a line round, and back again', () => {
    show([PORT, EVERYONE]);
    const negate = screen.getByLabelText(/: not, line 1$/);
    expect(negate).toHaveAttribute('aria-pressed', 'false');
    fireEvent.click(negate);
    expect(latest.conditions).toEqual([{ kind: 'not', condition: PORT }, EVERYONE]);
    expect(screen.getByLabelText(/: not, line 1$/)).toHaveAttribute('aria-pressed', 'true');
    fireEvent.click(screen.getByLabelText(/: not, line 1$/));
    expect(latest.conditions).toEqual([PORT, EVERYONE]);
  });

  it('takes out the line that is meant', () => {
    show([PORT, EVERYONE]);
    fireEvent.click(screen.getByLabelText('Remove line 1'));
    expect(latest.conditions).toEqual([EVERYONE]);
    fireEvent.click(screen.getByLabelText('Remove line 1'));
    expect(latest.conditions).toEqual([]);
  });

  it('holds groups within it, edited like the whole', () => {
    show([PORT]);
    choose('Add a line', 'group');
    expect(latest.conditions[1]).toEqual({ kind: 'any', conditions: [] });
    choose('Add a line 2 within', 'everyone');
    choose('Add a line 2 within', 'attribute home_port');
    expect(latest.conditions[1]).toMatchObject({
      kind: 'any',
      conditions: [EVERYONE, { attribute: 'home_port' }],
    });
    choose('All or any, line 2', 'all');
    expect(latest.conditions[1]).toMatchObject({ kind: 'all' });
    fireEvent.click(screen.getByLabelText(/: not, line 2, 1$/));
    expect(latest.conditions[1]).toMatchObject({ conditions: [{ kind: 'not', condition: EVERYONE }, {}] });
    fireEvent.click(screen.getByLabelText('Remove line 2, 2'));
    expect(latest.conditions[1]).toMatchObject({ conditions: [{ kind: 'not' }] });
    expect(latest.conditions[0]).toEqual(PORT);
  });

  it('says beside each line how many meet it and remain', () => {
    show([PORT, EVERYONE], 'all', {
      counts: counted([
        { alone: 1234, left: 1234, parts: [] },
        { alone: 9876, left: 567, parts: [] },
      ]),
    });
    expect(screen.getByText('remain')).toBeVisible();
    const second = within(screen.getByLabelText('line 2'));
    expect(second.getByText('9 876', { normalizer: (text) => text.replace(/\s|,/g, ' ') })).toBeVisible();
    expect(second.getByText('567')).toBeVisible();
  });

  it('says that a count is estimated where it is', () => {
    show([PORT], 'all', { counts: counted([{ alone: 300, left: 300, parts: [] }], 40) });
    expect(within(screen.getByLabelText('line 1')).getAllByText('≈ 300')).toHaveLength(2);
  });

  it('counts the parts where any line is enough, and has nothing left over to say', () => {
    show([PORT, EVERYONE], 'any', { counts: counted([{ alone: 700, left: 700, parts: [200, 650] }]) });
    expect(screen.queryByText('remain')).toBeNull();
    expect(within(screen.getByLabelText('line 1')).getByText('200')).toBeVisible();
    expect(within(screen.getByLabelText('line 2')).getByText('650')).toBeVisible();
  });

  it('says of one person which lines they meet, with the value that decided', () => {
    show([PORT, EVERYONE], 'all', {
      answers: [
        { holds: false, value: 'LYS', parts: [] },
        { holds: true, value: '', parts: [] },
      ] as LineAnswer[],
    });
    expect(within(screen.getByLabelText('line 1')).getByText(/^no/)).toHaveTextContent('no: LYS');
    expect(within(screen.getByLabelText('line 2')).getByText('yes')).toBeVisible();
  });
});
