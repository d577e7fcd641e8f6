import { render, screen } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import type { Stocktake } from '../../api/types';
import { FillRates } from './FillRates';

function stocktake(there: number, fill: Partial<Stocktake['fill'][number]>[]): Stocktake {
  return { there, fill } as Stocktake;
}

describe('how full the fields there are', () => {
  it('are shares of the records there, then and now', () => {
    render(
      <FillRates
        stocktake={stocktake(400, [{ field: 'email', filled: 300, before: 50, thereBefore: 100 }])}
      />,
    );
    expect(screen.getByText('now and at the previous stocktake')).toBeVisible();
    expect(screen.getByText(/75\.0%/)).toHaveTextContent('75.0% 50.0%');
  });

  it('are shown alone at the first stocktake', () => {
    render(<FillRates stocktake={stocktake(3, [{ field: 'email', filled: 1 }])} />);
    expect(screen.getByText('now')).toBeVisible();
    expect(screen.getByText(/33\.3%/)).toHaveTextContent(/^33\.3%$/);
  });

  it('leave out a field that nobody ever filled, but not one that was emptied', () => {
    render(
      <FillRates
        stocktake={stocktake(10, [
          { field: 'never', filled: 0, before: 0, thereBefore: 10 },
          { field: 'emptied', filled: 0, before: 4, thereBefore: 10 },
        ])}
      />,
    );
    expect(screen.queryByText('never')).toBeNull();
    expect(screen.getByText(/^0\.0%/)).toHaveTextContent('0.0% 40.0%');
  });

  it('say so when nothing was counted', () => {
    render(<FillRates stocktake={stocktake(0, [])} />);
    expect(screen.getByText('No stocktake yet.')).toBeVisible();
  });
});
