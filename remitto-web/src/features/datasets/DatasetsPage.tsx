import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { api, ok } from '../../api/client';
import { count } from '../../components/format';
import { Crosswalks } from '../crosswalks/Crosswalks';
import { Ago } from '../../components/Moment';
import { Card, Empty, Failure, Page, Pill, Skeleton, TD, TH } from '../../components/ui';
import { ActLink } from '../session/Editors';

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
        <Card>
          <table className="w-full border-collapse">
            <thead>
              <tr>
                <th className={TH}>Name</th>
                <th className={TH}>Source</th>
                <th className={TH}>Key</th>
                <th className={`${TH} text-right`}>Rows</th>
                <th className={TH}>Newest row</th>
                <th className={TH}>Version</th>
                <th className={`${TH} text-right`}>Routes</th>
              </tr>
            </thead>
            <tbody>
              {data.map((dataset) => (
                <tr key={dataset.id}>
                  <td className={TD}>
                    <Link to={`/datasets/${dataset.id}`} className="text-ink font-semibold">
                      {dataset.name}
                    </Link>
                    <div className="text-soft">{dataset.description}</div>
                  </td>
                  <td className={TD}>{dataset.source}</td>
                  <td className={`${TD} font-mono`}>
                    {dataset.definition.columns
                      .filter((column) => column.role === 'KEY')
                      .map((column) => column.name)
                      .join(', ')}
                  </td>
                  <td className={`${TD} text-right font-mono`}>
                    {dataset.freshness ? count(dataset.freshness.rows) : '–'}
                  </td>
                  <td className={TD}>
                    {dataset.freshness?.newestRow ? <Ago at={dataset.freshness.newestRow} /> : '–'}
                    {dataset.freshness && (
                      <div className="text-soft">
                        seen <Ago at={dataset.freshness.seenAt} />
                      </div>
                    )}
                  </td>
                  <td className={TD}>
                    {dataset.liveVersion ? (
                      <Pill tone="good">{`${dataset.liveVersion} in service`}</Pill>
                    ) : (
                      <Pill tone="warn">not in service</Pill>
                    )}
                    {dataset.latestVersion !== dataset.liveVersion && (
                      <div className="text-soft">{dataset.latestVersion} saved</div>
                    )}
                  </td>
                  <td className={`${TD} text-right font-mono`}>{dataset.routes}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </Card>
      )}
      {data && <Crosswalks />}
    </Page>
  );
}
