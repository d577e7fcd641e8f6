import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { api, ok } from '../../api/client';
import type { EntityType, AudienceSpec } from '../../api/types';
import { useSettled } from '../../components/settled';
import { Card, Failure } from '../../components/ui';
import { kin } from '../people/entityTypes';
import { attributeWords } from '../people/words';

/** A few members, with what the condition asks of them. */
export function Typical({ entityType, spec }: { entityType: EntityType; spec: AudienceSpec }) {
  const settled = useSettled(spec, 400);
  const members = useQuery({
    queryKey: ['typical-members', entityType, settled],
    queryFn: () => ok(api.POST('/api/conditions/examples', { body: { entityType, spec: settled } })),
    placeholderData: keepPreviousData,
    retry: false,
  });
  return (
    <Card title="Sample members">
      <Failure error={members.error} />
      <ul className="m-0 list-none px-4 pb-2" aria-label="Sample members">
        {members.data?.map((one) => (
          <li key={one.personId} className="border-hairline border-b py-1.5 last:border-b-0">
            <div className="flex justify-between gap-3">
              <Link className="text-deep underline" to={`${kin(entityType).base}/${one.personId}`}>
                {one.label}
              </Link>
              <span
                className="text-soft truncate text-right"
                title={one.values.map((value) => attributeWords(value.name)).join(', ')}
              >
                {one.values
                  .filter((value) => value.value !== '')
                  .map((value) =>
                    /^\d/.test(value.value)
                      ? `${value.value} ${attributeWords(value.name).toLowerCase()}`
                      : value.value,
                  )
                  .join(' · ')}
              </span>
            </div>
          </li>
        ))}
        {members.data?.length === 0 && <li className="text-soft py-1.5">No one matches.</li>}
      </ul>
    </Card>
  );
}
