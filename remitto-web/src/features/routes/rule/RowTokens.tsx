import type { Column, DatasetLookUp } from '../../../api/types';
import { Input, Select } from '../../../components/ui';
import { ColumnChoice } from './ColumnChoice';

type Only = DatasetLookUp['only'];
type Parts = DatasetLookUp['parts'];
type Pick = NonNullable<DatasetLookUp['pick']>;

const COMPARISONS = { IS: 'is', IS_NOT: 'is not', MORE_THAN: 'is more than', LESS_THAN: 'is less than' };

function Away({ what, onClick }: { what: string; onClick: () => void }) {
  return (
    <button
      type="button"
      aria-label={`Remove this ${what}`}
      className="text-soft hover:text-removed cursor-pointer"
      onClick={onClick}
    >
      ×
    </button>
  );
}

function More({ text, onClick }: { text: string; onClick: () => void }) {
  return (
    <button type="button" className="text-deep cursor-pointer" onClick={onClick}>
      {text}
    </button>
  );
}

/** What rows must meet to be received; all of it. */
export function RowConditions({
  columns,
  only,
  onChange,
}: {
  columns: Column[];
  only: Only;
  onChange: (only: Only) => void;
}) {
  const change = (at: number, changes: Partial<Only[number]>) =>
    onChange(only.map((one, i) => (i === at ? { ...one, ...changes } : one)));
  return (
    <>
      {only.map((condition, i) => (
        <span key={i} className="flex items-center gap-2">
          <span>{i > 0 ? 'and' : 'where'}</span>
          <ColumnChoice
            columns={columns}
            value={condition.column}
            onChange={(column) => change(i, { column })}
          />
          <Select
            aria-label="Comparison"
            value={condition.comparison}
            onChange={(e) => change(i, { comparison: e.target.value as typeof condition.comparison })}
          >
            {Object.entries(COMPARISONS).map(([key, word]) => (
              <option key={key} value={key}>
                {word}
              </option>
            ))}
          </Select>
          <Input
            aria-label="Compared with"
            className="w-[90px] font-mono"
            value={condition.text}
            onChange={(e) => change(i, { text: e.target.value })}
          />
          <Away what="condition" onClick={() => onChange(only.filter((_, j) => j !== i))} />
        </span>
      ))}
      <More
        text="add a condition"
        onClick={() => onChange([...only, { column: '', comparison: 'IS', text: '' }])}
      />
    </>
  );
}

/** Which columns of a row are received, under the names the receiver wants. */
export function RowParts({
  columns,
  parts,
  onChange,
}: {
  columns: Column[];
  parts: Parts;
  onChange: (parts: Parts) => void;
}) {
  const change = (at: number, changes: Partial<Parts[number]>) =>
    onChange(parts.map((one, i) => (i === at ? { ...one, ...changes } : one)));
  return (
    <>
      {parts.map((part, i) => (
        <span key={i} className="flex items-center gap-2">
          <ColumnChoice
            label="Column of the row"
            columns={columns}
            value={part.column}
            onChange={(column) => change(i, { column, name: part.name === part.column ? column : part.name })}
          />
          <span>as</span>
          <Input
            aria-label={`Name for ${part.column || 'the column'}`}
            className="w-[110px] font-mono"
            value={part.name}
            onChange={(e) => change(i, { name: e.target.value })}
          />
          <Away what="column" onClick={() => onChange(parts.filter((_, j) => j !== i))} />
          {i < parts.length - 1 && <span>,</span>}
        </span>
      ))}
      <More text="add a column" onClick={() => onChange([...parts, { column: '', name: '' }])} />
    </>
  );
}

/** Which of many rows come first, how many, and how far back. */
export function RowPick({
  columns,
  pick,
  onChange,
}: {
  columns: Column[];
  pick?: Pick;
  onChange: (pick: Pick) => void;
}) {
  const set = (changes: Partial<Pick>) =>
    onChange({ orderBy: '', newestFirst: true, lookBackDays: 0, most: 0, ...pick, ...changes });
  return (
    <>
      <span>sorted by</span>
      <ColumnChoice
        label="Sorted by"
        columns={columns}
        value={pick?.orderBy ?? ''}
        onChange={(orderBy) => set({ orderBy })}
      />
      {pick && (
        <>
          <label className="flex items-center gap-1">
            <input
              type="checkbox"
              checked={pick.newestFirst}
              onChange={(e) => set({ newestFirst: e.target.checked })}
            />
            descending
          </label>
          <HowMany
            label="at most"
            unit="rows (0 for all)"
            value={pick.most}
            onChange={(most) => set({ most })}
          />
          <HowMany
            label="within"
            unit="days (0 for all)"
            value={pick.lookBackDays}
            onChange={(lookBackDays) => set({ lookBackDays })}
          />
        </>
      )}
    </>
  );
}

function HowMany({
  label,
  unit,
  value,
  onChange,
}: {
  label: string;
  unit: string;
  value: number;
  onChange: (value: number) => void;
}) {
  return (
    <label className="flex items-center gap-1">
      {label}
      <input
        type="number"
        min={0}
        className="bg-card border-hairline w-[64px] rounded border px-1 font-mono"
        value={value}
        onChange={(e) => onChange(Number(e.target.value))}
      />
      {unit}
    </label>
  );
}
