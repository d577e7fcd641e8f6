import type { Stocktake } from '../../api/types';
import { Card } from '../../components/ui';

function share(filled: number, all: number): number {
  return all === 0 ? 0 : (100 * filled) / all;
}

/** Fill rate of each field there, now and at the stocktake before. */
export function FillRates({ stocktake }: { stocktake: Stocktake }) {
  const filled = stocktake.fill.filter((one) => one.filled > 0 || (one.before ?? 0) > 0);
  return (
    <Card
      title="Fill rate of each field"
      aside={filled.some((one) => one.before !== undefined) ? 'now and at the previous stocktake' : 'now'}
    >
      <ul className="m-0 list-none px-4 pb-3">
        {filled.map((one) => {
          const now = share(one.filled, stocktake.there);
          const before =
            one.before !== undefined && one.thereBefore !== undefined
              ? share(one.before, one.thereBefore)
              : undefined;
          return (
            <li key={one.field} className="py-1">
              <span className="flex justify-between gap-2">
                <span className="truncate font-mono">{one.field}</span>
                <span className="font-mono whitespace-nowrap">
                  {now.toFixed(1)}%
                  {before !== undefined && <span className="text-soft"> {before.toFixed(1)}%</span>}
                </span>
              </span>
              <span className="bg-sunk mt-0.5 block h-1.5 rounded" aria-hidden>
                <span className="bg-deep block h-1.5 rounded" style={{ width: `${now}%` }} />
              </span>
            </li>
          );
        })}
        {filled.length === 0 && <li className="text-soft">No stocktake yet.</li>}
      </ul>
    </Card>
  );
}
