import type { EntityType, Condition, ConditionWords, LineAnswer, LiveCount } from '../../api/types';
import { count } from '../../components/format';
import { Select } from '../../components/ui';
import { asLine, freshLeaf, fromLine, type Group, type LineOf, subjects, lineWord } from './conditions';
import { LeafTokens } from './LeafTokens';
import { today } from './today';
import { Act, Editors } from '../session/Editors';

interface Props {
  entityType: EntityType;
  group: Group;
  words: ConditionWords;
  /** Counts of the lines; nothing while they are being computed. */
  counts?: LiveCount;
  /** Answers of one person to the lines, where one was asked. */
  answers?: LineAnswer[];
  onChange: (group: Group) => void;
}

/** What each line counts, beside it. */
interface Beside {
  alone?: number;
  left?: number;
  estimated: boolean;
}

/** A condition as lines, one below the other, with what each leaves. */
export function ConditionEditor({ entityType, group, words, counts, answers, onChange }: Props) {
  const estimated = counts?.margin !== undefined;
  const whole = group.kind === 'all' && group.conditions.length > 0;
  const beside = (at: number): Beside =>
    whole
      ? { alone: counts?.lines[at]?.alone, left: counts?.lines[at]?.left, estimated }
      : { alone: counts?.lines[0]?.parts[at], estimated };
  const parts = (at: number) => (whole ? counts?.lines[at]?.parts : undefined);
  return (
    <div>
      <div className="text-soft border-hairline flex items-center gap-2 border-b px-4 py-2">
        <span>People who match</span>
        <Select
          aria-label="Match all or any of the conditions"
          value={group.kind}
          onChange={(event) => onChange({ ...group, kind: event.target.value as Group['kind'] })}
        >
          <option value="all">all of these</option>
          <option value="any">any of these</option>
        </Select>
        <span className="ml-auto w-[92px] text-right">match this condition</span>
        {whole && <span className="w-[92px] text-right">remain</span>}
      </div>
      <Lines
        entityType={entityType}
        name="line"
        group={group}
        words={words}
        beside={beside}
        parts={parts}
        answers={whole || answers === undefined ? answers : answers[0]?.parts}
        onChange={onChange}
      />
    </div>
  );
}

interface LinesProps {
  entityType: EntityType;
  name: string;
  group: Group;
  words: ConditionWords;
  beside: (at: number) => Beside;
  parts: (at: number) => number[] | undefined;
  answers?: LineAnswer[];
  onChange: (group: Group) => void;
}

function Lines({ entityType, name, group, words, beside, parts, answers, onChange }: LinesProps) {
  const put = (at: number, condition: Condition | undefined) =>
    onChange({
      ...group,
      conditions: group.conditions.flatMap((one, i) => (i !== at ? [one] : condition ? [condition] : [])),
    });
  return (
    <>
      <ol className="m-0 list-none p-0">
        {group.conditions.map((condition, at) => (
          <Row
            key={at}
            entityType={entityType}
            name={`${name} ${at + 1}`}
            joint={at === 0 ? '' : group.kind === 'all' ? 'and' : 'or'}
            line={asLine(condition)}
            words={words}
            beside={beside(at)}
            parts={parts(at)}
            answer={answers?.[at]}
            onChange={(line) => put(at, line === undefined ? undefined : fromLine(line))}
          />
        ))}
      </ol>
      <Editors>
        <Adding
          name={name}
          words={words}
          onAdd={(condition) => onChange({ ...group, conditions: [...group.conditions, condition] })}
        />
      </Editors>
    </>
  );
}

interface RowProps {
  entityType: EntityType;
  name: string;
  joint: string;
  line: LineOf;
  words: ConditionWords;
  beside: Beside;
  parts?: number[];
  answer?: LineAnswer;
  onChange: (line: LineOf | undefined) => void;
}

function Row({ entityType, name, joint, line, words, beside, parts, answer, onChange }: RowProps) {
  const { condition } = line;
  const word = line.not ? `not ${lineWord(condition)}` : lineWord(condition);
  const group = condition.kind === 'all' || condition.kind === 'any' ? condition : undefined;
  const inner = line.not && group ? answer?.parts[0]?.parts : answer?.parts;
  return (
    <li className="border-hairline border-b px-4 py-1.5" aria-label={name}>
      <div className="flex flex-wrap items-start gap-2 sm:flex-nowrap">
        <span className="text-deep w-[30px] shrink-0 pt-1.5 font-semibold">{joint}</span>
        <button
          type="button"
          aria-pressed={line.not}
          aria-label={`${word}: not, ${name}`}
          title={line.not ? 'Negated. Press to require it.' : 'Press to negate it.'}
          className={`rounded-button mt-1 w-[72px] shrink-0 cursor-pointer py-0.5 text-center ${line.not ? 'bg-removed-on text-removed font-semibold' : 'text-soft hover:bg-sunk'}`}
          onClick={() => onChange({ ...line, not: !line.not })}
        >
          {word}
        </button>
        <span className="min-w-0 flex-1 basis-[200px]">
          {group ? (
            <span className="flex items-center gap-2 leading-8">
              <Select
                aria-label={`All or any, ${name}`}
                value={group.kind}
                onChange={(event) =>
                  onChange({ ...line, condition: { ...group, kind: event.target.value as Group['kind'] } })
                }
              >
                <option value="all">match all of</option>
                <option value="any">match any of</option>
              </Select>
            </span>
          ) : (
            condition.kind !== 'all' &&
            condition.kind !== 'any' && (
              <LeafTokens
                name={name}
                entityType={entityType}
                leaf={condition}
                words={words}
                onChange={(leaf) => onChange({ ...line, condition: leaf })}
              />
            )
          )}
        </span>
        {answer && <Answer answer={answer} />}
        <Act kind="quiet" aria-label={`Remove ${name}`} onClick={() => onChange(undefined)}>
          Remove
        </Act>
        <Figure value={beside.alone} estimated={beside.estimated} quiet={beside.left !== undefined} />
        {beside.left !== undefined && <Figure value={beside.left} estimated={beside.estimated} />}
      </div>
      {group && (
        <div className="border-hairline mt-1 ml-[76px] border-l-2">
          <Lines
            entityType={entityType}
            name={`${name},`}
            group={group}
            words={words}
            beside={(at) => ({ alone: parts?.[at], estimated: beside.estimated })}
            parts={() => undefined}
            answers={inner}
            onChange={(changed) => onChange({ ...line, condition: changed })}
          />
        </div>
      )}
    </li>
  );
}

function Figure({ value, estimated, quiet }: { value?: number; estimated: boolean; quiet?: boolean }) {
  return (
    <span className={`w-[92px] shrink-0 pt-1.5 text-right font-mono ${quiet ? 'text-soft' : ''}`}>
      {value === undefined ? '' : `${estimated ? '≈ ' : ''}${count(value)}`}
    </span>
  );
}

/** Whether one person meets the line, and the value that decided it. */
function Answer({ answer }: { answer: LineAnswer }) {
  return (
    <span
      className={`mt-1 rounded px-1.5 py-0.5 text-[0.75rem] font-medium ${answer.holds ? 'bg-added-on text-added' : 'bg-removed-on text-removed'}`}
    >
      {answer.holds ? 'yes' : 'no'}
      {answer.value !== '' && <span className="font-mono">: {answer.value}</span>}
    </span>
  );
}

function Adding({
  name,
  words,
  onAdd,
}: {
  name: string;
  words: ConditionWords;
  onAdd: (condition: Condition) => void;
}) {
  return (
    <div className="flex items-center gap-2 px-4 py-1.5">
      <Select
        aria-label={`Add a ${name.replace(',', ' within')}`}
        value=""
        onChange={(event) => {
          if (event.target.value === 'group') {
            onAdd({ kind: 'any', conditions: [] });
          } else if (event.target.value !== '') {
            onAdd(freshLeaf(event.target.value, words, today()));
          }
        }}
      >
        <option value="">Add a condition on…</option>
        {subjects(words).map((group) => (
          <optgroup key={group.group} label={group.group}>
            {group.choices.map(([subject, text]) => (
              <option key={subject} value={subject}>
                {text}
              </option>
            ))}
          </optgroup>
        ))}
        <option value="group">A group of conditions</option>
      </Select>
    </div>
  );
}
