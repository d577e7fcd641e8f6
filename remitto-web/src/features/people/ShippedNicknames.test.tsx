import { fireEvent, render, screen } from '@testing-library/react';
import { useState } from 'react';
import { describe, expect, it } from 'vitest';
import type { PeopleRules } from '../../api/types';
import { ShippedNicknames } from './ShippedNicknames';

const PAIRS = [
  { nickname: 'alex', name: 'alexander' },
  { nickname: 'alex', name: 'alexandra' },
  { nickname: 'pelle', name: 'per' },
  ...Array.from({ length: 100 }, (_, at) => ({ nickname: `short${at}`, name: `long${at}` })),
];

function Shown({ told }: { told: (not: string[]) => void }) {
  const [not, setNot] = useState<string[]>([]);
  return (
    <ShippedNicknames
      rules={{ notNicknames: not } as unknown as PeopleRules}
      pairs={PAIRS}
      onChange={(rules) => {
        setNot(rules.notNicknames);
        told(rules.notNicknames);
      }}
    />
  );
}

describe('ShippedNicknames', () => {
  it('says how many there are, and finds one by a name it stands for', () => {
    render(<Shown told={() => {}} />);
    fireEvent.click(screen.getByText(/clear those that do not apply/));
    expect(screen.getByRole('status').textContent).toBe('The first 60 of 102 short forms');
    fireEvent.change(screen.getByLabelText(/Find a name/), { target: { value: 'Alexandra' } });
    expect(screen.getByRole('status').textContent).toBe('1 short form');
    expect(screen.getByRole('checkbox', { name: 'alex: alexander, alexandra' })).toBeTruthy();
  });

  it('says of a short form that it does not hold, and that it does after all', () => {
    let not: string[] = [];
    render(<Shown told={(now) => (not = now)} />);
    fireEvent.click(screen.getByText(/clear those that do not apply/));
    fireEvent.change(screen.getByLabelText(/Find a name/), { target: { value: 'pelle' } });
    const pelle = screen.getByRole<HTMLInputElement>('checkbox', { name: 'pelle: per' });
    expect(pelle.checked).toBe(true);
    fireEvent.click(pelle);
    expect(not).toEqual(['pelle']);
    expect(pelle.checked).toBe(false);
    fireEvent.click(pelle);
    expect(not).toEqual([]);
  });
});
