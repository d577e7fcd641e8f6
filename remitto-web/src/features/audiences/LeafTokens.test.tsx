import { fireEvent, screen, within } from '@testing-library/react';
import { useState } from 'react';
import { beforeEach, describe, expect, it } from 'vitest';
import { api, ok } from '../../api/client';
import type { Condition, ConditionWords } from '../../api/types';
import { show } from '../../testing/page';
import { server } from '../../testing/server';
import {
  AGGREGATION_WORDS,
  conditionWords,
  freshAggregation,
  freshLeaf,
  freshTest,
  freshWindow,
  type Leaf,
  subjectOf,
  subjects,
  testsFor,
  WINDOW_KINDS,
} from './conditions';
import { LeafTokens } from './LeafTokens';

const TODAY = '2026-11-30';
const TYPES = ['TEXT', 'INTEGER', 'DECIMAL', 'BOOLEAN', 'DATE', 'TIMESTAMP'] as const;

const COLUMNS = TYPES.map((type) => ({ name: `a_${type.toLowerCase()}`, type }));

const WORDS: ConditionWords = {
  attributes: TYPES.map((type) => ({ name: type.toLowerCase(), type, measure: false })),
  events: [
    { name: 'crossing', columns: COLUMNS },
    { name: 'complaint', columns: [] },
  ],
  audiences: [
    { id: 4, name: 'Loyal' },
    { id: 5, name: 'Lapsed' },
  ],
  datasets: [{ id: 6, name: 'Bookings' }],
  routes: [{ id: 7, name: 'Passes' }],
  purposes: [
    { purpose: 'news', channel: 'mail' },
    { purpose: 'offers', channel: 'text' },
  ],
};

const COUNT = { people: 1, lines: [], members: 1, inControlGroup: 0, millis: 1, sql: '' };

/** Fails unless the server understands it. */
async function understood(condition: Condition) {
  const spec = { condition, sql: '', zone: 'Europe/Oslo', controlGroup: { percent: 0, seed: '' } };
  await ok(api.POST('/api/conditions/count', { body: { entityType: 'PERSON', spec, exact: true } }));
}

let latest: Leaf;

function Held({ leaf }: { leaf: Leaf }) {
  const [now, setNow] = useState(leaf);
  return (
    <LeafTokens
      name="line 1"
      entityType="PERSON"
      leaf={now}
      words={WORDS}
      onChange={(changed) => {
        latest = changed;
        setNow(changed);
      }}
    />
  );
}

/** Opens one part of the sentence. */
function opened(leaf: Leaf, token: string) {
  show(<Held leaf={leaf} />);
  fireEvent.click(screen.getByRole('button', { name: new RegExp(`^${token}:`) }));
  return within(screen.getByRole('dialog'));
}

const edit = (element: HTMLElement, value: string) => fireEvent.change(element, { target: { value } });

beforeEach(() => {
  server.on('POST', '/api/conditions/count', COUNT);
  server.on('GET', '/api/conditions/values', [
    { value: 'Tarva', count: 812 },
    { value: 'Brenn', count: 40 },
  ]);
});

const BEGUN = subjects(WORDS).flatMap((group) => group.choices.map(([subject]) => subject));

describe('a condition', () => {
  it.each(BEGUN)(
    'on %s is begun as one that the server understands, and reads as a sentence',
    async (subject) => {
      const leaf = freshLeaf(subject, WORDS, TODAY);
      await understood(leaf);
      expect(conditionWords(leaf, WORDS)).not.toMatch(/undefined|NaN|\bnull\b/);
      expect(subjectOf(leaf).split(' ')[0]).toBe(subject.split(' ')[0]);
    },
  );

  it.each(TYPES.flatMap((type) => testsFor(type).map(([kind]) => [type, kind] as const)))(
    'on a value of type %s may be tested by %s',
    async (type, kind) => {
      await understood({ kind: 'attribute', attribute: type.toLowerCase(), test: freshTest(kind, TODAY) });
    },
  );

  it.each(WINDOW_KINDS.map(([kind]) => kind))('counts events %s', async (kind) => {
    await understood({
      kind: 'events',
      measure: {
        of: { events: 'crossing', where: [] },
        window: freshWindow(kind, TODAY),
        aggregation: { kind: 'count' },
      },
      test: { kind: 'number', relation: 'AT_LEAST', number: 1 },
    });
  });

  it.each(AGGREGATION_WORDS.map(([kind]) => kind))('works events out as %s', async (kind) => {
    const aggregation = freshAggregation(kind, COLUMNS);
    expect(aggregation, 'there are columns of every type').toBeDefined();
    if (aggregation)
      await understood({
        kind: 'events',
        measure: { of: { events: 'crossing', where: [] }, window: { kind: 'ever' }, aggregation },
        test: { kind: 'has-value' },
      });
  });

  it('offers no working out that no column fits', () => {
    const kinds = AGGREGATION_WORDS.filter(([kind]) => freshAggregation(kind, [])).map(([kind]) => kind);
    expect(kinds).toContain('count');
    expect(kinds.length).toBeLessThan(AGGREGATION_WORDS.length);
  });
});

describe('the sentence of a condition', () => {
  it('is about something else at a choice, and begins again', () => {
    const entityType = opened(freshLeaf('attribute text', WORDS, TODAY), 'line 1 is about');
    edit(entityType.getByLabelText('About'), 'audience');
    expect(latest).toEqual({ kind: 'audience', audience: 4 });
  });

  it('chooses among the values there are, the most frequent first, and others', async () => {
    const leaf: Leaf = {
      kind: 'attribute',
      attribute: 'text',
      test: { kind: 'one-of', values: ['Storholm'] },
    };
    const values = opened(leaf, 'line 1, test');
    fireEvent.click(await values.findByLabelText(/Tarva/));
    expect(latest).toMatchObject({ test: { values: ['Storholm', 'Tarva'] } });
    expect(values.getByText('812')).toBeVisible();
    const others = values.getByLabelText('Other values, separated by commas');
    expect(others).toHaveValue('Storholm');
    edit(others, ' Lysø ,, Ness ');
    fireEvent.blur(others);
    expect(latest).toMatchObject({ test: { values: ['Tarva', 'Lysø', 'Ness'] } });
    fireEvent.click(values.getByLabelText(/Tarva/));
    expect(latest).toMatchObject({ test: { values: ['Lysø', 'Ness'] } });
    expect(server.askedOf('GET', '/api/conditions/values')[0]?.query).toMatchObject({
      entityType: 'PERSON',
      name: 'text',
    });
  });

  it('takes numbers and nothing that is none', () => {
    const leaf: Leaf = {
      kind: 'attribute',
      attribute: 'integer',
      test: { kind: 'number', relation: 'AT_LEAST', number: 3 },
    };
    const test = opened(leaf, 'line 1, test');
    edit(test.getByLabelText('Number'), '7.5');
    expect(latest).toMatchObject({ test: { number: 7.5 } });
    edit(test.getByLabelText('Number'), '');
    expect(latest).toMatchObject({ test: { number: 7.5 } });
    edit(test.getByLabelText('Is'), 'UNDER');
    expect(latest).toMatchObject({ test: { relation: 'UNDER', number: 7.5 } });
  });

  it('tests in another way at a choice', async () => {
    const leaf = freshLeaf('attribute integer', WORDS, TODAY);
    const test = opened(leaf, 'line 1, test');
    edit(test.getByLabelText('Matches when the value'), 'number-within');
    edit(test.getByLabelText('From'), '2');
    edit(test.getByLabelText('To, included'), '9');
    expect(latest).toMatchObject({ test: { kind: 'number-within', least: 2, most: 9 } });
    await understood(latest);
  });

  it('narrows events by their columns', async () => {
    const which = opened(freshLeaf('events crossing', WORDS, TODAY), 'line 1, which events');
    fireEvent.click(which.getByText('Filter by a column'));
    expect(latest).toMatchObject({ measure: { of: { where: [{ column: 'a_text' }] } } });
    edit(which.getByLabelText('Column 1 of crossing'), 'a_integer');
    expect(latest).toMatchObject({
      measure: { of: { where: [{ column: 'a_integer', test: { kind: 'number' } }] } },
    });
    await understood(latest);
    fireEvent.click(which.getByLabelText('Remove test 1 of crossing'));
    expect(latest).toMatchObject({ measure: { of: { where: [] } } });
  });

  it('offers nothing to narrow by where events have no columns', () => {
    show(<Held leaf={freshLeaf('events complaint', WORDS, TODAY)} />);
    expect(screen.queryByRole('button', { name: /which events/ })).toBeNull();
  });

  it('takes a test that fits when what is computed has another type', async () => {
    const how = opened(freshLeaf('events crossing', WORDS, TODAY), 'line 1, computed as');
    edit(how.getByLabelText('Computed as'), 'sum');
    expect(latest).toMatchObject({
      measure: { aggregation: { kind: 'sum', column: 'a_integer' } },
      test: { kind: 'number', number: 1 },
    });
    edit(how.getByLabelText('Computed as'), 'last-day');
    expect(latest).toMatchObject({
      measure: { aggregation: { kind: 'last-day' } },
      test: { kind: 'day-within' },
    });
    edit(how.getByLabelText('Computed as'), 'last');
    edit(how.getByLabelText('Column'), 'a_boolean');
    expect(latest).toMatchObject({
      measure: { aggregation: { kind: 'last', column: 'a_boolean' } },
      test: { kind: 'truth' },
    });
    await understood(latest);
  });

  it('says which times count', async () => {
    const time = opened(freshLeaf('events crossing', WORDS, TODAY), 'line 1, time');
    edit(time.getByLabelText('Days back from today; 0 is today'), '0');
    expect(latest).toMatchObject({ measure: { window: { kind: 'last-days', days: 0 } } });
    expect(conditionWords(latest, WORDS)).toContain('today');
    edit(time.getByLabelText('Time'), 'from-to');
    edit(time.getByLabelText('From, included'), '2026-06-01');
    edit(time.getByLabelText('To, included'), '');
    expect(latest).toMatchObject({ measure: { window: { kind: 'from-to', from: '2026-06-01' } } });
    edit(time.getByLabelText('Time'), 'calendar');
    edit(time.getByLabelText('Period'), 'WEEK');
    edit(time.getByLabelText('How many periods back; 0 is the current one'), '2');
    expect(latest).toMatchObject({ measure: { window: { kind: 'calendar', span: 'WEEK', back: 2 } } });
    await understood(latest);
  });

  it('says what followed, or did not, and how soon', async () => {
    const followed = opened(freshLeaf('sequence crossing', WORDS, TODAY), 'line 1, followed by any or none');
    edit(followed.getByLabelText('Followed by'), 'any');
    expect(latest).toMatchObject({ kind: 'sequence', none: false, then: { events: 'complaint' } });
    await understood(latest);
  });

  it.each([
    ['consent', 'line 1, answer', 'NO', { answer: 'NO', purpose: 'news' }],
    ['consent', 'line 1, purpose', 'offers\ntext', { purpose: 'offers', channel: 'text' }],
    ['audience', 'line 1, audience', '5', { audience: 5 }],
    ['sent', 'line 1, state', 'HELD', { state: 'HELD', route: 7 }],
  ])('chooses of %s: %s', async (subject, token, value, chosen) => {
    const part = opened(freshLeaf(subject, WORDS, TODAY), token);
    edit(part.getByLabelText('Which'), value);
    expect(latest).toMatchObject(chosen);
    await understood(latest);
  });
});

/** What stands on the line, without the names that readers hear of each part. */
function line(container: HTMLElement): string {
  const copy = container.cloneNode(true) as HTMLElement;
  copy.querySelectorAll('.sr-only, output').forEach((part) => part.remove());
  return [...copy.querySelectorAll('button, span > span')].map((part) => part.textContent).join(' ');
}

describe('a line about events reads as a sentence', () => {
  const window = { kind: 'last-days', days: 90 } as const;
  const of = { events: 'Crossings', where: [] };
  it.each([
    [{ kind: 'count' }, { kind: 'number', relation: 'AT_LEAST', number: 3 }, 'made at least 3 crossings'],
    [{ kind: 'count' }, { kind: 'number', relation: 'EXACTLY', number: 0 }, 'made no crossings'],
    [{ kind: 'count' }, { kind: 'number-within', least: 2, most: 5 }, 'made from 2 to 5 crossings'],
  ] as const)('%o, %o', (aggregation, test, begin) => {
    const { container } = show(
      <Held leaf={{ kind: 'events', measure: { of, aggregation, window }, test }} />,
    );
    expect(line(container)).toMatch(new RegExp(`^${begin}( of any kind)? in the last 90 days$`));
  });

  it('with what is computed of them first, and what it must be last', () => {
    const { container } = show(
      <Held
        leaf={{
          kind: 'events',
          measure: { of, aggregation: { kind: 'days-since' }, window: { kind: 'ever' } },
          test: { kind: 'number', relation: 'OVER', number: 0 },
        }}
      />,
    );
    expect(line(container)).toMatch(
      /^days since the latest of crossings( of any kind)? at any time is over 0$/,
    );
  });
});
