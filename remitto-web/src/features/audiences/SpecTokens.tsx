import type { AudienceSpec, ConditionWords } from '../../api/types';
import { zones } from '../../components/here';
import { Input, Labelled, Select, Token } from '../../components/ui';
import { attributeWords } from '../people/words';
import { Numeric } from './TestToken';
import { Act } from '../session/Editors';

interface Props {
  spec: AudienceSpec;
  words: ConditionWords;
  onChange: (spec: AudienceSpec) => void;
}

/** What narrows an audience beyond its condition: the first so many, a control group, and the zone its days are of. */
export function SpecTokens({ spec, words, onChange }: Props) {
  const ordered = words.attributes.filter((one) => one.type !== 'TEXT' && one.type !== 'BOOLEAN');
  const { best, controlGroup } = spec;
  return (
    <div className="border-hairline flex flex-wrap items-center gap-2 border-t px-4 py-2">
      <span>Take</span>
      <Token
        label="How many people"
        text={
          best
            ? `the ${best.people} with the ${best.largest ? 'largest' : 'smallest'} ${attributeWords(best.attribute).toLowerCase()}`
            : 'all of them'
        }
      >
        <Labelled label="Take">
          <Select
            value={best ? 'first' : 'all'}
            onChange={(event) => {
              const attribute = ordered[0]?.name;
              onChange({
                ...spec,
                best:
                  event.target.value === 'first' && attribute !== undefined
                    ? { attribute, people: 100, largest: true }
                    : undefined,
              });
            }}
          >
            <option value="all">all of them</option>
            {ordered.length > 0 && <option value="first">the first by a number or date</option>}
          </Select>
        </Labelled>
        {best && (
          <>
            <Numeric
              label="How many"
              value={best.people}
              onNumber={(people) => onChange({ ...spec, best: { ...best, people } })}
            />
            <Labelled label="By">
              <Select
                value={best.attribute}
                onChange={(event) => onChange({ ...spec, best: { ...best, attribute: event.target.value } })}
              >
                {ordered.map((one) => (
                  <option key={one.name} value={one.name}>
                    {attributeWords(one.name)}
                  </option>
                ))}
              </Select>
            </Labelled>
            <Labelled label="Starting with the">
              <Select
                value={best.largest ? 'largest' : 'smallest'}
                onChange={(event) =>
                  onChange({ ...spec, best: { ...best, largest: event.target.value === 'largest' } })
                }
              >
                <option>largest</option>
                <option>smallest</option>
              </Select>
            </Labelled>
          </>
        )}
      </Token>
      <span>control group</span>
      <Token
        label="Control group"
        text={controlGroup.percent === 0 ? 'none' : `${controlGroup.percent}%, seed "${controlGroup.seed}"`}
      >
        <Numeric
          label="Control group size (%), 0 to 50"
          value={controlGroup.percent}
          onNumber={(percent) => onChange({ ...spec, controlGroup: { ...controlGroup, percent } })}
        />
        <Labelled label="Random seed. The same seed picks the same people.">
          <Input
            value={controlGroup.seed}
            onChange={(event) =>
              onChange({ ...spec, controlGroup: { ...controlGroup, seed: event.target.value } })
            }
          />
        </Labelled>
      </Token>
      <span>Days in time zone</span>
      <Token label="Time zone" text={spec.zone}>
        <Labelled label="Time zone">
          <Input
            list="audience-zones"
            defaultValue={spec.zone}
            onBlur={(event) => onChange({ ...spec, zone: event.target.value })}
          />
        </Labelled>
        <datalist id="audience-zones">
          {zones().map((zone) => (
            <option key={zone} value={zone} />
          ))}
        </datalist>
      </Token>
      <Act
        kind="quiet"
        className="ml-auto"
        onClick={() =>
          onChange({
            ...spec,
            sql: spec.sql === '' ? 'select person_id\nfrom people.person\nwhere …' : '',
          })
        }
      >
        {spec.sql === '' ? 'Write SQL instead' : 'Use conditions instead'}
      </Act>
    </div>
  );
}
