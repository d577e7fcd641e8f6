import { useQuery } from '@tanstack/react-query';
import { api, ok } from '../../api/client';
import type { EntityType, ColumnType, ValueTest } from '../../api/types';
import { count } from '../../components/format';
import { Input, Labelled, Select, Token } from '../../components/ui';
import { freshTest, RELATION_WORDS, testsFor, testWords } from './conditions';
import { today } from './today';
import { WindowFields } from './WindowToken';

/** Where the values of an attribute, or of a column of events, are found. */
export interface ValuesOf {
  entityType: EntityType;
  events: string;
  name: string;
}

interface Props {
  label: string;
  type: ColumnType;
  test: ValueTest;
  /** What it reads as in its sentence. */
  text?: string;
  values: ValuesOf;
  onChange: (test: ValueTest) => void;
}

/** A test of a value, as an editable part of a sentence. */
export function TestToken({ label, type, test, text = testWords(test), values, onChange }: Props) {
  return (
    <Token label={label} text={text}>
      <Labelled label="Matches when the value">
        <Select
          value={test.kind}
          onChange={(event) => onChange(freshTest(event.target.value as ValueTest['kind'], today()))}
        >
          {testsFor(type).map(([kind, words]) => (
            <option key={kind} value={kind}>
              {words}
            </option>
          ))}
        </Select>
      </Labelled>
      <TestFields test={test} values={values} onChange={onChange} />
    </Token>
  );
}

function TestFields({ test, values, onChange }: Pick<Props, 'test' | 'values' | 'onChange'>) {
  switch (test.kind) {
    case 'one-of':
      return (
        <Values chosen={test.values} values={values} onChange={(all) => onChange({ ...test, values: all })} />
      );
    case 'contains':
    case 'begins':
      return (
        <Labelled label="Text, ignoring case">
          <Input value={test.part} onChange={(event) => onChange({ ...test, part: event.target.value })} />
        </Labelled>
      );
    case 'number':
      return (
        <div className="flex gap-2">
          <Labelled label="Is">
            <Select
              value={test.relation}
              onChange={(event) =>
                onChange({ ...test, relation: event.target.value as typeof test.relation })
              }
            >
              {RELATION_WORDS.map(([relation, words]) => (
                <option key={relation} value={relation}>
                  {words}
                </option>
              ))}
            </Select>
          </Labelled>
          <Numeric label="Number" value={test.number} onNumber={(number) => onChange({ ...test, number })} />
        </div>
      );
    case 'number-within':
      return (
        <div className="flex gap-2">
          <Numeric label="From" value={test.least} onNumber={(least) => onChange({ ...test, least })} />
          <Numeric label="To, included" value={test.most} onNumber={(most) => onChange({ ...test, most })} />
        </div>
      );
    case 'day-within':
      return <WindowFields window={test.window} onChange={(window) => onChange({ ...test, window })} />;
    case 'comes-round':
      return (
        <Numeric
          label="Days from today, including today"
          value={test.days}
          onNumber={(days) => onChange({ ...test, days })}
        />
      );
    case 'truth':
      return (
        <Labelled label="Is">
          <Select
            value={test.truth ? 'yes' : 'no'}
            onChange={(event) => onChange({ ...test, truth: event.target.value === 'yes' })}
          >
            <option>yes</option>
            <option>no</option>
          </Select>
        </Labelled>
      );
    default:
      return null;
  }
}

export function Numeric({
  label,
  value,
  onNumber,
}: {
  label: string;
  value: number;
  onNumber: (value: number) => void;
}) {
  return (
    <Labelled label={label}>
      <Input
        type="number"
        step="any"
        className="w-[110px]"
        value={Number.isNaN(value) ? '' : value}
        onChange={(event) => {
          const number = event.target.valueAsNumber;
          if (!Number.isNaN(number)) onNumber(number);
        }}
      />
    </Labelled>
  );
}

/** The values there are, the most frequent first, to choose from; and any other, one a line. */
function Values({
  chosen,
  values,
  onChange,
}: {
  chosen: string[];
  values: ValuesOf;
  onChange: (values: string[]) => void;
}) {
  const known = useQuery({
    queryKey: ['condition-values', values],
    queryFn: () => ok(api.GET('/api/conditions/values', { params: { query: values } })),
  });
  const given = chosen.filter((one) => one !== '…');
  const set = (all: string[]) => onChange(all.length === 0 ? ['…'] : all);
  const others = given.filter((one) => !known.data?.some((value) => value.value === one));
  return (
    <>
      {(known.data?.length ?? 0) > 0 && (
        <fieldset className="m-0 max-h-[220px] overflow-y-auto border-0 p-0">
          <legend className="text-soft mb-1">Values in the data</legend>
          {known.data?.map((one) => (
            <label key={one.value} className="flex items-center gap-2 py-0.5">
              <input
                type="checkbox"
                checked={given.includes(one.value)}
                onChange={() =>
                  set(
                    given.includes(one.value)
                      ? given.filter((value) => value !== one.value)
                      : [...given, one.value],
                  )
                }
              />
              <span className="min-w-[140px] flex-1">{one.value}</span>
              <span className="text-soft font-mono">{count(one.count)}</span>
            </label>
          ))}
        </fieldset>
      )}
      <Labelled label="Other values, separated by commas">
        <Input
          key={others.length}
          defaultValue={others.join(', ')}
          onBlur={(event) =>
            set([
              ...given.filter((one) => !others.includes(one)),
              ...event.target.value
                .split(',')
                .map((one) => one.trim())
                .filter((one) => one !== ''),
            ])
          }
        />
      </Labelled>
    </>
  );
}
