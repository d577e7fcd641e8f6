import { useQuery } from '@tanstack/react-query';
import { api, ok } from '../../api/client';
import type { Column, FieldRule, Receives, RouteFault, Shaper } from '../../api/types';
import { CodeField } from '../../components/CodeField';
import { Button, Input, Labelled, Select } from '../../components/ui';
import { IF_EMPTY, IF_UNUSABLE, ON_DRIFT, shaperName, WRITTEN } from './words';

interface Props {
  rule: FieldRule;
  columns: Column[];
  faults: RouteFault[];
  onChange: (rule: FieldRule) => void;
  onRemove: () => void;
}

function offset(text: string, line: number, column: number): number {
  const lines = text.split('\n').slice(0, line - 1);
  return lines.reduce((sum, one) => sum + one.length + 1, 0) + column;
}

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

/** One rule, edited in place. */
export function RuleEditor({ rule, columns, faults, onChange, onRemove }: Props) {
  const { receives } = rule;
  const routes = useQuery({ queryKey: ['routes'], queryFn: () => ok(api.GET('/api/routes')) });
  const switchTo = (kind: Receives['kind']) => {
    const column = receives.kind === 'column' ? receives.column : (columns[0]?.name ?? '');
    if (kind === 'column') onChange({ ...rule, receives: { kind, column } });
    else if (kind === 'fixed') onChange({ ...rule, receives: { kind, text: '' } });
    else if (kind === 'record')
      onChange({ ...rule, receives: { kind, column, route: routes.data?.[0]?.id ?? 0 } });
    else onChange({ ...rule, receives: { kind, expression: column } });
  };
  return (
    <div className="flex flex-col gap-2.5">
      <div className="flex items-start gap-3">
        <Select
          aria-label={`What ${rule.field} receives`}
          value={receives.kind}
          onChange={(e) => switchTo(e.target.value as Receives['kind'])}
        >
          <option value="column">from a column</option>
          <option value="fixed">a fixed value</option>
          <option value="expression">an expression (CEL)</option>
          <option value="record">the record of another route</option>
        </Select>
        <div className="flex-1">
          {receives.kind === 'column' && (
            <Select
              aria-label="Column"
              className="w-full font-mono"
              value={receives.column}
              onChange={(e) => onChange({ ...rule, receives: { kind: 'column', column: e.target.value } })}
            >
              {columns.map((column) => (
                <option key={column.name} value={column.name}>
                  {column.name}, {column.type.toLowerCase()}
                  {column.role === 'SENSITIVE' ? ', sensitive' : ''}
                </option>
              ))}
            </Select>
          )}
          {receives.kind === 'fixed' && (
            <Input
              aria-label="Fixed value"
              className="w-full font-mono"
              value={receives.text}
              onChange={(e) => onChange({ ...rule, receives: { kind: 'fixed', text: e.target.value } })}
            />
          )}
          {receives.kind === 'record' && (
            <div className="flex items-center gap-2">
              <Select
                aria-label="Route whose record is meant"
                value={receives.route}
                onChange={(e) =>
                  onChange({ ...rule, receives: { ...receives, route: Number(e.target.value) } })
                }
              >
                {(routes.data ?? []).map((route) => (
                  <option key={route.id} value={route.id}>
                    {route.name}
                  </option>
                ))}
              </Select>
              <span>by its key in</span>
              <Select
                aria-label="Column with its key"
                className="font-mono"
                value={receives.column}
                onChange={(e) => onChange({ ...rule, receives: { ...receives, column: e.target.value } })}
              >
                {columns.map((column) => (
                  <option key={column.name}>{column.name}</option>
                ))}
              </Select>
            </div>
          )}
          {receives.kind === 'expression' && (
            <CodeField
              label={`Expression for ${rule.field}`}
              value={receives.expression}
              onChange={(expression) => onChange({ ...rule, receives: { kind: 'expression', expression } })}
              names={columns.map((column) => column.name)}
              faults={faults
                .filter((fault) => fault.line > 0)
                .map((fault) => ({
                  at: offset(receives.expression, fault.line, fault.column),
                  message: fault.message,
                }))}
              height="auto"
              single
            />
          )}
        </div>
        <Button kind="quiet" onClick={onRemove}>
          Take the rule away
        </Button>
      </div>
      <Shapers rule={rule} columns={columns} onChange={onChange} />
      <div className="grid grid-cols-4 gap-3">
        <Choice
          label="Written"
          value={rule.written}
          words={WRITTEN}
          onChange={(written) => onChange({ ...rule, written })}
        />
        <div>
          <Choice
            label="If empty"
            value={rule.ifEmpty}
            words={{ ...IF_EMPTY, DEFAULT: 'use a default' }}
            onChange={(ifEmpty) => onChange({ ...rule, ifEmpty })}
          />
          {rule.ifEmpty === 'DEFAULT' && (
            <Input
              aria-label="Default"
              className="mt-1 w-full font-mono"
              value={rule.defaultText}
              onChange={(e) => onChange({ ...rule, defaultText: e.target.value })}
            />
          )}
        </div>
        <Choice
          label="If it cannot be used"
          value={rule.ifUnusable}
          words={IF_UNUSABLE}
          onChange={(ifUnusable) => onChange({ ...rule, ifUnusable })}
        />
        <Choice
          label="If edited there since"
          value={rule.onDrift}
          words={ON_DRIFT}
          onChange={(onDrift) => onChange({ ...rule, onDrift })}
        />
      </div>
    </div>
  );
}

function Shapers({
  rule,
  columns,
  onChange,
}: {
  rule: FieldRule;
  columns: Column[];
  onChange: (rule: FieldRule) => void;
}) {
  const replace = (i: number, shaper: Shaper) =>
    onChange({ ...rule, shapers: rule.shapers.map((one, j) => (j === i ? shaper : one)) });
  const add = (kind: string) => {
    const fresh: Record<string, Shaper> = {
      trim: { kind: 'trim' },
      lower: { kind: 'lower' },
      sha256: { kind: 'sha256' },
      e164: { kind: 'e164', country: 'NO', countryColumn: '' },
      date: { kind: 'date', pattern: '', zone: Intl.DateTimeFormat().resolvedOptions().timeZone },
    };
    const shaper = fresh[kind];
    if (shaper) onChange({ ...rule, shapers: [...rule.shapers, shaper] });
  };
  return (
    <div className="flex flex-wrap items-center gap-2">
      <span className="text-soft">Shaped by</span>
      {rule.shapers.map((shaper, i) => (
        <span
          key={i}
          className="border-hairline bg-card rounded-button flex items-center gap-1.5 border px-2 py-1"
        >
          {shaperName(shaper)}
          {shaper.kind === 'e164' && (
            <>
              <input
                aria-label="Country"
                className="bg-sunk w-[34px] rounded px-1 font-mono"
                value={shaper.country}
                maxLength={2}
                onChange={(e) => replace(i, { ...shaper, country: e.target.value.toUpperCase() })}
              />
              <select
                aria-label="Column with the country"
                className="bg-sunk rounded"
                value={shaper.countryColumn}
                onChange={(e) => replace(i, { ...shaper, countryColumn: e.target.value })}
              >
                <option value="">always</option>
                {columns.map((column) => (
                  <option key={column.name} value={column.name}>
                    or {column.name}
                  </option>
                ))}
              </select>
            </>
          )}
          {shaper.kind === 'date' && (
            <>
              <input
                aria-label="How the date is spelled"
                placeholder="ISO 8601"
                className="bg-sunk w-[90px] rounded px-1 font-mono"
                value={shaper.pattern}
                onChange={(e) => replace(i, { ...shaper, pattern: e.target.value })}
              />
              <input
                aria-label="Zone"
                className="bg-sunk w-[110px] rounded px-1 font-mono"
                value={shaper.zone}
                onChange={(e) => replace(i, { ...shaper, zone: e.target.value })}
              />
            </>
          )}
          <button
            type="button"
            aria-label={`Take away ${shaperName(shaper)}`}
            className="text-soft hover:text-removed cursor-pointer"
            onClick={() => onChange({ ...rule, shapers: rule.shapers.filter((_, j) => j !== i) })}
          >
            ×
          </button>
        </span>
      ))}
      <Select aria-label="Add a shaper" value="" onChange={(e) => add(e.target.value)}>
        <option value="">add…</option>
        <option value="trim">trim</option>
        <option value="lower">lower case</option>
        <option value="e164">E.164 phone</option>
        <option value="date">date</option>
        <option value="sha256">SHA-256</option>
      </Select>
    </div>
  );
}
