import { LabelledList } from '../labels/LabelledList';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { api, ok } from '../../api/client';
import type { Dataset } from '../../api/types';
import { count } from '../../components/format';
import { type ListColumn } from '../../components/ListTable';
import { Crosswalks } from '../crosswalks/Crosswalks';
import { Ago } from '../../components/Moment';
import { Empty, Failure, Page, Pill, Skeleton } from '../../components/ui';
import { ActLink } from '../session/Editors';

const COLUMNS: ListColumn<Dataset>[] = [
  {
    id: 'name',
    title: 'Name',
    by: (dataset) => dataset.name,
    cell: (dataset) => (
      <>
        <Link to={`/datasets/${dataset.id}`} className="text-ink font-semibold">
          {dataset.name}
        </Link>
        <div className="text-soft">{dataset.description}</div>
      </>
    ),
  },
  { id: 'source', title: 'Source', by: (dataset) => dataset.source, cell: (dataset) => dataset.source },
  { id: 'key', title: 'Key', by: key, cell: key, className: 'font-mono' },
  {
    id: 'rows',
    title: 'Rows',
    right: true,
    by: (dataset) => dataset.freshness?.rows,
    cell: (dataset) => (dataset.freshness ? count(dataset.freshness.rows) : '–'),
  },
  {
    id: 'newest',
    title: 'Newest row',
    by: (dataset) => dataset.freshness?.newestRow,
    cell: (dataset) => (
      <>
        {dataset.freshness?.newestRow ? <Ago at={dataset.freshness.newestRow} /> : '–'}
        {dataset.freshness && (
          <div className="text-soft">
            seen <Ago at={dataset.freshness.seenAt} />
          </div>
        )}
      </>
    ),
  },
  {
    id: 'version',
    title: 'Version',
    by: (dataset) => dataset.liveVersion,
    cell: (dataset) => (
      <>
        {dataset.liveVersion ? (
          <Pill tone="good">{`${dataset.liveVersion} in service`}</Pill>
        ) : (
          <Pill tone="warn">not in service</Pill>
        )}
        {dataset.latestVersion !== dataset.liveVersion && (
          <div className="text-soft">{dataset.latestVersion} saved</div>
        )}
      </>
    ),
  },
  {
    id: 'routes',
    title: 'Routes',
    right: true,
    by: (dataset) => dataset.routes,
    cell: (dataset) => dataset.routes,
  },
];

function key(dataset: Dataset): string {
  return dataset.definition.columns
    .filter((column) => column.role === 'KEY')
    .map((column) => column.name)
    .join(', ');
}

export function DatasetsPage() {
  const { data, error } = useQuery({ queryKey: ['datasets'], queryFn: () => ok(api.GET('/api/datasets')) });
  const add = (
    <ActLink to="/datasets/new" kind="primary">
      New dataset
    </ActLink>
  );
  return (
    <Page
      title="Datasets"
      note="Sets of records with typed columns and a key, each from one source."
      actions={add}
    >
      <Failure error={error} />
      {!data ? (
        <Skeleton />
      ) : data.length === 0 ? (
        <Empty action={add}>
          A dataset defines which records can be sent: a query on a source, its columns and their roles, and
          the key that identifies a record.
        </Empty>
      ) : (
        <LabelledList
          kind="DATASET"
          main
          of={['dataset', 'datasets']}
          rows={data}
          id={(dataset) => dataset.id}
          name={(dataset) => dataset.name}
          words={(dataset) =>
            `${dataset.name} ${dataset.description} ${dataset.source} ${dataset.definition.columns.map((column) => column.name).join(' ')}`
          }
          columns={COLUMNS}
        />
      )}
      {data && <Crosswalks />}
    </Page>
  );
}
