import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { api, ok } from '../../api/client';
import { Ago } from '../../components/Moment';
import { Card, Empty, Failure, Page, Pill, Skeleton, TD, TH } from '../../components/ui';
import { ActLink } from '../session/Editors';

export function SourcesPage() {
  const { data, error } = useQuery({ queryKey: ['sources'], queryFn: () => ok(api.GET('/api/sources')) });
  return (
    <Page
      title="Sources"
      note="Connections data is read from. Reading never writes."
      actions={
        <ActLink to="/sources/new" kind="primary">
          Connect a source
        </ActLink>
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
        <Card>
          <table className="w-full border-collapse">
            <thead>
              <tr>
                <th className={TH}>Name</th>
                <th className={TH}>Kind</th>
                <th className={TH}>Address</th>
                <th className={TH}>Tables readable</th>
                <th className={TH}>Last test</th>
              </tr>
            </thead>
            <tbody>
              {data.map((source) => (
                <tr key={source.id}>
                  <td className={TD}>
                    <Link to={`/sources/${source.id}`} className="text-ink font-semibold">
                      {source.name}
                    </Link>
                  </td>
                  <td className={TD}>{source.kind}</td>
                  <td className={`${TD} font-mono`}>
                    {source.address.user}@{source.address.host}:{source.address.port}/
                    {source.address.database}
                  </td>
                  <td className={TD}>
                    {source.report?.schemas
                      .flatMap((schema) => schema.tables)
                      .filter((table) => table.readable).length ?? '–'}
                  </td>
                  <td className={TD}>
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
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </Card>
      )}
    </Page>
  );
}
