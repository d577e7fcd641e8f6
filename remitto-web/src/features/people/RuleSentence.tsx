import type { Attribute, MatchCondition, MatchRule } from '../../api/types';
import { Button, Labelled, Select, Token } from '../../components/ui';
import { comparisonsOf, comparisonWords } from './comparisons';
import { DegreeInput } from './DegreeInput';
import { attributeWords } from './words';

interface Props {
  name: string;
  rule: MatchRule;
  attributes: Attribute[];
  onChange: (rule: MatchRule) => void;
  onRemove: () => void;
}

/** A rule as a sentence of conditions, each of them editable. */
export function RuleSentence({ name, rule, attributes, onChange, onRemove }: Props) {
  const set = (at: number, condition: MatchCondition) =>
    onChange({ conditions: rule.conditions.map((one, i) => (i === at ? condition : one)) });
  return (
    <div className="flex flex-wrap items-center gap-x-2 gap-y-1 leading-8">
      {rule.conditions.map((condition, at) => (
        <span key={at} className="flex items-center gap-2">
          {at > 0 && <span className="text-soft">and</span>}
          <ConditionToken
            name={`${name}, condition ${at + 1}`}
            condition={condition}
            attributes={attributes}
            onChange={(changed) => set(at, changed)}
            onRemove={
              rule.conditions.length > 1
                ? () => onChange({ conditions: rule.conditions.filter((_, i) => i !== at) })
                : undefined
            }
          />
        </span>
      ))}
      <Button
        kind="quiet"
        aria-label={`and… one more condition of ${name}`}
        onClick={() => {
          const used = new Set(rule.conditions.map((one) => one.attribute));
          const next = attributes.find((one) => !used.has(one.name)) ?? attributes[0];
          if (next)
            onChange({
              conditions: [
                ...rule.conditions,
                { attribute: next.name, comparison: { kind: 'same' }, agrees: true },
              ],
            });
        }}
      >
        and…
      </Button>
      <Button kind="quiet" aria-label={`Remove ${name}`} onClick={onRemove}>
        Remove
      </Button>
    </div>
  );
}

function ConditionToken({
  name,
  condition,
  attributes,
  onChange,
  onRemove,
}: {
  name: string;
  condition: MatchCondition;
  attributes: Attribute[];
  onChange: (condition: MatchCondition) => void;
  onRemove?: () => void;
}) {
  const kind = attributes.find((one) => one.name === condition.attribute)?.kind ?? 'TEXT';
  const words = comparisonWords(condition.comparison);
  return (
    <Token
      label={name}
      text={`${attributeWords(condition.attribute).toLowerCase()} ${condition.agrees ? words : words.replace(/^(is|sounds|begins|shares|ends|differs)/, 'not: $1')}`}
    >
      <Labelled label="Attribute">
        <Select
          value={condition.attribute}
          onChange={(event) => onChange({ ...condition, attribute: event.target.value })}
        >
          {attributes.map((one) => (
            <option key={one.name} value={one.name}>
              {attributeWords(one.name)}
            </option>
          ))}
        </Select>
      </Labelled>
      <Labelled label="Compared by">
        <Select
          value={condition.comparison.kind}
          onChange={(event) => {
            const comparison = comparisonsOf(kind).find((one) => one.kind === event.target.value);
            if (comparison) onChange({ ...condition, comparison });
          }}
        >
          {comparisonsOf(kind).map((one) => (
            <option key={one.kind} value={one.kind}>
              {comparisonWords(one)}
            </option>
          ))}
        </Select>
      </Labelled>
      <DegreeInput
        comparison={condition.comparison}
        onChange={(comparison) => onChange({ ...condition, comparison })}
      />
      <label className="flex items-center gap-2">
        <input
          type="checkbox"
          checked={!condition.agrees}
          onChange={(event) => onChange({ ...condition, agrees: !event.target.checked })}
        />
        must not match, if both have a value
      </label>
      {onRemove && (
        <Button kind="quiet" onClick={onRemove}>
          Remove this condition
        </Button>
      )}
    </Token>
  );
}
