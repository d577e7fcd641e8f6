import { fireEvent, render, screen } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import type { Column, DatasetLookUp } from '../../../api/types';
import { RowConditions, RowParts, RowPick } from './RowTokens';

const COLUMNS: Column[] = [
  { name: 'at', type: 'TIMESTAMP', role: 'EVENT_TIME' },
  { name: 'line', type: 'TEXT', role: 'ATTRIBUTE' },
];

describe('rows that are received', () => {
  it('call a column as it is called until somebody names it', () => {
    let parts: DatasetLookUp['parts'] = [{ column: 'at', name: 'at' }];
    const { rerender } = render(
      <RowParts columns={COLUMNS} parts={parts} onChange={(now) => (parts = now)} />,
    );
    fireEvent.change(screen.getByLabelText('Column of the row'), { target: { value: 'line' } });
    expect(parts).toEqual([{ column: 'line', name: 'line' }]);
    rerender(<RowParts columns={COLUMNS} parts={parts} onChange={(now) => (parts = now)} />);
    fireEvent.change(screen.getByLabelText('Name for line'), { target: { value: 'route' } });
    rerender(<RowParts columns={COLUMNS} parts={parts} onChange={(now) => (parts = now)} />);
    fireEvent.change(screen.getByLabelText('Column of the row'), { target: { value: 'at' } });
    expect(parts).toEqual([{ column: 'at', name: 'route' }]);
    fireEvent.click(screen.getByLabelText('Remove this column'));
    expect(parts).toEqual([]);
  });

  it('are sorted, cut off and looked back for', () => {
    let pick: DatasetLookUp['pick'] = undefined;
    const { rerender } = render(<RowPick columns={COLUMNS} onChange={(now) => (pick = now)} />);
    fireEvent.change(screen.getByLabelText('Sorted by'), { target: { value: 'at' } });
    expect(pick).toEqual({ orderBy: 'at', newestFirst: true, lookBackDays: 0, most: 0 });
    rerender(<RowPick columns={COLUMNS} pick={pick} onChange={(now) => (pick = now)} />);
    fireEvent.change(screen.getByLabelText(/at most/), { target: { value: '3' } });
    expect(pick).toMatchObject({ most: 3, lookBackDays: 0 });
    rerender(<RowPick columns={COLUMNS} pick={pick} onChange={(now) => (pick = now)} />);
    fireEvent.change(screen.getByLabelText(/within/), { target: { value: '90' } });
    expect(pick).toMatchObject({ most: 3, lookBackDays: 90 });
  });

  it('meet every condition', () => {
    let only: DatasetLookUp['only'] = [];
    const { rerender } = render(
      <RowConditions columns={COLUMNS} only={only} onChange={(now) => (only = now)} />,
    );
    fireEvent.click(screen.getByText('add a condition'));
    expect(only).toEqual([{ column: '', comparison: 'IS', text: '' }]);
    rerender(<RowConditions columns={COLUMNS} only={only} onChange={(now) => (only = now)} />);
    fireEvent.change(screen.getByLabelText('Comparison'), { target: { value: 'IS_NOT' } });
    expect(only).toEqual([{ column: '', comparison: 'IS_NOT', text: '' }]);
  });
});
