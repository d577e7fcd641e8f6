import { useQuery } from '@tanstack/react-query';
import { api, ok } from '../../api/client';
import type { ColumnOverReads, DatasetReadNote } from '../../api/types';
import { count, counted, exact } from '../../components/format';
import { Ago } from '../../components/Moment';
import { Card, Failure, TD, TH } from '../../components/ui';
import { Bars } from '../../components/Bars';

/** What the columns of a dataset held at the last read, and how that went over the last reads. */
export function ColumnProfilesCard({ datasetId }: { datasetId: number }) {
  const profiles = useQuery({
    queryKey: ['column-profiles', datasetId],
    queryFn: () => ok(api.GET('/api/datasets/{id}/column-profiles', { params: { path: { id: datasetId } } })),
  });
  if (profiles.error) return <Failure error={profiles.error} />;
  const found = profiles.data;
  const last = found?.reads.at(-1);
  if (!found || !last)
    return (
      <Card className="mt-3" title="Column profiles">
        <p className="text-soft m-0 px-4 pb-3">
          No profile yet. Columns are profiled when the dataset is read in full: by a route, by matching, or
          by a check.
        </p>
      </Card>
    );
  return (
    <Card
      className="mt-3"
      title="Column profiles"
      aside={
        <span>
          {counted(last.rows, 'row')}, read <Ago at={last.at} /> by {reader(last)}
        </span>
      }
    >
      {found.reads.length > 1 && <RowsOverReads reads={found.reads} />}
      <div className="max-h-[520px] overflow-auto" tabIndex={0} role="region" aria-label="Column profiles">
        <table className="w-full border-collapse">
          <thead className="bg-card sticky top-0">
            <tr>
              <th className={TH}>Column</th>
              <th className={`${TH} text-right`}>Empty</th>
              <th className={TH}>Empty, over reads</th>
              <th className={`${TH} text-right`}>Distinct</th>
              <th className={TH}>Range</th>
              <th className={TH}>Values</th>
            </tr>
          </thead>
          <tbody>
            {found.columns.map((column) => (
              <ColumnRow key={column.name} column={column} rows={last.rows} reads={found.reads} />
            ))}
          </tbody>
        </table>
      </div>
    </Card>
  );
}

function reader(read: DatasetReadNote): string {
  switch (read.readFor.reader) {
    case 'ROUTE':
      return `route ${read.readFor.name}`;
    case 'MATCHING':
      return 'matching';
    default:
      return 'a check';
  }
}

/** Shares below a tenth of a percent are not rounded to nothing. */
export function share(part: number, whole: number): string {
  if (part === 0 || whole === 0) return '0 %';
  const percent = (part / whole) * 100;
  if (percent < 0.1) return '< 0.1 %';
  return `${percent > 99.9 && part < whole ? '> 99.9' : percent.toFixed(percent < 10 ? 1 : 0)} %`;
}

function RowsOverReads({ reads }: { reads: DatasetReadNote[] }) {
  return (
    <div className="flex items-end gap-3 px-4 pb-2">
      <Bars
        label={`Rows over the last ${reads.length} reads`}
        bars={reads.map((one) => ({
          value: one.rows,
          title: `${counted(one.rows, 'row')}, ${exact(one.at)}${one.broken > 0 ? `, ${counted(one.broken, 'expectation')} not met` : ''}`,
          bad: one.broken > 0,
        }))}
      />
      <span className="text-soft">
        Rows over the last {reads.length} reads. Scale from 0 to{' '}
        {count(Math.max(...reads.map((one) => one.rows)))}.
        {reads.some((one) => one.broken > 0) && ' Red: an expectation was not met.'}
      </span>
    </div>
  );
}

function ColumnRow({
  column,
  rows,
  reads,
}: {
  column: ColumnOverReads;
  rows: number;
  reads: DatasetReadNote[];
}) {
  return (
    <tr>
      <th scope="row" className={`${TD} text-left font-normal whitespace-nowrap`}>
        <span className="font-mono">{column.name}</span>{' '}
        <span className="text-soft">{column.type.toLowerCase()}</span>
        {column.unreadable > 0 && (
          <div className="text-removed">{counted(column.unreadable, 'unreadable cell')}</div>
        )}
      </th>
      <td className={`${TD} text-right font-mono whitespace-nowrap`} title={counted(column.empty, 'row')}>
        {share(column.empty, rows)}
      </td>
      <td className={TD}>
        <Bars
          label={`Empty share of ${column.name} over the last ${reads.length} reads`}
          most={1}
          bars={column.emptyShares.map((one, i) => ({
            value: one ?? 0,
            title:
              one === undefined || one === null
                ? 'The column was not in this read'
                : `${share(one, 1)} empty, ${exact(reads[i]?.at ?? '')}`,
          }))}
        />
      </td>
      <td className={`${TD} text-right font-mono whitespace-nowrap`}>
        {column.distinctExact ? '' : '≈ '}
        {count(column.distinct)}
      </td>
      <td className={`${TD} whitespace-nowrap`}>
        <Range column={column} />
      </td>
      <td className={`${TD} max-w-[320px]`}>
        <Values column={column} rows={rows} />
      </td>
    </tr>
  );
}

function Range({ column }: { column: ColumnOverReads }) {
  if (column.least !== undefined)
    return (
      <span className="font-mono">
        {column.least} – {column.greatest}
      </span>
    );
  if (column.shortest !== undefined)
    return (
      <span>
        {column.shortest === column.longest
          ? counted(column.shortest, 'character')
          : `${column.shortest} – ${counted(column.longest ?? 0, 'character')}`}
      </span>
    );
  return <span className="text-soft">not kept</span>;
}

function Values({ column, rows }: { column: ColumnOverReads; rows: number }) {
  const most = column.commonest.slice(0, 3);
  return (
    <div className="flex items-center gap-3">
      {column.histogram.length > 1 && (
        <Bars
          label={`Distribution of ${column.name}`}
          bars={column.histogram.map((bin) => ({
            value: bin.rows,
            title: `${bin.from} – ${bin.to}: ${counted(bin.rows, 'row')}`,
          }))}
        />
      )}
      {column.histogram.length <= 1 && most.length > 0 && (
        <span className="break-words">
          {most.map((one, i) => (
            <span key={one.text}>
              {i > 0 && ', '}
              <span className="font-mono">{one.text}</span>{' '}
              <span className="text-soft">
                {column.commonestExact ? '' : '≈ '}
                {share(one.rows, rows)}
              </span>
            </span>
          ))}
          {column.distinct > most.length && <span className="text-soft"> and others</span>}
        </span>
      )}
      {column.histogram.length <= 1 && most.length === 0 && (
        <span className="text-soft">
          {column.valuesKept
            ? 'no value is in 10 rows or more'
            : 'not kept for keys, identifiers and sensitive columns'}
        </span>
      )}
    </div>
  );
}
