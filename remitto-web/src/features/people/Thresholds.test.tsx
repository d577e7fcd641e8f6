import { fireEvent, screen } from '@testing-library/react';
import { useState } from 'react';
import { beforeEach, describe, expect, it } from 'vitest';
import type { PeopleRules } from '../../api/types';
import { AT, show } from '../../testing/page';
import { server } from '../../testing/server';
import type { Kin } from './entityTypes';
import { Thresholds } from './Thresholds';

const LIMITS = { records: 25, emails: 8, weakest: 0, apart: -40, block: 60, share: 12 };
const COST = {
  precision: 0.996,
  joined: 4_322,
  asked: [{ precision: 0.999, join: 6.2, joined: 4_100 }],
  join: 2.4,
  ask: -1.3,
  between: 187,
};

function overview(cost: object | undefined) {
  const none = { withoutKey: 0, changed: 0, gone: 0, judged: 0, fresh: 0, retired: 0, split: 0, refused: 0 };
  const lists = { sources: [], joined: [], sizes: [], rules: [], evidence: [], common: [], keys: [] };
  server.on('GET', '/api/people/overview', {
    sources: [],
    good: {
      id: 1,
      entityType: 'PERSON',
      startedAt: AT,
      startedBy: 'edda',
      whole: true,
      stage: '',
      done: 0,
      problem: '',
      decidedBy: '',
      summary: { ...none, ...lists, records: 9, persons: 5, rulesNumber: 1, compared: 8, asks: 1, cost },
    },
  });
}

let said: PeopleRules['thresholds'];

function Shown({ thresholds }: { thresholds: PeopleRules['thresholds'] }) {
  const [rules, setRules] = useState({ thresholds, limits: LIMITS } as unknown as PeopleRules);
  return (
    <Thresholds
      rules={rules}
      whom={{ entityType: 'PERSON', one: 'person' } as unknown as Kin}
      onChange={(next) => {
        said = next.thresholds;
        setRules(next);
      }}
    />
  );
}

const open = (name: RegExp) => fireEvent.click(screen.getByRole('button', { name }));
const write = (label: RegExp, value: string) =>
  fireEvent.change(screen.getByLabelText(label), { target: { value } });

beforeEach(() => overview(COST));

describe('the thresholds', () => {
  it('are stated in bits', () => {
    show(<Shown thresholds={{ join: 1, ask: -2 }} />);
    open(/Match from: \+1.0/);
    write(/bits/, '3.5');
    expect(said).toEqual({ join: 3.5, ask: -2 });
    expect(screen.getByText('+3.5')).toBeVisible();
  });

  it('follow from a precision, and what that came to last time is said', async () => {
    show(<Shown thresholds={{ join: 1, ask: -2 }} />);
    open(/Set a target precision/);
    expect(said).toEqual({ join: 1, ask: -2, aim: { precision: 0.995, asked: 200 } });
    expect(
      await screen.findByText(/The last run matched from \+2.4 bits, and reviewed from −1.3./),
    ).toBeVisible();
    open(/Precision: 99.5%/);
    write(/per cent of matched pairs/, '99.95');
    expect(said.aim?.precision).toBe(0.9995);
    expect(screen.getByText('99.95%')).toBeVisible();
  });

  it('ask about as many pairs as somebody can look at', () => {
    show(<Shown thresholds={{ join: 1, ask: -2, aim: { precision: 0.99, asked: 40 } }} />);
    open(/Pairs to review: 40 pairs/);
    write(/maximum number of pairs to review/, '60');
    expect(said.aim).toEqual({ precision: 0.99, asked: 60 });
  });

  it('are stated again as they were', () => {
    show(<Shown thresholds={{ join: 4, ask: 1, aim: { precision: 0.99, asked: 40 } }} />);
    open(/Set weights/);
    expect(said).toEqual({ join: 4, ask: 1 });
  });

  it('are shown with what they are expected to cost', async () => {
    show(<Shown thresholds={{ join: 1, ask: -2 }} />);
    expect(await screen.findByText(/About 0.4% of the 4,322 pairs matched last time/)).toHaveTextContent(
      'and 187 pairs came next. For 0.1%, match from +6.2 (4,100 pairs).',
    );
  });

  it('say nothing of what came next where an older run did not keep it', async () => {
    overview({ precision: 0.996, joined: 12, asked: [] });
    show(<Shown thresholds={{ join: 1, ask: -2, aim: { precision: 0.99, asked: 40 } }} />);
    expect(await screen.findByText(/expected to be wrong/)).not.toHaveTextContent('came next');
    expect(screen.queryByText(/The last run matched/)).toBeNull();
  });
});
