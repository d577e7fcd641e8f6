import { LabelledList } from '../labels/LabelledList';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { api, ok } from '../../api/client';
import type { Source } from '../../api/types';
import { type ListColumn } from '../../components/ListTable';
import { Ago } from '../../components/Moment';
import { ButtonLink, Empty, Failure, Page, Pill, Skeleton } from '../../components/ui';
import { ActLink } from '../session/Editors';
import { addressWords } from './addresses';

const COLUMNS: ListColumn<Source>[] = [
  {
    id: 'name',
    title: 'Name',
    by: (source) => source.name,
    cell: (source) => (
      <Link to={`/sources/${source.id}`} className="text-ink font-semibold">
        {source.name}
      </Link>
    ),
  },
  { id: 'product', title: 'Kind', by: product, cell: product },
  { id: 'address', title: 'Address', by: address, cell: address, className: 'font-mono' },
  {
    id: 'tables',
    title: 'Tables readable',
    right: true,
    by: readable,
    cell: (source) => readable(source) ?? '–',
  },
  {
    id: 'test',
    title: 'Last test',
    by: (source) => source.testedAt,
    cell: (source) => (
      <>
        {source.problem ? (
          <Pill tone="bad">{source.problem}</Pill>
        ) : source.testedAt ? (
          <Pill tone="good">OK</Pill>
        ) : (
          'never'
        )}{' '}
        {source.testedAt && (
          <span className="text-soft">
            <Ago at={source.testedAt} />
          </span>
        )}
      </>
    ),
  },
];

function product(source: Source): string {
  return source.kind === 'people' ? `${source.product}, Remitto's own` : source.product;
}

function address(source: Source): string {
  return addressWords(source.address);
}

function readable(source: Source): number | undefined {
  return source.report?.schemas.flatMap((schema) => schema.tables).filter((table) => table.readable).length;
}

export function SourcesPage() {
  const { data, error } = useQuery({ queryKey: ['sources'], queryFn: () => ok(api.GET('/api/sources')) });
  return (
    <Page
      title="Sources"
      note="Connections data is read from. Reading never writes."
      actions={
        <>
          <ButtonLink to="/sources/arrivals">Arrivals</ButtonLink>
          <ActLink to="/sources/new" kind="primary">
            Connect a source
          </ActLink>
        </>
      }
    >
      <Failure error={error} />
      {!data ? (
        <Skeleton />
      ) : data.length === 0 ? (
        <Empty
          action={
            <ActLink to="/sources/new" kind="primary">
              Connect a source
            </ActLink>
          }
        >
          A source is where your customer data is stored. Connect it first, then define datasets on it.
        </Empty>
      ) : (
        <LabelledList
          kind="SOURCE"
          main
          of={['source', 'sources']}
          rows={data}
          id={(source) => source.id}
          name={(source) => source.name}
          words={(source) => `${source.name} ${product(source)} ${address(source)}`}
          columns={COLUMNS}
        />
      )}
    </Page>
  );
}
