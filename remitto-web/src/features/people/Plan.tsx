import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ok } from '../../api/client';
import type { ResolutionPlan } from '../../api/types';
import { Button, Card, Failure, Input, Labelled, Skeleton, Token } from '../../components/ui';
import { ScheduleToken } from '../routes/ScheduleToken';
import { type Kin } from './entityTypes';
import { percent } from './words';
import { Act } from '../session/Editors';

/** When matching runs, and what stops a matching run until somebody approves. */
export function Plan({ whom }: { whom: Kin }) {
  const query = { params: { query: { entityType: whom.entityType } } };
  const plan = useQuery({
    queryKey: ['people-plan', whom.entityType],
    queryFn: () => ok(api.GET('/api/people/plan', query)),
  });
  return (
    <Card title="When matching runs">
      <div className="px-4 pb-3">
        <Failure error={plan.error} />
        {plan.data ? (
          <Sentence key={JSON.stringify(plan.data)} plan={plan.data} whom={whom} />
        ) : (
          <Skeleton rows={1} />
        )}
      </div>
    </Card>
  );
}

const GUARDS: [keyof ResolutionPlan['guards'], (many: string) => string][] = [
  ['joined', (many) => `${many} that would change identity, %`],
  ['split', (many) => `${many} that would lose records to others, %`],
  ['gone', () => 'records deleted, %'],
];

function Sentence({ plan, whom }: { plan: ResolutionPlan; whom: Kin }) {
  const client = useQueryClient();
  const [edited, setEdited] = useState(plan);
  const save = useMutation({
    mutationFn: () =>
      ok(api.PUT('/api/people/plan', { params: { query: { entityType: whom.entityType } }, body: edited })),
    onSuccess: () => client.invalidateQueries({ queryKey: ['people-plan', whom.entityType] }),
  });
  const { guards } = edited;
  return (
    <>
      <p className="m-0 leading-8">
        Matching runs{' '}
        <ScheduleToken
          schedule={edited.schedule}
          onChange={(schedule) => setEdited({ ...edited, schedule })}
        />
        , and waits for approval above{' '}
        <Token
          label="Guards"
          text={`${percent(guards.joined)} merged, ${percent(guards.split)} split, ${percent(guards.gone)} of records deleted`}
        >
          {GUARDS.map(([name, words]) => (
            <Labelled key={name} label={words(whom.many)}>
              <Input
                type="number"
                min={0}
                max={100}
                step={0.5}
                className="w-[90px]"
                value={Math.round(guards[name] * 1000) / 10}
                onChange={(event) =>
                  setEdited({ ...edited, guards: { ...guards, [name]: Number(event.target.value) / 100 } })
                }
              />
            </Labelled>
          ))}
        </Token>
        .
      </p>
      <Failure error={save.error} />
      {edited !== plan && (
        <div className="mt-2 flex gap-2">
          <Act disabled={save.isPending} onClick={() => save.mutate()}>
            Save
          </Act>
          <Button kind="quiet" onClick={() => setEdited(plan)}>
            Discard changes
          </Button>
        </div>
      )}
    </>
  );
}
