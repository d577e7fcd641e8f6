import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api, ok } from '../../api/client';
import type { Attribute, Comparison, Levels, PeopleRules, PeopleRulesView } from '../../api/types';
import { counted } from '../../components/format';
import { Button, Card, Failure, Input, Labelled, Pill, Select, TD, TH, Token } from '../../components/ui';
import { type Kin } from './entityTypes';
import { comparisonsOf, comparisonWords } from './comparisons';
import { DegreeInput } from './DegreeInput';
import { Estimated } from './Estimated';
import { attributeWords, bits } from './words';
import { Act } from '../session/Editors';

interface Props {
  rules: PeopleRules;
  view: PeopleRulesView;
  whom: Kin;
  onChange: (rules: PeopleRules) => void;
}

/** What each attribute is compared by, level by level, and what each level weighs. */
export function Evidence({ rules, view, whom, onChange }: Props) {
  const client = useQueryClient();
  const overview = useQuery({
    queryKey: ['people', whom.entityType],
    queryFn: () =>
      ok(api.GET('/api/people/overview', { params: { query: { entityType: whom.entityType } } })),
  });
  const estimate = useMutation({
    mutationFn: () =>
      ok(
        api.POST('/api/people/runs', { params: { query: { entityType: whom.entityType, estimate: true } } }),
      ),
    onSuccess: () => client.invalidateQueries({ queryKey: ['people'] }),
  });
  const learn = useMutation({
    mutationFn: () =>
      ok(api.GET('/api/people/rules/learned', { params: { query: { entityType: whom.entityType } } })),
    onSuccess: (learned) => onChange({ ...rules, fixed: learned.fixed }),
  });
  const weights = overview.data?.good?.summary?.evidence ?? [];
  return (
    <Card title="Evidence" aside={<Estimated view={view} />}>
      <Failure error={estimate.error ?? overview.error ?? learn.error} />
      <table className="w-full border-collapse">
        <thead>
          <tr>
            <th className={TH}>Attribute</th>
            <th className={TH}>Level of agreement, best first</th>
            <th className={`${TH} text-right`}>Bits</th>
          </tr>
        </thead>
        <tbody>
          {view.attributes
            .filter((attribute) => attribute.kind !== 'CONSENT')
            .map((attribute) => (
              <Row
                key={attribute.name}
                attribute={attribute}
                rules={rules}
                usual={view.usualLevels.find((one) => one.attribute === attribute.name)}
                weights={weights.filter((one) => one.attribute === attribute.name)}
                onChange={onChange}
              />
            ))}
        </tbody>
      </table>
      <p className="m-0 flex items-center justify-between gap-3 px-4 py-2">
        <span className="text-soft">
          Other levels are estimated again the next time matching runs. A manually set weight applies
          immediately.
        </span>
        <Act kind="quiet" disabled={learn.isPending} onClick={() => learn.mutate()}>
          {learn.data ? `Learned from ${counted(learn.data.decided, 'decision')}` : 'Learn from decisions'}
        </Act>
        <Act kind="quiet" disabled={estimate.isPending} onClick={() => estimate.mutate()}>
          {estimate.isSuccess ? 'Under way' : 'Estimate and run matching'}
        </Act>
      </p>
    </Card>
  );
}

interface Weight {
  level: number;
  strangers: number;
  byHand: boolean;
  grounds?: { inLightOf: string[]; seen: number; few: boolean } | undefined;
}

/** From how many pairs an attribute was learnt; with few of them, usual values are used. */
function Learnt({ weights }: { weights: Weight[] }) {
  const grounds = weights[0]?.grounds;
  if (!grounds) {
    return null;
  }
  return (
    <span className="text-soft ml-6 block text-xs">
      {grounds.few
        ? 'Too few pairs to estimate from; defaults are used'
        : `Learned from about ${counted(grounds.seen, 'pair')}`}
    </span>
  );
}

function Row({
  attribute,
  rules,
  usual,
  weights,
  onChange,
}: {
  attribute: Attribute;
  rules: PeopleRules;
  usual?: Levels;
  weights: Weight[];
  onChange: (rules: PeopleRules) => void;
}) {
  const own = rules.levels.find((one) => one.attribute === attribute.name);
  const levels = own ?? usual;
  const shipped = !['FULL_NAME', 'TEXT', 'VERBATIM', 'LIST', 'NUMBER'].includes(attribute.kind);
  const weighed = !rules.notWeighed.includes(attribute.name) && (shipped || own !== undefined);
  const setLevels = (best: Comparison[]) =>
    onChange({
      ...rules,
      levels: [
        ...rules.levels.filter((one) => one.attribute !== attribute.name),
        { attribute: attribute.name, rare: levels?.rare ?? true, best },
      ],
    });
  const setWeighed = (on: boolean) => {
    const notWeighed = rules.notWeighed.filter((one) => one !== attribute.name);
    onChange({
      ...rules,
      notWeighed: on ? notWeighed : [...notWeighed, attribute.name],
      levels:
        on && !shipped && !own && usual
          ? [...rules.levels, usual]
          : rules.levels.filter((one) => on || one.attribute !== attribute.name),
    });
  };
  const best = levels?.best ?? [];
  return (
    <tr>
      <td className={TD}>
        <label className="flex items-start gap-2">
          <input
            type="checkbox"
            className="mt-1"
            checked={weighed}
            onChange={(event) => setWeighed(event.target.checked)}
          />
          {attributeWords(attribute.name)}
        </label>
        {weighed && !own && <Learnt weights={weights} />}
      </td>
      <td className={TD} colSpan={2}>
        {weighed ? (
          <ol className="m-0 list-none p-0">
            {[...best.keys(), best.length].map((level) => {
              const comparison = best[level];
              const words = comparison ? comparisonWords(comparison).replace(/^is /, '') : 'differs';
              return (
                <li key={level} className="flex items-center justify-between gap-3 py-0.5">
                  <span>
                    {comparison ? (
                      <LevelToken
                        name={`${attributeWords(attribute.name)}, level ${level + 1}`}
                        attribute={attribute}
                        comparison={comparison}
                        taken={best.map((one) => one.kind)}
                        onChange={(changed) => setLevels(best.map((one, i) => (i === level ? changed : one)))}
                        onRemove={
                          best.length > 1 ? () => setLevels(best.filter((_, i) => i !== level)) : undefined
                        }
                      />
                    ) : (
                      <>
                        <span className="text-soft px-2">differs</span>{' '}
                        <AddLevel
                          attribute={attribute}
                          taken={best.map((one) => one.kind)}
                          onAdd={(one) => setLevels([...best, one])}
                        />
                      </>
                    )}
                  </span>
                  <span className="text-soft ml-auto text-xs">
                    {!own && weights.find((one) => one.level === level)?.grounds?.inLightOf.join(', ')}
                  </span>
                  <WeightToken
                    attribute={attribute.name}
                    level={level}
                    words={words}
                    estimated={own ? undefined : weights.find((one) => one.level === level)}
                    rules={rules}
                    onChange={onChange}
                  />
                </li>
              );
            })}
          </ol>
        ) : (
          <span className="text-soft">not used</span>
        )}
      </td>
    </tr>
  );
}

function LevelToken({
  name,
  attribute,
  comparison,
  taken,
  onChange,
  onRemove,
}: {
  name: string;
  attribute: Attribute;
  comparison: Comparison;
  taken: string[];
  onChange: (comparison: Comparison) => void;
  onRemove?: () => void;
}) {
  return (
    <Token label={name} text={comparisonWords(comparison).replace(/^is /, '')}>
      <Labelled label="Compared by">
        <Select
          value={comparison.kind}
          onChange={(event) => {
            const other = comparisonsOf(attribute.kind).find((one) => one.kind === event.target.value);
            if (other) onChange(other);
          }}
        >
          {[comparison, ...comparisonsOf(attribute.kind)]
            .filter((one, at, all) => all.findIndex((two) => two.kind === one.kind) === at)
            .filter((one) => one.kind === comparison.kind || !taken.includes(one.kind))
            .map((one) => (
              <option key={one.kind} value={one.kind}>
                {comparisonWords(one)}
              </option>
            ))}
        </Select>
      </Labelled>
      <DegreeInput comparison={comparison} onChange={onChange} />
      {onRemove && (
        <Button kind="quiet" onClick={onRemove}>
          Remove this level
        </Button>
      )}
    </Token>
  );
}

function AddLevel({
  attribute,
  taken,
  onAdd,
}: {
  attribute: Attribute;
  taken: string[];
  onAdd: (comparison: Comparison) => void;
}) {
  const free = comparisonsOf(attribute.kind).filter((one) => !taken.includes(one.kind));
  if (free.length === 0) return null;
  return (
    <Select
      aria-label={`Add a level to ${attributeWords(attribute.name)}`}
      className="py-1"
      value=""
      onChange={(event) => {
        const one = free.find((each) => each.kind === event.target.value);
        if (one) onAdd(one);
      }}
    >
      <option value="">unless…</option>
      {free.map((one) => (
        <option key={one.kind} value={one.kind}>
          {comparisonWords(one)}
        </option>
      ))}
    </Select>
  );
}

function WeightToken({
  attribute,
  level,
  words,
  estimated,
  rules,
  onChange,
}: {
  attribute: string;
  level: number;
  words: string;
  estimated?: Weight;
  rules: PeopleRules;
  onChange: (rules: PeopleRules) => void;
}) {
  const set = rules.fixed.find((one) => one.attribute === attribute && one.level === level);
  const others = rules.fixed.filter((one) => one !== set);
  const estimate = estimated && !estimated.byHand ? estimated.strangers : undefined;
  const shown = set ? bits(set.bits) : estimate === undefined ? 'to be estimated' : bits(estimate);
  return (
    <div className="whitespace-nowrap">
      {set && <Pill tone="warn">set manually</Pill>}{' '}
      <Token
        label={`Weight of ${attributeWords(attribute)} ${words}`}
        text={<span className="font-mono">{shown}</span>}
      >
        <Labelled
          label="Weight in bits against unrelated people. The weight within a household changes by the same amount."
          note={estimate === undefined ? '' : `Estimated against unrelated people: ${bits(estimate)}`}
        >
          <Input
            type="number"
            step={0.5}
            className="w-[90px]"
            value={set?.bits ?? Math.round((estimate ?? 0) * 10) / 10}
            onChange={(event) =>
              onChange({
                ...rules,
                fixed: [...others, { attribute, level, bits: Number(event.target.value) }],
              })
            }
          />
        </Labelled>
        {set && (
          <Button kind="quiet" onClick={() => onChange({ ...rules, fixed: others })}>
            Reset to estimate
          </Button>
        )}
      </Token>
    </div>
  );
}
