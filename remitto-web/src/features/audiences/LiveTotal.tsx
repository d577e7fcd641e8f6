import type { EntityType } from '../../api/types';
import { count, counted } from '../../components/format';
import type { Live } from './useLiveCount';

/** How many would be in the audience, all in all. */
export function LiveTotal({
  entityType,
  live,
  empty,
}: {
  entityType: EntityType;
  live: Live;
  empty: boolean;
}) {
  const { count: now } = live;
  const many = entityType === 'PERSON' ? 'people' : 'companies';
  return (
    <div className="border-hairline flex items-baseline gap-3 border-t px-4 py-2.5" role="status">
      {empty || !now ? (
        <span className="text-soft">
          {empty ? `Add a condition, for example "All ${many}".` : 'Counting…'}
        </span>
      ) : (
        <>
          <strong className="font-mono text-[1.0625rem]">
            {now.margin !== undefined && '≈ '}
            {count(now.members - now.inControlGroup)}
          </strong>
          <span>
            of {count(now.people)} {many} match
            {now.margin !== undefined &&
              `, give or take ${count(now.margin)} 19 times of 20; counting exactly…`}
            {now.inControlGroup > 0 &&
              `; ${counted(now.inControlGroup, 'person').replace('persons', 'people')} in the control group`}
            .
          </span>
          <span className="text-soft ml-auto font-mono">
            {live.counting ? 'counting…' : `${count(now.millis)} ms`}
          </span>
        </>
      )}
    </div>
  );
}
