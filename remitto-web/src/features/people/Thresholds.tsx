import { useQuery } from '@tanstack/react-query';
import { api, ok } from '../../api/client';
import type { PeopleRules, PeopleSummary } from '../../api/types';
import { counted } from '../../components/format';
import { Card, Input, Labelled, Token } from '../../components/ui';
import { type Kin } from './entityTypes';
import { bits, percent } from './words';
import { Act } from '../session/Editors';

type Cost = NonNullable<PeopleSummary['cost']>;
type Stated = PeopleRules['thresholds'];

/** Guards against chains, and against work without end. */
const LIMITS: [keyof PeopleRules['limits'], string][] = [
  ['records', 'maximum records per entity'],
  ['emails', 'maximum different e-mail addresses per entity'],
  ['weakest', 'minimum average weight between two groups'],
  ['apart', 'minimum weight of the least similar pair'],
  ['block', 'maximum records compared per blocking key'],
  ['share', 'records that may share an identifier, such as a family'],
];

/** What somebody who asks for a precision begins with; common practice, no source. */
const FIRST_AIM = { precision: 0.995, asked: 200 };

/** From which weight on records are joined, and from which somebody is asked; stated, or as a precision asks for. */
export function Thresholds({
  rules,
  whom,
  onChange,
}: {
  rules: PeopleRules;
  whom: Kin;
  onChange: (rules: PeopleRules) => void;
}) {
  const { thresholds, limits } = rules;
  const overview = useQuery({
    queryKey: ['people', whom.entityType],
    queryFn: () =>
      ok(api.GET('/api/people/overview', { params: { query: { entityType: whom.entityType } } })),
  });
  const cost = overview.data?.good?.summary?.cost;
  const state = (next: Stated) => onChange({ ...rules, thresholds: next });
  return (
    <Card title="Otherwise, evidence decides">
      <p className="m-0 px-4 pb-3 leading-8">
        {thresholds.aim ? (
          <ByAim thresholds={thresholds} aim={thresholds.aim} cost={cost} onChange={state} />
        ) : (
          <ByWeights thresholds={thresholds} onChange={state} />
        )}{' '}
        A {whom.one} has{' '}
        <Token
          label="Limits"
          text={`at most ${limits.records} records and ${limits.emails} e-mail addresses`}
        >
          {LIMITS.map(([name, words]) => (
            <Labelled key={name} label={words}>
              <NumberInput
                value={limits[name]}
                onNumber={(value) => onChange({ ...rules, limits: { ...limits, [name]: value } })}
              />
            </Labelled>
          ))}
        </Token>
        , and its groups agree on average.
      </p>
      <div className="px-1 pb-3">
        {thresholds.aim ? (
          <Act kind="quiet" onClick={() => state({ join: thresholds.join, ask: thresholds.ask })}>
            Set weights instead
          </Act>
        ) : (
          <Act kind="quiet" onClick={() => state({ ...thresholds, aim: FIRST_AIM })}>
            Set a target precision instead
          </Act>
        )}
      </div>
      {cost && <Expected cost={cost} />}
    </Card>
  );
}

function NumberInput({
  value,
  step = 0.5,
  onNumber,
  ...rest
}: {
  value: number;
  step?: number;
  onNumber: (value: number) => void;
  id?: string;
}) {
  return (
    <Input
      {...rest}
      type="number"
      step={step}
      className="w-[90px]"
      value={value}
      onChange={(event) => onNumber(Number(event.target.value))}
    />
  );
}

function ByWeights({ thresholds, onChange }: { thresholds: Stated; onChange: (next: Stated) => void }) {
  return (
    <>
      Two records match from a weight of{' '}
      <Token label="Match from" text={bits(thresholds.join)}>
        <Labelled label="bits">
          <NumberInput value={thresholds.join} onNumber={(join) => onChange({ ...thresholds, join })} />
        </Labelled>
      </Token>{' '}
      and go to review from{' '}
      <Token label="Review from" text={bits(thresholds.ask)}>
        <Labelled label="bits">
          <NumberInput value={thresholds.ask} onNumber={(ask) => onChange({ ...thresholds, ask })} />
        </Labelled>
      </Token>
      .
    </>
  );
}

function ByAim({
  thresholds,
  aim,
  cost,
  onChange,
}: {
  thresholds: Stated;
  aim: NonNullable<Stated['aim']>;
  cost: Cost | undefined;
  onChange: (next: Stated) => void;
}) {
  return (
    <>
      Pairs are matched as long as{' '}
      <Token label="Precision" text={`${perCent(aim.precision)}%`}>
        <Labelled label="per cent of matched pairs expected to be correct">
          <NumberInput
            value={perCent(aim.precision)}
            step={0.1}
            onNumber={(value) => onChange({ ...thresholds, aim: { ...aim, precision: share(value) } })}
          />
        </Labelled>
      </Token>{' '}
      of them are expected to be correct. The next{' '}
      <Token label="Pairs to review" text={counted(aim.asked, 'pair')}>
        <Labelled label="maximum number of pairs to review">
          <NumberInput
            value={aim.asked}
            step={10}
            onNumber={(asked) => onChange({ ...thresholds, aim: { ...aim, asked: Math.round(asked) } })}
          />
        </Labelled>
      </Token>{' '}
      go to review.
      {cost?.join !== undefined && cost.ask !== undefined && (
        <>
          {' '}
          The last run matched from {bits(cost.join)} bits, and reviewed from {bits(cost.ask)}.
        </>
      )}
    </>
  );
}

function perCent(precision: number): number {
  return Math.round(precision * 10_000) / 100;
}

function share(value: number): number {
  return Math.round(value * 100) / 10_000;
}

function Expected({ cost }: { cost: Cost }) {
  return (
    <p className="text-soft m-0 px-4 pb-3">
      About {percent(1 - cost.precision)} of the {counted(cost.joined, 'pair')} matched last time are expected
      to be wrong{cost.between !== undefined && <>, and {counted(cost.between, 'pair')} came next</>}.{' '}
      {cost.asked.map((one) => (
        <span key={one.precision}>
          For {percent(1 - one.precision)}, match from {bits(one.join)} ({counted(one.joined, 'pair')}).{' '}
        </span>
      ))}
    </p>
  );
}
