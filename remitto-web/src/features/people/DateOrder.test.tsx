import { fireEvent, screen, waitFor } from '@testing-library/react';
import { useState } from 'react';
import { describe, expect, it } from 'vitest';
import type { PeopleSource } from '../../api/types';
import { show } from '../../testing/page';
import { server } from '../../testing/server';
import { DateOrder } from './DateOrder';

type Tied = PeopleSource['columns'][number];

const BORN: Tied = { column: 'born', attribute: 'birth_date', kind: 'BIRTH_DATE', beside: {} };
const LOOK = '/api/people/sources/{datasetId}/date-orders';

let now: Tied;

function Shown({ order }: { order?: Tied['order'] }) {
  const [tied, setTied] = useState<Tied>({ ...BORN, ...(order ? { order } : {}) });
  now = tied;
  return <DateOrder datasetId={4} tied={tied} onChange={setTied} />;
}

function saw(dayFirst: number, monthFirst: number, either: number, shown?: string) {
  const inDoubt = !shown && dayFirst + monthFirst + either > 0;
  server.on('POST', LOOK, [
    { column: 'born', dayFirst, monthFirst, either, inDoubt, ...(shown ? { shown } : {}) },
  ]);
}

const chosen = () => screen.getByLabelText<HTMLSelectElement>('Dates of born').value;

describe('the order of day and month', () => {
  it('is taken from the values where they show it', async () => {
    saw(0, 812, 1204, 'MONTH_FIRST');
    show(<Shown />);
    expect(await screen.findByText(/in 812 only month first; in 1,204 both are possible/)).toBeVisible();
    await waitFor(() => expect(now.order).toBe('MONTH_FIRST'));
    expect(chosen()).toBe('MONTH_FIRST');
    expect(server.askedOf('POST', LOOK).map((one) => one.body)).toEqual([{ columns: ['born'] }]);
  });

  it('is asked for where they do not', async () => {
    saw(30, 12, 5);
    show(<Shown />);
    expect(await screen.findByText(/Choose the order/)).toBeVisible();
    expect(now.order).toBeUndefined();
    fireEvent.change(screen.getByLabelText('Dates of born'), { target: { value: 'MONTH_FIRST' } });
    expect(now.order).toBe('MONTH_FIRST');
    expect(screen.queryByText(/Choose the order/)).toBeNull();
    fireEvent.change(screen.getByLabelText('Dates of born'), { target: { value: '' } });
    expect(now).toEqual(BORN);
  });

  it('stays as somebody said, whatever the values show', async () => {
    saw(812, 0, 3, 'DAY_FIRST');
    show(<Shown order="MONTH_FIRST" />);
    expect(await screen.findByText(/In 812 only day first is possible/)).toBeVisible();
    expect(now.order).toBe('MONTH_FIRST');
  });

  it('is no matter where no date has two numbers before its year, unless somebody has said it', async () => {
    saw(0, 0, 0);
    const { unmount } = show(<Shown />);
    await waitFor(() => expect(server.askedOf('POST', LOOK)).toHaveLength(1));
    expect(screen.queryByLabelText('Dates of born')).toBeNull();
    unmount();
    show(<Shown order="MONTH_FIRST" />);
    expect(chosen()).toBe('MONTH_FIRST');
    expect(screen.queryByText(/only day first/)).toBeNull();
  });
});
