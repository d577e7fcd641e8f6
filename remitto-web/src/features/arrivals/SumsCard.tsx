import { Link } from 'react-router';
import type { ArrivalSums } from '../../api/types';
import { Bars } from '../../components/Bars';
import { count, counted } from '../../components/format';
import { Card } from '../../components/ui';
import { KINDS, subjectPage } from './words';

/** How much came in for each receiver, file set and dataset within a day. */
export function SumsCard({ sums }: { sums: ArrivalSums }) {
  return (
    <Card title="Last 24 hours">
      {sums.subjects.length === 0 ? (
        <p className="text-soft m-0 px-4 pb-3">Nothing came in within 24 hours.</p>
      ) : (
        <ul className="m-0 list-none px-4 pb-2">
          {sums.subjects.map((one) => (
            <li
              key={`${one.kind}-${one.subject.id}`}
              className="border-hairline grid grid-cols-[minmax(0,1fr)_auto_72px] items-center gap-3 border-t py-1"
            >
              <Link to={subjectPage(one)} className="text-deep truncate underline">
                {one.subject.name}
              </Link>
              <Bars
                label={`${one.subject.name}, by the hour`}
                thin
                bars={one.hours.map((arrivals, i) => ({
                  value: arrivals,
                  title: `${counted(arrivals, KINDS[one.kind])}, ${i === 23 ? 'this hour' : `${23 - i} h ago`}`,
                }))}
              />
              <span className="text-right font-mono whitespace-nowrap">
                {count(one.arrivals)} {KINDS[one.kind]}
                {one.arrivals === 1 ? '' : 's'}
              </span>
            </li>
          ))}
        </ul>
      )}
    </Card>
  );
}
