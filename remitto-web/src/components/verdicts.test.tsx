import { render, screen } from '@testing-library/react';
import { expect, it } from 'vitest';
import { BoardSums, Sign, VERDICTS } from './verdicts';

it('never tells a verdict by colour alone', () => {
  const signs = Object.values(VERDICTS).map((look) => look.sign);
  expect(new Set(signs).size).toBe(signs.length);
  render(<Sign verdict="HELD" />);
  expect(screen.getByText(/held/)).toBeInTheDocument();
});

it('shows on the board only what moved', () => {
  const { rerender } = render(<BoardSums counts={{ added: 0, changed: 1904, removed: 0, held: 0 }} />);
  expect(screen.getByText(/1,904/)).toBeInTheDocument();
  expect(screen.queryByText(/added/)).not.toBeInTheDocument();
  rerender(<BoardSums counts={{ added: 0, changed: 0, removed: 0, held: 0 }} />);
  expect(screen.getByText('no changes')).toBeInTheDocument();
});
