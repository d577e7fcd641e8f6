import { act, screen } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { useState } from 'react';
import { show as page, signIn } from '../testing/page';
import { CodeField } from './CodeField';

let learn: (names: string[]) => void = () => undefined;

function Field() {
  const [value, setValue] = useState('status');
  const [names, setNames] = useState<string[]>([]);
  learn = setNames;
  return (
    <>
      <CodeField label="Expression" value={value} onChange={setValue} names={names} faults={[]} single />
      <output aria-label="Kept">{value}</output>
    </>
  );
}

const box = () => screen.getByRole('textbox', { name: 'Expression' });

describe('a field for code', () => {
  it('stays the same editor when it learns names, so that nothing typed meanwhile is lost', () => {
    page(<Field />);
    const before = box();
    expect(before).toHaveTextContent('status');
    act(() => learn(['status', 'home_port']));
    expect(box()).toBe(before);
    expect(box()).toHaveTextContent('status');
  });

  it('is read and not written by viewers', () => {
    signIn('VIEWER');
    page(<Field />);
    expect(box()).toHaveAttribute('aria-readonly', 'true');
  });
});
