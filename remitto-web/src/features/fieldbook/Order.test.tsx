import { fireEvent, screen } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import type { FieldBook } from '../../api/types';
import { show } from '../../testing/page';
import { Order } from './Order';

type BookField = FieldBook['fields'][number];

function field(routeIds?: number[]): BookField {
  const rules = [1, 2, 3].map((id) => ({
    routeId: id,
    route: `Route ${id}`,
    inService: true,
    setAside: false,
    sentence: '',
  }));
  return {
    rules,
    order: routeIds && {
      routeIds,
      routes: routeIds.map((id) => `Route ${id}`),
      setBy: 'Edda',
      setAt: '2026-11-24T09:00:00Z',
    },
  } as BookField;
}

describe('the order of routes that write a field', () => {
  it('begins with the routes as they are', () => {
    const onOrder = vi.fn();
    show(<Order one={field()} busy={false} onOrder={onOrder} />);
    fireEvent.click(screen.getByText('Set priority'));
    expect(onOrder).toHaveBeenCalledWith([1, 2, 3]);
  });

  it('moves a route earlier and later, and ends', () => {
    const onOrder = vi.fn();
    show(<Order one={field([2, 1, 3])} busy={false} onOrder={onOrder} />);
    fireEvent.click(screen.getByLabelText('Route 3 earlier'));
    expect(onOrder).toHaveBeenLastCalledWith([2, 3, 1]);
    fireEvent.click(screen.getByLabelText('Route 2 later'));
    expect(onOrder).toHaveBeenLastCalledWith([1, 2, 3]);
    expect(screen.getByLabelText('Route 2 earlier')).toBeDisabled();
    expect(screen.getByLabelText('Route 3 later')).toBeDisabled();
    fireEvent.click(screen.getByText('Remove priority'));
    expect(onOrder).toHaveBeenLastCalledWith([]);
  });
});
