import { useQuery } from '@tanstack/react-query';
import { useEffect } from 'react';
import { api, ok } from '../../api/client';
import type { PeopleSource } from '../../api/types';
import { count } from '../../components/format';
import { Select } from '../../components/ui';

type Tied = PeopleSource['columns'][number];
type Order = NonNullable<Tied['order']>;

const ORDERS: [Order, string][] = [
  ['DAY_FIRST', 'day first'],
  ['MONTH_FIRST', 'month first'],
];

/** Which of day and month comes first in a column's dates: as its values show, or as somebody says. */
export function DateOrder({
  datasetId,
  tied,
  onChange,
}: {
  datasetId: number;
  tied: Tied;
  onChange: (tied: Tied) => void;
}) {
  const looked = useQuery({
    queryKey: ['date-orders', datasetId, tied.column],
    queryFn: () =>
      ok(
        api.POST('/api/people/sources/{datasetId}/date-orders', {
          params: { path: { datasetId } },
          body: { columns: [tied.column] },
        }),
      ),
    staleTime: Infinity,
  });
  const seen = looked.data?.[0];
  const shown = seen?.shown;
  useEffect(() => {
    if (shown && !tied.order) onChange({ ...tied, order: shown });
  }, [shown, tied, onChange]);
  const matters = seen !== undefined && seen.dayFirst + seen.monthFirst + seen.either > 0;
  if (!matters && !tied.order) return null;
  return (
    <div className="py-0.5">
      <Select
        aria-label={`Dates of ${tied.column}`}
        value={tied.order ?? ''}
        onChange={(event) => {
          const rest = { ...tied };
          delete rest.order;
          onChange(event.target.value ? { ...rest, order: event.target.value as Order } : rest);
        }}
      >
        <option value="">day first, unless set</option>
        {ORDERS.map(([order, words]) => (
          <option key={order} value={order}>
            {words}
          </option>
        ))}
      </Select>
      {matters && (
        <div className={seen.inDoubt && !tied.order ? 'font-medium' : 'text-soft'}>
          {seen.inDoubt && !tied.order && 'Choose the order: the values fit both. '}
          In {count(seen.dayFirst)} only day first is possible, in {count(seen.monthFirst)} only month first;
          in {count(seen.either)} both are possible.
        </div>
      )}
    </div>
  );
}
