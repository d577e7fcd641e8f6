import { useQuery } from '@tanstack/react-query';
import { api, ok } from '../../../api/client';
import type { Column, FieldRule, Shaper } from '../../../api/types';
import { Select } from '../../../components/ui';
import { freshShaper, KINDS, type Setting, shaperName, SHAPERS } from './shapers';

const SMALL = 'bg-sunk rounded px-1 font-mono';

/** The shapers of a rule in their order, each with its settings; moved by its arrows. */
export function ShaperList({
  rule,
  columns,
  onChange,
}: {
  rule: FieldRule;
  columns: Column[];
  onChange: (rule: FieldRule) => void;
}) {
  const set = (shapers: Shaper[]) => onChange({ ...rule, shapers });
  const move = (i: number) => {
    const next = [...rule.shapers];
    const [one] = next.splice(i, 1);
    if (one) next.splice(i - 1, 0, one);
    set(next);
  };
  return (
    <div className="flex flex-wrap items-center gap-2">
      <span className="text-soft">Shapers</span>
      {rule.shapers.map((shaper, i) => (
        <span
          key={i}
          className="border-hairline bg-card rounded-button flex flex-wrap items-center gap-1.5 border px-2 py-1"
        >
          {i > 0 && (
            <button
              type="button"
              aria-label={`Move ${shaperName(shaper)} left`}
              className="text-soft hover:text-ink cursor-pointer"
              onClick={() => move(i)}
            >
              ‹
            </button>
          )}
          {SHAPERS[shaper.kind].label}
          {SHAPERS[shaper.kind].settings
            .filter((setting) => asked(shaper, setting))
            .map((setting) => (
              <SettingField
                key={setting.name}
                setting={setting}
                value={(shaper as unknown as Record<string, unknown>)[setting.name]}
                columns={columns}
                onChange={(value) =>
                  set(
                    rule.shapers.map((one, j) =>
                      j === i ? ({ ...one, [setting.name]: value } as Shaper) : one,
                    ),
                  )
                }
              />
            ))}
          <button
            type="button"
            aria-label={`Remove ${shaperName(shaper)}`}
            className="text-soft hover:text-removed cursor-pointer"
            onClick={() => set(rule.shapers.filter((_, j) => j !== i))}
          >
            ×
          </button>
        </span>
      ))}
      <Select
        aria-label="Add a shaper"
        value=""
        onChange={(e) => {
          const kind = KINDS.find((one) => one === e.target.value);
          if (kind) set([...rule.shapers, freshShaper(kind, columns)]);
        }}
      >
        <option value="">add…</option>
        {KINDS.map((kind) => (
          <option key={kind} value={kind}>
            {SHAPERS[kind].label}
          </option>
        ))}
      </Select>
    </div>
  );
}

/** A word for those a crosswalk does not know is asked for only where it is used. */
function asked(shaper: Shaper, setting: Setting): boolean {
  return shaper.kind !== 'crosswalk' || setting.name !== 'text' || shaper.otherwise === 'DEFAULT';
}

function SettingField({
  setting,
  value,
  columns,
  onChange,
}: {
  setting: Setting;
  value: unknown;
  columns: Column[];
  onChange: (value: unknown) => void;
}) {
  switch (setting.as) {
    case 'flag':
      return (
        <label className="flex items-center gap-1">
          <input type="checkbox" checked={value === true} onChange={(e) => onChange(e.target.checked)} />
          {setting.label}
        </label>
      );
    case 'number':
      return (
        <label className="flex items-center gap-1">
          <input
            type="number"
            className={`${SMALL} w-[54px]`}
            value={Number(value)}
            onChange={(e) => onChange(Number(e.target.value))}
          />
          {setting.label}
        </label>
      );
    case 'text':
      return (
        <input
          aria-label={setting.label}
          title={setting.label}
          placeholder={setting.hint}
          className={SMALL}
          style={{ width: `${Math.max(4, String(value).length + 2)}ch` }}
          value={String(value)}
          onChange={(e) => onChange(e.target.value)}
        />
      );
    case 'words':
      return (
        <label className="flex items-center gap-1">
          {setting.label}
          <input
            className={`${SMALL} w-[110px]`}
            value={(value as string[]).join(', ')}
            onChange={(e) =>
              onChange(
                e.target.value
                  .split(',')
                  .map((word) => word.trimStart())
                  .filter((word, i, all) => word !== '' || i === all.length - 1),
              )
            }
          />
        </label>
      );
    case 'column':
      return (
        <select
          aria-label={setting.label}
          className="bg-sunk rounded"
          value={String(value)}
          onChange={(e) => onChange(e.target.value)}
        >
          <option value="">{setting.none}</option>
          {columns.map((column) => (
            <option key={column.name} value={column.name}>
              or {column.name}
            </option>
          ))}
        </select>
      );
    case 'choice':
      return (
        <select
          aria-label={setting.label}
          className="bg-sunk rounded"
          value={String(value)}
          onChange={(e) => onChange(e.target.value)}
        >
          {Object.entries(setting.options).map(([key, word]) => (
            <option key={key} value={key}>
              {word}
            </option>
          ))}
        </select>
      );
    case 'crosswalk':
      return <CrosswalkChoice label={setting.label} value={Number(value)} onChange={onChange} />;
    case 'key':
      return <KeyChoice label={setting.label} value={String(value)} onChange={onChange} />;
    default: {
      const never: never = setting;
      return never;
    }
  }
}

function CrosswalkChoice({
  label,
  value,
  onChange,
}: {
  label: string;
  value: number;
  onChange: (value: number) => void;
}) {
  const tables = useQuery({ queryKey: ['crosswalks'], queryFn: () => ok(api.GET('/api/crosswalks')) });
  return (
    <select
      aria-label={label}
      className="bg-sunk rounded"
      value={value}
      onChange={(e) => onChange(Number(e.target.value))}
    >
      <option value={0}>choose a table…</option>
      {(tables.data ?? []).map((table) => (
        <option key={table.id} value={table.id}>
          {table.name}
        </option>
      ))}
    </select>
  );
}

function KeyChoice({
  label,
  value,
  onChange,
}: {
  label: string;
  value: string;
  onChange: (value: string) => void;
}) {
  const keys = useQuery({ queryKey: ['hash-keys'], queryFn: () => ok(api.GET('/api/hash-keys')) });
  return (
    <select
      aria-label={label}
      className="bg-sunk rounded"
      value={value}
      onChange={(e) => onChange(e.target.value)}
    >
      <option value="">choose a key…</option>
      {(keys.data ?? []).map((key) => (
        <option key={key.name}>{key.name}</option>
      ))}
    </select>
  );
}
