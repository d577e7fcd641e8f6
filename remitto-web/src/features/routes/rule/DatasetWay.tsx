import { useQuery } from '@tanstack/react-query';
import { api, ok } from '../../../api/client';
import type { Column, Dataset, Receives } from '../../../api/types';
import { Input, Select } from '../../../components/ui';
import { ColumnChoice, IF_MANY } from './Received';

type FromDataset = Extract<Receives, { kind: 'dataset' }>;
type Way = FromDataset['where'];

const COMPARISONS = { IS: 'is', IS_NOT: 'is not', MORE_THAN: 'is more than', LESS_THAN: 'is less than' };
const MOST_STEPS = 4;

/** A way through other datasets to a value, as a sentence. */
export function DatasetWay({
  receives,
  columns,
  onChange,
}: {
  receives: FromDataset;
  columns: Column[];
  onChange: (receives: Receives) => void;
}) {
  const datasets = useQuery({ queryKey: ['datasets'], queryFn: () => ok(api.GET('/api/datasets')) });
  const way = receives.where;
  const set = (changes: Partial<Way>) => onChange({ ...receives, where: { ...way, ...changes } });
  const columnsOf = (id: number) =>
    datasets.data?.find((dataset) => dataset.id === id)?.definition.columns ?? [];
  const last = way.hops[way.hops.length - 1]?.dataset ?? way.dataset;
  return (
    <div className="flex flex-wrap items-center gap-2">
      <span>the row of</span>
      <DatasetChoice
        datasets={datasets.data ?? []}
        value={way.dataset}
        onChange={(dataset) => set({ dataset, by: '', hops: [], give: '', only: [], pick: undefined })}
      />
      <span>whose</span>
      <ColumnChoice columns={columnsOf(way.dataset)} value={way.by} onChange={(by) => set({ by })} />
      <span>is</span>
      <ColumnChoice
        columns={columns}
        value={receives.column}
        onChange={(column) => onChange({ ...receives, column })}
      />
      {way.hops.map((hop, i) => {
        const change = (changes: Partial<typeof hop>) =>
          set({ hops: way.hops.map((one, j) => (j === i ? { ...one, ...changes } : one)) });
        return (
          <span key={i} className="flex flex-wrap items-center gap-2">
            <span>, then of</span>
            <DatasetChoice
              datasets={datasets.data ?? []}
              value={hop.dataset}
              onChange={(dataset) => change({ dataset, by: '' })}
            />
            <span>whose</span>
            <ColumnChoice columns={columnsOf(hop.dataset)} value={hop.by} onChange={(by) => change({ by })} />
            <span>is its</span>
            <ColumnChoice
              columns={columnsOf(way.hops[i - 1]?.dataset ?? way.dataset)}
              value={hop.from}
              onChange={(from) => change({ from })}
            />
            <button
              type="button"
              aria-label="Take this step away"
              className="text-soft hover:text-removed cursor-pointer"
              onClick={() => set({ hops: way.hops.filter((_, j) => j !== i), give: '' })}
            >
              ×
            </button>
          </span>
        );
      })}
      {way.hops.length + 1 < MOST_STEPS && way.dataset !== 0 && (
        <button
          type="button"
          className="text-deep cursor-pointer"
          onClick={() => set({ hops: [...way.hops, { from: '', dataset: 0, by: '' }], give: '' })}
        >
          go a step further
        </button>
      )}
      <span>: its</span>
      <ColumnChoice
        label="Column that is received"
        columns={columnsOf(last)}
        value={way.give}
        onChange={(give) => set({ give })}
      />
      {way.only.map((condition, i) => {
        const change = (changes: Partial<typeof condition>) =>
          set({ only: way.only.map((one, j) => (j === i ? { ...one, ...changes } : one)) });
        return (
          <span key={i} className="flex items-center gap-2">
            <span>where</span>
            <ColumnChoice
              columns={columnsOf(last)}
              value={condition.column}
              onChange={(column) => change({ column })}
            />
            <Select
              aria-label="Comparison"
              value={condition.comparison}
              onChange={(e) => change({ comparison: e.target.value as typeof condition.comparison })}
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
              onChange={(e) => change({ text: e.target.value })}
            />
            <button
              type="button"
              aria-label="Take this condition away"
              className="text-soft hover:text-removed cursor-pointer"
              onClick={() => set({ only: way.only.filter((_, j) => j !== i) })}
            >
              ×
            </button>
          </span>
        );
      })}
      {last !== 0 && (
        <button
          type="button"
          className="text-deep cursor-pointer"
          onClick={() => set({ only: [...way.only, { column: '', comparison: 'IS', text: '' }] })}
        >
          add a condition
        </button>
      )}
      <span>; if many,</span>
      <Select
        aria-label="If many are found"
        value={receives.ifMany}
        onChange={(e) => onChange({ ...receives, ifMany: e.target.value as typeof receives.ifMany })}
      >
        {Object.entries(IF_MANY).map(([key, word]) => (
          <option key={key} value={key}>
            {word}
          </option>
        ))}
      </Select>
      {receives.ifMany !== 'UNUSABLE' && (
        <>
          <span>, sorted by</span>
          <ColumnChoice
            label="Sorted by"
            columns={columnsOf(last)}
            value={way.pick?.orderBy ?? ''}
            onChange={(orderBy) =>
              set({
                pick: {
                  orderBy,
                  newestFirst: way.pick?.newestFirst ?? true,
                  lookBackDays: way.pick?.lookBackDays ?? 0,
                },
              })
            }
          />
          {way.pick && (
            <>
              <label className="flex items-center gap-1">
                <input
                  type="checkbox"
                  checked={way.pick.newestFirst}
                  onChange={(e) => way.pick && set({ pick: { ...way.pick, newestFirst: e.target.checked } })}
                />
                last first
              </label>
              <label className="flex items-center gap-1">
                within
                <input
                  type="number"
                  min={0}
                  className="bg-card border-hairline w-[64px] rounded border px-1 font-mono"
                  value={way.pick.lookBackDays}
                  onChange={(e) =>
                    way.pick && set({ pick: { ...way.pick, lookBackDays: Number(e.target.value) } })
                  }
                />
                days (0: all)
              </label>
            </>
          )}
        </>
      )}
    </div>
  );
}

function DatasetChoice({
  datasets,
  value,
  onChange,
}: {
  datasets: Dataset[];
  value: number;
  onChange: (id: number) => void;
}) {
  return (
    <Select aria-label="Dataset" value={value} onChange={(e) => onChange(Number(e.target.value))}>
      <option value={0}>choose…</option>
      {datasets.map((dataset) => (
        <option key={dataset.id} value={dataset.id}>
          {dataset.name}
        </option>
      ))}
    </Select>
  );
}
