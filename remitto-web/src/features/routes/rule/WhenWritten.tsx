import type { Column, FieldRule, RuleWords } from '../../../api/types';
import { zone } from '../../../components/here';
import { Input, Labelled, Select } from '../../../components/ui';
import { IF_EMPTY, IF_UNUSABLE, ON_DRIFT, WRITTEN } from '../words';

interface Props {
  rule: FieldRule;
  columns: Column[];
  onChange: (rule: FieldRule) => void;
}

type Timing = NonNullable<FieldRule['timing']>;
type Direction = RuleWords['direction'];

const DIRECTIONS: Record<Direction, string> = {
  SOURCE: 'the source',
  DESTINATION: 'the destination',
  NEWEST: 'the newest value',
  HOLD_ON_CONFLICT: 'a person decides conflicts',
  MIXED: 'as set individually',
};

/** The choices that amount to each direction. */
const CHOICES: Partial<Record<Direction, Pick<FieldRule, 'written' | 'onDrift'>>> = {
  SOURCE: { written: 'ALWAYS', onDrift: 'OVERWRITE' },
  DESTINATION: { written: 'DESTINATION_DECIDES', onDrift: 'KEEP_THEIRS' },
  NEWEST: { written: 'IF_NEWER', onDrift: 'OVERWRITE' },
  HOLD_ON_CONFLICT: { written: 'ALWAYS', onDrift: 'HOLD_VALUE' },
};

function Choice<T extends string>({
  label,
  value,
  words,
  onChange,
}: {
  label: string;
  value: T;
  words: Record<T, string>;
  onChange: (value: T) => void;
}) {
  return (
    <Labelled label={label}>
      <Select className="w-full" value={value} onChange={(e) => onChange(e.target.value as T)}>
        {(Object.keys(words) as T[]).map((key) => (
          <option key={key} value={key}>
            {words[key]}
          </option>
        ))}
      </Select>
    </Labelled>
  );
}

/** Only a rule that asks which value is newer says how that is told. */
function withWritten(rule: FieldRule, columns: Column[]): FieldRule {
  const column = columns.find((one) => one.type === 'TIMESTAMP')?.name ?? '';
  return {
    ...rule,
    newer: rule.written === 'IF_NEWER' ? (rule.newer ?? { column, skewSeconds: 0 }) : undefined,
  };
}

const AS_EMPTY = '';

function EmptyChoice({
  label,
  value,
  onChange,
}: {
  label: string;
  value: FieldRule['ifBlank'];
  onChange: (value: FieldRule['ifBlank']) => void;
}) {
  return (
    <Labelled label={label}>
      <Select
        className="w-full"
        value={value ?? AS_EMPTY}
        onChange={(e) =>
          onChange(e.target.value === AS_EMPTY ? undefined : (e.target.value as FieldRule['ifEmpty']))
        }
      >
        <option value={AS_EMPTY}>treat as empty</option>
        {Object.entries({ ...IF_EMPTY, DEFAULT: 'use the default' }).map(([key, word]) => (
          <option key={key} value={key}>
            {word}
          </option>
        ))}
      </Select>
    </Labelled>
  );
}

/** When a rule writes, and what it does where it has no value or theirs differs. */
export function WhenWritten({ rule, columns, direction, onChange }: Props & { direction?: Direction }) {
  const usesDefault = [rule.ifEmpty, rule.ifBlank, rule.ifMissing].includes('DEFAULT');
  return (
    <>
      <div className="grid grid-cols-2 items-end gap-3 lg:grid-cols-5">
        <Choice
          label="Conflict policy"
          value={direction ?? 'MIXED'}
          words={DIRECTIONS}
          onChange={(chosen) => {
            const choice = CHOICES[chosen];
            if (choice) onChange(withWritten({ ...rule, ...choice }, columns));
          }}
        />
        <Choice
          label="Write policy"
          value={rule.written}
          words={WRITTEN}
          onChange={(written) => onChange(withWritten({ ...rule, written }, columns))}
        />
        <Choice
          label="If edited in the destination since"
          value={rule.onDrift}
          words={ON_DRIFT}
          onChange={(onDrift) => onChange({ ...rule, onDrift })}
        />
        <Choice
          label="If the value is invalid"
          value={rule.ifUnusable}
          words={IF_UNUSABLE}
          onChange={(ifUnusable) => onChange({ ...rule, ifUnusable })}
        />
        <Choice
          label="If empty"
          value={rule.ifEmpty}
          words={{ ...IF_EMPTY, DEFAULT: 'use a default' }}
          onChange={(ifEmpty) => onChange({ ...rule, ifEmpty })}
        />
      </div>
      {rule.newer && (
        <div className="flex flex-wrap items-center gap-2">
          <span className="text-soft">Time of the source value:</span>
          <Select
            aria-label="Column with the time of the change"
            value={rule.newer.column}
            onChange={(e) =>
              onChange({
                ...rule,
                newer: { column: e.target.value, skewSeconds: rule.newer?.skewSeconds ?? 0 },
              })
            }
          >
            {columns
              .filter((one) => one.type === 'TIMESTAMP')
              .map((one) => (
                <option key={one.name}>{one.name}</option>
              ))}
          </Select>
          <span className="text-soft">, allowed clock difference</span>
          <Input
            type="number"
            aria-label="Allowed clock difference in seconds"
            className="w-[70px] font-mono"
            value={rule.newer.skewSeconds}
            onChange={(e) =>
              onChange({
                ...rule,
                newer: { column: rule.newer?.column ?? '', skewSeconds: Number(e.target.value) },
              })
            }
          />
          <span className="text-soft">s</span>
        </div>
      )}
      <details open={Boolean(rule.timing ?? rule.consent ?? rule.ifBlank ?? rule.ifMissing) || usesDefault}>
        <summary className="text-deep cursor-pointer">More: timing, consent, empty values, default</summary>
        <div className="mt-2 flex flex-col gap-2.5">
          <div className="grid grid-cols-4 gap-3">
            <EmptyChoice
              label="If blank"
              value={rule.ifBlank}
              onChange={(ifBlank) => onChange({ ...rule, ifBlank })}
            />
            <EmptyChoice
              label="If no record is found"
              value={rule.ifMissing}
              onChange={(ifMissing) => onChange({ ...rule, ifMissing })}
            />
            <Labelled label="Default">
              <Input
                className="w-full font-mono"
                disabled={!usesDefault}
                value={rule.defaultText}
                onChange={(e) => onChange({ ...rule, defaultText: e.target.value })}
              />
            </Labelled>
          </div>
          <TimingFields rule={rule} columns={columns} onChange={onChange} />
          <ConsentFields rule={rule} columns={columns} onChange={onChange} />
        </div>
      </details>
    </>
  );
}

const ANY_TIME: Timing = {
  atMostEveryHours: 0,
  get zone() {
    return zone();
  },
  onlyWithColumn: '',
};

function TimingFields({ rule, columns, onChange }: Props) {
  const timing = rule.timing ?? ANY_TIME;
  const set = (changes: Partial<Timing>) => {
    const next = { ...timing, ...changes };
    const any =
      next.atMostEveryHours === 0 &&
      !next.window &&
      !next.notBefore &&
      !next.notAfter &&
      next.onlyWithColumn === '';
    onChange({ ...rule, timing: any ? undefined : next });
  };
  return (
    <div className="flex flex-wrap items-end gap-3">
      <Labelled label="At most every (hours)">
        <Input
          type="number"
          min={0}
          className="w-[110px] font-mono"
          value={timing.atMostEveryHours}
          onChange={(e) => set({ atMostEveryHours: Math.max(0, Number(e.target.value)) })}
        />
      </Labelled>
      <Labelled label="Only from">
        <Input
          type="time"
          className="font-mono"
          value={(timing.window?.from ?? '').slice(0, 5)}
          onChange={(e) =>
            set({
              window: e.target.value ? { from: e.target.value, to: timing.window?.to ?? '23:59' } : undefined,
            })
          }
        />
      </Labelled>
      <Labelled label="to">
        <Input
          type="time"
          className="font-mono"
          disabled={!timing.window}
          value={(timing.window?.to ?? '').slice(0, 5)}
          onChange={(e) => timing.window && set({ window: { from: timing.window.from, to: e.target.value } })}
        />
      </Labelled>
      <Labelled label="Not before">
        <Input
          type="date"
          className="font-mono"
          value={timing.notBefore ?? ''}
          onChange={(e) => set({ notBefore: e.target.value || undefined })}
        />
      </Labelled>
      <Labelled label="Not after">
        <Input
          type="date"
          className="font-mono"
          value={timing.notAfter ?? ''}
          onChange={(e) => set({ notAfter: e.target.value || undefined })}
        />
      </Labelled>
      <Labelled label="Zone">
        <Input
          className="w-[140px] font-mono"
          value={timing.zone}
          onChange={(e) => set({ zone: e.target.value })}
        />
      </Labelled>
      <Labelled label="Only when this column changes">
        <Select value={timing.onlyWithColumn} onChange={(e) => set({ onlyWithColumn: e.target.value })}>
          <option value="">no condition</option>
          {columns.map((column) => (
            <option key={column.name}>{column.name}</option>
          ))}
        </Select>
      </Labelled>
    </div>
  );
}

function ConsentFields({ rule, columns, onChange }: Props) {
  return (
    <div className="flex flex-wrap items-end gap-3">
      <Labelled label="Requires consent in column">
        <Select
          value={rule.consent?.column ?? ''}
          onChange={(e) =>
            onChange({
              ...rule,
              consent: e.target.value
                ? { column: e.target.value, purpose: rule.consent?.purpose ?? '' }
                : undefined,
            })
          }
        >
          <option value="">nothing</option>
          {columns.map((column) => (
            <option key={column.name}>{column.name}</option>
          ))}
        </Select>
      </Labelled>
      {rule.consent && (
        <Labelled label="Consent to">
          <Input
            className="w-[260px]"
            placeholder="purpose of the consent"
            value={rule.consent.purpose}
            onChange={(e) =>
              onChange({
                ...rule,
                consent: { column: rule.consent?.column ?? '', purpose: e.target.value },
              })
            }
          />
        </Labelled>
      )}
    </div>
  );
}
