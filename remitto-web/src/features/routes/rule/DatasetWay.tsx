import { useQuery } from '@tanstack/react-query';
import { api, ok } from '../../../api/client';
import type { Column, Dataset, Receives } from '../../../api/types';
import { Select } from '../../../components/ui';
import { ColumnChoice } from './ColumnChoice';
import { IF_MANY } from './Received';
import { RowConditions, RowParts, RowPick } from './RowTokens';

type FromDataset = Extract<Receives, { kind: 'dataset' }>;
type Way = FromDataset['where'];

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
        onChange={(dataset) =>
          set({ dataset, by: '', hops: [], give: '', parts: [], only: [], pick: undefined })
        }
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
              aria-label="Remove this step"
              className="text-soft hover:text-removed cursor-pointer"
              onClick={() => set({ hops: way.hops.filter((_, j) => j !== i), give: '', parts: [] })}
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
          onClick={() => set({ hops: [...way.hops, { from: '', dataset: 0, by: '' }], give: '', parts: [] })}
        >
          add a step
        </button>
      )}
      <span>: its</span>
      {way.parts.length === 0 ? (
        <>
          <ColumnChoice
            label="Column to use"
            columns={columnsOf(last)}
            value={way.give}
            onChange={(give) => set({ give })}
          />
          <button
            type="button"
            className="text-deep cursor-pointer"
            onClick={() =>
              set({
                give: '',
                parts: [
                  { column: way.give, name: way.give },
                  { column: '', name: '' },
                ],
              })
            }
          >
            several columns
          </button>
        </>
      ) : (
        <RowParts
          columns={columnsOf(last)}
          parts={way.parts}
          onChange={(parts) => set({ parts, give: parts.length === 0 ? (way.parts[0]?.column ?? '') : '' })}
        />
      )}
      {last !== 0 && (
        <RowConditions columns={columnsOf(last)} only={way.only} onChange={(only) => set({ only })} />
      )}
      <span>; if several,</span>
      <Select
        aria-label="If several are found"
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
        <RowPick columns={columnsOf(last)} pick={way.pick} onChange={(pick) => set({ pick })} />
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
