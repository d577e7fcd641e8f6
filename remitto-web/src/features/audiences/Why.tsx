import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { api, ok } from '../../api/client';
import type { EntityType, AudienceSpec, WhyAnswer } from '../../api/types';
import { useSettled } from '../../components/settled';
import { Button, Card, Failure, Input, Labelled } from '../../components/ui';
import { kin } from '../people/entityTypes';

/** What was asked about one person, and the answer. */
export interface Asked {
  answer?: WhyAnswer;
  error: Error | null;
  ask: (personId: number) => void;
}

/** Why one person is in the audience or not, asked again as the condition changes. */
export function useWhy(entityType: EntityType, spec: AudienceSpec): Asked {
  const [personId, ask] = useState(0);
  const settled = useSettled(spec, 250);
  const why = useQuery({
    queryKey: ['why', entityType, settled, personId],
    queryFn: () => ok(api.POST('/api/conditions/why', { body: { entityType, spec: settled, personId } })),
    enabled: personId > 0,
    retry: false,
  });
  return { answer: settled === spec ? why.data : undefined, error: why.error, ask };
}

/** Why somebody is in the audience or not; the answer to each line stands beside the line. */
export function Why({ entityType, why }: { entityType: EntityType; why: Asked }) {
  const [find, setFind] = useState('');
  const settled = useSettled(find, 250);
  const whom = kin(entityType);
  const found = useQuery({
    queryKey: ['people-find', entityType, settled],
    queryFn: () => ok(api.GET('/api/people', { params: { query: { entityType, find: settled } } })),
    enabled: settled.trim() !== '',
  });
  const { answer } = why;
  return (
    <Card title="Why is a person in this audience, or not?">
      <div className="px-4 pb-3">
        <div className="flex items-end gap-3">
          <Labelled label={`A ${whom.one}, by name, address or id`}>
            <Input className="w-[280px]" value={find} onChange={(event) => setFind(event.target.value)} />
          </Labelled>
          {answer && (
            <p className="m-0 flex-1" role="status">
              <Link className="text-deep underline" to={`${whom.base}/${answer.personId}`}>
                {answer.label}
              </Link>{' '}
              <strong className={answer.member ? 'text-added' : 'text-removed'}>
                {answer.member ? 'is a member' : 'is not a member'}
              </strong>
              {answer.met && answer.inControlGroup && ': matches the condition and is in the control group'}
              {answer.met &&
                !answer.inControlGroup &&
                !answer.member &&
                ': matches the condition and is not among the first'}
              {answer.lines.length > 0 && '. Each condition shows its result.'}
            </p>
          )}
        </div>
        <Failure error={why.error ?? found.error} />
        {settled.trim() !== '' && (
          <ul className="m-0 mt-2 flex list-none flex-wrap gap-1 p-0" aria-label="Found">
            {found.data?.slice(0, 8).map((one) => (
              <li key={one.id}>
                <Button kind="quiet" onClick={() => why.ask(one.id)}>
                  {one.label} <span className="text-soft font-mono">{one.id}</span>
                </Button>
              </li>
            ))}
            {found.data?.length === 0 && <li className="text-soft">No person found.</li>}
          </ul>
        )}
      </div>
    </Card>
  );
}
