import { fireEvent, screen } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { VersionList } from './VersionList';
import { show } from '../testing/page';

const VERSIONS = [
  { number: 3, author: 'Edda', savedAt: '2026-11-24T09:00:00Z', note: 'shorter names' },
  { number: 2, author: 'Oskar', savedAt: '2026-11-23T09:00:00Z', note: '' },
];

describe('a list of versions', () => {
  it('names the one in service and compares every other than the latest', () => {
    const onCompare = vi.fn();
    const onTakeUp = vi.fn();
    show(
      <VersionList
        versions={VERSIONS}
        latest={3}
        live={2}
        compared={0}
        onCompare={onCompare}
        onTakeUp={onTakeUp}
      />,
    );
    const [latest, live] = screen.getAllByRole('listitem');
    expect(latest).toHaveTextContent('shorter names');
    expect(latest).not.toHaveTextContent('Compare');
    expect(live).toHaveTextContent('in service');
    fireEvent.click(screen.getByText('Compare'));
    expect(onCompare).toHaveBeenCalledWith(2);
    const [takeLatest] = screen.getAllByText('Restore');
    if (takeLatest) fireEvent.click(takeLatest);
    expect(onTakeUp).toHaveBeenCalledWith(3);
  });
});
