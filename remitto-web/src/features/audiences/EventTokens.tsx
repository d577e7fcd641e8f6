import type { EntityType, Aggregation, ConditionWords, EventsOf, EventTest } from '../../api/types';
import { Button, Labelled, Select, Token } from '../../components/ui';
import { attributeWords } from '../people/words';
import {
  AGGREGATION_WORDS,
  aggregationWords,
  columnsFor,
  freshAggregation,
  SPAN_WORDS,
  testWords,
  usualTest,
} from './conditions';
import { TestToken } from './TestToken';
import { today } from './today';

interface OfProps {
  label: string;
  entityType: EntityType;
  of: EventsOf;
  words: ConditionWords;
  /** Whether other events can be chosen here. */
  choose: boolean;
  onChange: (of: EventsOf) => void;
}

/** Which events count, narrowed by what their columns say. */
export function EventsToken({ label, entityType, of, words, choose, onChange }: OfProps) {
  const narrowed = of.where.map(
    (one) => `${attributeWords(one.column).toLowerCase()} ${testWords(one.test)}`,
  );
  const narrow = narrowed.length === 0 ? 'of any kind' : `whose ${narrowed.join(', ')}`;
  const text = choose ? (narrowed.length === 0 ? of.events : `${of.events} ${narrow}`) : narrow;
  return (
    <Token label={label} text={text}>
      {choose && (
        <Labelled label="Events">
          <Select value={of.events} onChange={(event) => onChange({ events: event.target.value, where: [] })}>
            {words.events.map((one) => (
              <option key={one.name}>{one.name}</option>
            ))}
          </Select>
        </Labelled>
      )}
      <Tests
        entityType={entityType}
        events={of.events}
        tests={of.where}
        words={words}
        onChange={(where) => onChange({ ...of, where })}
      />
    </Token>
  );
}

function columns(words: ConditionWords, events: string) {
  return words.events.find((one) => one.name === events)?.columns ?? [];
}

function Tests({
  entityType,
  events,
  tests,
  words,
  onChange,
}: {
  entityType: EntityType;
  events: string;
  tests: EventTest[];
  words: ConditionWords;
  onChange: (tests: EventTest[]) => void;
}) {
  const known = columns(words, events);
  return (
    <div>
      <div className="text-soft mb-1">Only events where</div>
      {tests.map((one, at) => {
        const type = known.find((column) => column.name === one.column)?.type ?? 'TEXT';
        const put = (changed: EventTest) => onChange(tests.map((other, i) => (i === at ? changed : other)));
        return (
          <div key={at} className="mb-1 flex items-center gap-2">
            <Select
              aria-label={`Column ${at + 1} of ${events}`}
              value={one.column}
              onChange={(event) => {
                const column = event.target.value;
                const fresh = known.find((other) => other.name === column)?.type ?? 'TEXT';
                put({ column, test: usualTest(fresh, today()) });
              }}
            >
              {known.map((column) => (
                <option key={column.name} value={column.name}>
                  {attributeWords(column.name)}
                </option>
              ))}
            </Select>
            <TestToken
              label={`Test ${at + 1} of ${events}`}
              type={type}
              test={one.test}
              values={{ entityType, events, name: one.column }}
              onChange={(test) => put({ ...one, test })}
            />
            <Button
              kind="quiet"
              aria-label={`Remove test ${at + 1} of ${events}`}
              onClick={() => onChange(tests.filter((_, i) => i !== at))}
            >
              Remove
            </Button>
          </div>
        );
      })}
      {known[0] && (
        <Button
          kind="quiet"
          className="-ml-3"
          onClick={() => {
            const first = known[0];
            if (first) onChange([...tests, { column: first.name, test: usualTest(first.type, today()) }]);
          }}
        >
          Filter by a column
        </Button>
      )}
    </div>
  );
}

/** How events become one value. */
export function AggregationToken({
  label,
  entityType,
  how,
  text = aggregationWords(how),
  events,
  words,
  onChange,
}: {
  label: string;
  entityType: EntityType;
  how: Aggregation;
  /** What it reads as in its sentence. */
  text?: string;
  events: string;
  words: ConditionWords;
  onChange: (how: Aggregation) => void;
}) {
  const known = columns(words, events);
  return (
    <Token label={label} text={text}>
      <Labelled label="Computed as">
        <Select
          value={how.kind}
          onChange={(event) => {
            const fresh = freshAggregation(event.target.value as Aggregation['kind'], known);
            if (fresh) onChange(fresh);
          }}
        >
          {AGGREGATION_WORDS.filter(([kind]) => freshAggregation(kind, known)).map(([kind, text]) => (
            <option key={kind} value={kind}>
              {text}
            </option>
          ))}
        </Select>
      </Labelled>
      {'column' in how && (
        <Labelled label="Column">
          <Select value={how.column} onChange={(event) => onChange({ ...how, column: event.target.value })}>
            {columnsFor(how.kind, known).map((name) => (
              <option key={name} value={name}>
                {attributeWords(name)}
              </option>
            ))}
          </Select>
        </Labelled>
      )}
      {how.kind === 'streak' && (
        <Labelled label="Streak of">
          <Select
            value={how.span}
            onChange={(event) => onChange({ ...how, span: event.target.value as typeof how.span })}
          >
            {SPAN_WORDS.map(([span, text]) => (
              <option key={span} value={span}>
                {text}s
              </option>
            ))}
          </Select>
        </Labelled>
      )}
      {how.kind === 'share' && (
        <Tests
          entityType={entityType}
          events={events}
          tests={how.tests}
          words={words}
          onChange={(tests) => onChange({ ...how, tests })}
        />
      )}
    </Token>
  );
}
