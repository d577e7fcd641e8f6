import { render, screen } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { Ledger } from './Ledger';

describe('Ledger', () => {
  it('adds up line by line', () => {
    render(
      <Ledger
        evidence={{
          one: { datasetId: 1, key: 'P-1' },
          other: { datasetId: 2, key: 'T-1' },
          weight: 4,
          used: false,
          reason: '',
          ledger: [
            { words: 'any two records', bits: -12 },
            { words: 'email is the same', bits: 13 },
            { words: 'given name is the same', bits: 3 },
          ],
        }}
      />,
    );
    const counts = screen
      .getAllByRole('row')
      .slice(1)
      .map((row) => row.lastElementChild?.textContent);
    expect(counts).toEqual(['−12.0', '+1.0', '+4.0']);
  });
});
