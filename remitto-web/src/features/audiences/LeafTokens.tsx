import type { ReactNode } from 'react';
import type { EntityType, ConditionWords } from '../../api/types';
import { Labelled, Select, Token } from '../../components/ui';
import {
  aggregationWords,
  ANSWER_WORDS,
  conditionWords,
  countWords,
  freshLeaf,
  type Leaf,
  measureType,
  subjectOf,
  subjects,
  usualTest,
  valueWords,
} from './conditions';
import { AggregationToken, EventsToken } from './EventTokens';
import { Numeric, TestToken } from './TestToken';
import { today } from './today';
import { WindowToken } from './WindowToken';
import { attributeWords } from '../people/words';

interface Props {
  /** What the line is called, for readers. */
  name: string;
  entityType: EntityType;
  leaf: Leaf;
  words: ConditionWords;
  onChange: (leaf: Leaf) => void;
}

/** One condition as a sentence, each part of it editable. */
export function LeafTokens({ name, entityType, leaf, words, onChange }: Props) {
  const subject = (
    <SubjectToken name={name} entityType={entityType} leaf={leaf} words={words} onChange={onChange} />
  );
  return (
    <span className="flex flex-wrap items-center gap-x-2 gap-y-1 py-0.5">
      {leaf.kind === 'events' ? (
        <EventsSentence
          name={name}
          entityType={entityType}
          leaf={leaf}
          words={words}
          subject={subject}
          onChange={onChange}
        />
      ) : (
        <>
          {leaf.kind === 'sequence' && <span>made</span>}
          {subject}
          <Rest name={name} entityType={entityType} leaf={leaf} words={words} onChange={onChange} />
        </>
      )}
    </span>
  );
}

function subjectText(leaf: Leaf, entityType: EntityType): string {
  switch (leaf.kind) {
    case 'attribute':
      return attributeWords(leaf.attribute);
    case 'events':
      return leaf.measure.of.events.toLowerCase();
    case 'sequence':
      return leaf.first.events.toLowerCase();
    case 'everyone':
      return entityType === 'PERSON' ? 'are people' : 'are companies';
    case 'audience':
      return 'are in audience';
    case 'dataset':
      return 'have a record in';
    case 'consent':
      return 'by consent';
    case 'sent':
      return leaf.state === 'SENT' ? 'are present in the destination of' : 'are held for';
  }
}

function SubjectToken({ name, entityType, leaf, words, onChange }: Props) {
  return (
    <Token label={`${name} is about`} text={subjectText(leaf, entityType)}>
      <Labelled label="About">
        <Select
          value={subjectOf(leaf)}
          onChange={(event) => onChange(freshLeaf(event.target.value, words, today()))}
        >
          {subjects(words).map((group) => (
            <optgroup key={group.group} label={group.group}>
              {group.choices.map(([subject, text]) => (
                <option key={subject} value={subject}>
                  {text}
                </option>
              ))}
            </optgroup>
          ))}
        </Select>
      </Labelled>
    </Token>
  );
}

/** What somebody did: "made at least 3 crossings of any kind in the last 90 days". */
function EventsSentence({
  name,
  entityType,
  leaf,
  words,
  subject,
  onChange,
}: Omit<Props, 'leaf'> & { leaf: Extract<Leaf, { kind: 'events' }>; subject: ReactNode }) {
  const { measure } = leaf;
  const counts = measure.aggregation.kind === 'count';
  const type = measureType(measure, words);
  const computed = (
    <AggregationToken
      label={`${name}, computed as`}
      entityType={entityType}
      how={measure.aggregation}
      text={counts ? 'made' : aggregationWords(measure.aggregation)}
      events={measure.of.events}
      words={words}
      onChange={(aggregation) => {
        const changed = { ...measure, aggregation };
        const fresh = measureType(changed, words);
        onChange({
          ...leaf,
          measure: changed,
          test: fresh === type ? leaf.test : usualTest(fresh, today()),
        });
      }}
    />
  );
  const test = (
    <TestToken
      label={`${name}, test`}
      type={type}
      test={leaf.test}
      text={counts ? countWords(leaf.test) : valueWords(leaf.test)}
      values={{
        entityType,
        events: measure.of.events,
        name: 'column' in measure.aggregation ? measure.aggregation.column : '',
      }}
      onChange={(changed) => onChange({ ...leaf, test: changed })}
    />
  );
  return (
    <>
      {computed}
      {counts ? test : <span>of</span>}
      {subject}
      {(words.events.find((one) => one.name === measure.of.events)?.columns.length ?? 0) > 0 && (
        <EventsToken
          label={`${name}, which events`}
          entityType={entityType}
          of={measure.of}
          words={words}
          choose={false}
          onChange={(of) => onChange({ ...leaf, measure: { ...measure, of } })}
        />
      )}
      <WindowToken
        label={`${name}, time`}
        window={measure.window}
        onChange={(window) => onChange({ ...leaf, measure: { ...measure, window } })}
      />
      {!counts && (
        <>
          {(leaf.test.kind === 'number' || leaf.test.kind === 'number-within') && <span>is</span>}
          {test}
        </>
      )}
    </>
  );
}

function Rest({ name, entityType, leaf, words, onChange }: Props) {
  switch (leaf.kind) {
    case 'everyone':
      return null;
    case 'attribute':
      return (
        <TestToken
          label={`${name}, test`}
          type={words.attributes.find((one) => one.name === leaf.attribute)?.type ?? 'TEXT'}
          test={leaf.test}
          values={{ entityType, events: '', name: leaf.attribute }}
          onChange={(test) => onChange({ ...leaf, test })}
        />
      );
    case 'events':
      return null;
    case 'sequence':
      return (
        <>
          {(words.events.find((one) => one.name === leaf.first.events)?.columns.length ?? 0) > 0 && (
            <EventsToken
              label={`${name}, which events`}
              entityType={entityType}
              of={leaf.first}
              words={words}
              choose={false}
              onChange={(first) => onChange({ ...leaf, first })}
            />
          )}
          <WindowToken
            label={`${name}, time`}
            window={leaf.window}
            onChange={(window) => onChange({ ...leaf, window })}
          />
          <span>then</span>
          <Token label={`${name}, followed by any or none`} text={leaf.none ? 'none of' : 'any of'}>
            <Labelled label="Followed by">
              <Select
                value={leaf.none ? 'none' : 'any'}
                onChange={(event) => onChange({ ...leaf, none: event.target.value === 'none' })}
              >
                <option value="any">any of these events</option>
                <option value="none">none of these events, and the days have passed</option>
              </Select>
            </Labelled>
          </Token>
          <EventsToken
            label={`${name}, then`}
            entityType={entityType}
            of={leaf.then}
            words={words}
            choose
            onChange={(then) => onChange({ ...leaf, then })}
          />
          <Token label={`${name}, within`} text={`within ${leaf.days} days`}>
            <Numeric
              label="Days after the first event, to the end of the last day"
              value={leaf.days}
              onNumber={(days) => onChange({ ...leaf, days })}
            />
          </Token>
        </>
      );
    case 'consent':
      return (
        <>
          <Choice
            label={`${name}, answer`}
            text={ANSWER_WORDS[leaf.answer]}
            value={leaf.answer}
            options={Object.entries(ANSWER_WORDS)}
            onChoose={(answer) => onChange({ ...leaf, answer: answer as typeof leaf.answer })}
          />
          <span>to</span>
          <Choice
            label={`${name}, purpose`}
            text={`${leaf.purpose} by ${leaf.channel}`}
            value={`${leaf.purpose}\n${leaf.channel}`}
            options={words.purposes.map((one) => [
              `${one.purpose}\n${one.channel}`,
              `${one.purpose} by ${one.channel}`,
            ])}
            onChoose={(chosen) => {
              const [purpose = '', channel = ''] = chosen.split('\n');
              onChange({ ...leaf, purpose, channel });
            }}
          />
        </>
      );
    case 'audience':
      return (
        <Named
          label={`${name}, audience`}
          list={words.audiences}
          id={leaf.audience}
          text={conditionWords(leaf, words).replace('in audience ', '')}
          onChoose={(audience) => onChange({ ...leaf, audience })}
        />
      );
    case 'dataset':
      return (
        <Named
          label={`${name}, dataset`}
          list={words.datasets}
          id={leaf.dataset}
          text={conditionWords(leaf, words).replace('has a record in ', '')}
          onChoose={(dataset) => onChange({ ...leaf, dataset })}
        />
      );
    case 'sent':
      return (
        <>
          <Named
            label={`${name}, route`}
            list={words.routes}
            id={leaf.route}
            text={words.routes.find((one) => one.id === leaf.route)?.name ?? `route ${leaf.route}`}
            onChoose={(route) => onChange({ ...leaf, route })}
          />
          <Choice
            label={`${name}, state`}
            text={leaf.state === 'SENT' ? 'now' : 'held now'}
            value={leaf.state}
            options={[
              ['SENT', 'the destination holds a record of the person'],
              ['HELD', "the person's record is held"],
            ]}
            onChoose={(state) => onChange({ ...leaf, state: state as typeof leaf.state })}
          />
        </>
      );
  }
}

function Named({
  label,
  list,
  id,
  text,
  onChoose,
}: {
  label: string;
  list: { id: number; name: string }[];
  id: number;
  text: string;
  onChoose: (id: number) => void;
}) {
  return (
    <Choice
      label={label}
      text={text}
      value={`${id}`}
      options={list.map((one) => [`${one.id}`, one.name])}
      onChoose={(chosen) => onChoose(Number(chosen))}
    />
  );
}

function Choice({
  label,
  text,
  value,
  options,
  onChoose,
}: {
  label: string;
  text: string;
  value: string;
  options: [string, string][];
  onChoose: (value: string) => void;
}) {
  return (
    <Token label={label} text={text}>
      <Labelled label="Which">
        <Select value={value} onChange={(event) => onChoose(event.target.value)}>
          {options.map(([option, words]) => (
            <option key={option} value={option}>
              {words}
            </option>
          ))}
        </Select>
      </Labelled>
    </Token>
  );
}
