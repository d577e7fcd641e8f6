import { fireEvent, render, screen } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import type { Run, Verdict } from '../../api/types';
import { ApprovePart } from './ApprovePart';
import type { Kept } from './Lines';

function show(counts: Partial<Run['counts']>, part: Verdict[], without: Kept[] = []) {
  const onChange = vi.fn();
  const onTakeBack = vi.fn();
  const run = { counts: { added: 0, changed: 0, removed: 0, ...counts } } as Run;
  render(<ApprovePart run={run} part={part} onChange={onChange} without={without} onTakeBack={onTakeBack} />);
  return { onChange, onTakeBack };
}

describe('the part of a manifest that is approved', () => {
  it('is everything at first, and can leave a verdict behind', () => {
    const { onChange } = show({ added: 1200, removed: 40 }, []);
    expect(screen.getAllByRole('checkbox').every((box) => (box as HTMLInputElement).checked)).toBe(true);
    expect(screen.getByLabelText(/1,200/)).toBeChecked();
    fireEvent.click(screen.getByLabelText(/40/));
    expect(onChange).toHaveBeenCalledWith(['ADDED']);
  });

  it('is everything again when the last verdict is ticked', () => {
    const { onChange } = show({ added: 1, removed: 2 }, ['ADDED']);
    fireEvent.click(screen.getByLabelText(/2/));
    expect(onChange).toHaveBeenCalledWith([]);
  });

  it('is never nothing', () => {
    const { onChange } = show({ added: 1, removed: 2 }, ['ADDED']);
    fireEvent.click(screen.getByLabelText(/1/));
    expect(onChange).not.toHaveBeenCalled();
  });

  it('offers no choice where there is one verdict only', () => {
    show({ changed: 7 }, []);
    expect(screen.getByRole('checkbox')).toBeDisabled();
  });

  it('lets lines that were kept back one by one go again', () => {
    const kept = [{}, {}] as Kept[];
    const { onTakeBack } = show({ added: 5 }, [], kept);
    expect(screen.getByText(/2 lines kept back individually/)).toBeVisible();
    fireEvent.click(screen.getByText('Send them too'));
    expect(onTakeBack).toHaveBeenCalledOnce();
  });
});
