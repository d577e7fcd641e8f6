import type { EntityType, ColumnType, ConditionWords, Derivation } from '../../api/types';
import { zone } from '../../components/here';
import { Input, Labelled, Select, Token } from '../../components/ui';
import { AggregationToken, EventsToken } from '../audiences/EventTokens';
import { Numeric } from '../audiences/TestToken';
import { WindowToken } from '../audiences/WindowToken';
import { attributeWords } from '../people/words';

interface Props {
  entityType: EntityType;
  derivation: Derivation;
  words: ConditionWords;
  onChange: (derivation: Derivation) => void;
}

const TYPES: [ColumnType, string][] = [
  ['TEXT', 'a text'],
  ['INTEGER', 'a whole number'],
  ['DECIMAL', 'a number'],
  ['BOOLEAN', 'yes or no'],
];

/** How a measure comes about, as a sentence with editable parts. */
export function DerivationSentence({ entityType, derivation, words, onChange }: Props) {
  const ordered = words.attributes.filter((one) => one.type !== 'TEXT' && one.type !== 'BOOLEAN');
  const choose = (kind: string) => {
    const events = words.events[0];
    if (kind === 'events' && events) {
      onChange({
        kind: 'events',
        measure: {
          of: { events: events.name, where: [] },
          window: { kind: 'last-days', days: 90 },
          aggregation: { kind: 'count' },
        },
        zone: zone(),
        steps: [],
      });
    } else if (kind === 'score' && ordered[0]) {
      onChange({ kind: 'score', of: ordered[0].name, bands: 5, largestIsBest: true });
    } else {
      onChange({ kind: 'computed', expression: '', gives: 'TEXT' });
    }
  };
  return (
    <>
      <Labelled label="Computed">
        <Select value={derivation.kind} onChange={(event) => choose(event.target.value)}>
          {words.events.length > 0 && <option value="events">from events</option>}
          {ordered.length > 0 && <option value="score">as a score, by rank</option>}
          <option value="computed">from other attributes, by expression (CEL)</option>
        </Select>
      </Labelled>
      <div className="mt-3 flex flex-wrap items-center gap-2">
        <Sentence entityType={entityType} derivation={derivation} words={words} onChange={onChange} />
      </div>
    </>
  );
}

function Sentence({ entityType, derivation, words, onChange }: Props) {
  if (derivation.kind === 'events') {
    const { measure } = derivation;
    return (
      <>
        <span>For every {entityType === 'PERSON' ? 'person' : 'company'},</span>
        <AggregationToken
          label="Computed as"
          entityType={entityType}
          how={measure.aggregation}
          events={measure.of.events}
          words={words}
          onChange={(aggregation) => onChange({ ...derivation, measure: { ...measure, aggregation } })}
        />
        <span>of</span>
        <EventsToken
          label="Events"
          entityType={entityType}
          of={measure.of}
          words={words}
          choose
          onChange={(of) =>
            onChange({
              ...derivation,
              measure: {
                ...measure,
                of,
                aggregation: of.events === measure.of.events ? measure.aggregation : { kind: 'count' },
              },
            })
          }
        />
        <WindowToken
          label="Time"
          window={measure.window}
          onChange={(window) => onChange({ ...derivation, measure: { ...measure, window } })}
        />
        <span>with days in time zone</span>
        <Token label="Time zone" text={derivation.zone}>
          <Labelled label="Time zone">
            <Input
              defaultValue={derivation.zone}
              onBlur={(event) => onChange({ ...derivation, zone: event.target.value })}
            />
          </Labelled>
        </Token>
        <span>; bounds</span>
        <Token label="Bounds" text={derivation.steps.length === 0 ? 'none' : derivation.steps.join(', ')}>
          <Labelled
            label="Bounds in ascending order, separated by commas"
            note="The value is the highest bound reached, so it changes only when a bound is crossed."
          >
            <Input
              defaultValue={derivation.steps.join(', ')}
              onBlur={(event) =>
                onChange({
                  ...derivation,
                  steps: event.target.value
                    .split(',')
                    .map((one) => one.trim())
                    .filter((one) => one !== '')
                    .map(Number)
                    .filter((one) => !Number.isNaN(one)),
                })
              }
            />
          </Labelled>
        </Token>
      </>
    );
  }
  if (derivation.kind === 'score') {
    return (
      <>
        <span>Score band of</span>
        <Token label="Of" text={attributeWords(derivation.of)}>
          <Labelled label="Of">
            <Select
              value={derivation.of}
              onChange={(event) => onChange({ ...derivation, of: event.target.value })}
            >
              {words.attributes
                .filter((one) => one.type !== 'TEXT' && one.type !== 'BOOLEAN')
                .map((one) => (
                  <option key={one.name} value={one.name}>
                    {attributeWords(one.name)}
                  </option>
                ))}
            </Select>
          </Labelled>
        </Token>
        <span>among</span>
        <Token label="Bands" text={`${derivation.bands} bands`}>
          <Numeric
            label="Bands of equal size, except for ties"
            value={derivation.bands}
            onNumber={(bands) => onChange({ ...derivation, bands })}
          />
        </Token>
        <span>, the</span>
        <Token label="Best" text={derivation.largestIsBest ? 'largest' : 'smallest'}>
          <Labelled label="Highest band for the">
            <Select
              value={derivation.largestIsBest ? 'largest' : 'smallest'}
              onChange={(event) =>
                onChange({ ...derivation, largestIsBest: event.target.value === 'largest' })
              }
            >
              <option>largest</option>
              <option>smallest</option>
            </Select>
          </Labelled>
        </Token>
        <span>values. Equal values share a band.</span>
      </>
    );
  }
  return (
    <div className="w-full">
      <Labelled
        label="Expression"
        note={`Can use ${words.attributes.map((one) => one.name).join(', ')}. Any of them can be null.`}
      >
        <textarea
          className="rounded-button border-hairline bg-card w-full border p-2 font-mono"
          rows={4}
          spellCheck={false}
          value={derivation.expression}
          onChange={(event) => onChange({ ...derivation, expression: event.target.value })}
        />
      </Labelled>
      <Labelled label="Result type">
        <Select
          value={derivation.gives}
          onChange={(event) => onChange({ ...derivation, gives: event.target.value as ColumnType })}
        >
          {TYPES.map(([type, text]) => (
            <option key={type} value={type}>
              {text}
            </option>
          ))}
        </Select>
      </Labelled>
    </div>
  );
}
