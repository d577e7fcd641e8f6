import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { api, ok } from '../../api/client';
import { count } from '../../components/format';
import { Loaded } from '../../components/Loaded';
import { Ago } from '../../components/Moment';
import { Card, Empty, Page, Pill, TD, TH } from '../../components/ui';
import { derivationWords } from './sentences';
import { ActLink } from '../session/Editors';

/** Values computed for every person, and how they come about. */
export function MeasuresPage() {
  const measures = useQuery({ queryKey: ['measures'], queryFn: () => ok(api.GET('/api/measures')) });
  return (
    <Loaded title="Measures" query={measures}>
      {(found) => (
        <Page
          title="Measures"
          note={
            <>
              Attributes computed from people&apos;s events or from other attributes.{' '}
              <Link className="text-deep underline" to="/audiences">
                Audiences
              </Link>{' '}
              can use them in conditions, and routes can send them.
            </>
          }
          actions={
            <ActLink kind="primary" to="/audiences/measures/new">
              New measure
            </ActLink>
          }
        >
          {found.length === 0 ? (
            <Empty>
              A measure counts, sums or compares what people did: how often in 90 days, how long ago, how much
              in a year. Add events from a dataset first.
            </Empty>
          ) : (
            <Card className="overflow-x-auto">
              <table className="w-full border-collapse">
                <thead>
                  <tr>
                    <th className={TH}>Measure</th>
                    <th className={TH}>Computed as</th>
                    <th className={`${TH} text-right`}>People with a value</th>
                    <th className={TH}>Computed</th>
                    <th className={`${TH} text-right`}>Duration (ms)</th>
                  </tr>
                </thead>
                <tbody>
                  {found.map((one) => (
                    <tr key={one.id}>
                      <td className={TD}>
                        <Link className="text-deep font-mono underline" to={`/audiences/measures/${one.id}`}>
                          {one.name}
                        </Link>{' '}
                        {one.entityType === 'COMPANY' && <Pill>companies</Pill>}
                      </td>
                      <td className={TD}>
                        {derivationWords(one.derivation)}
                        {one.problem !== '' && <span className="text-removed block">{one.problem}</span>}
                      </td>
                      <td className={`${TD} text-right font-mono`}>{count(one.people)}</td>
                      <td className={TD}>{one.refreshedAt ? <Ago at={one.refreshedAt} /> : 'not yet'}</td>
                      <td className={`${TD} text-right font-mono`}>{count(one.millis)}</td>
                    </tr>
                  ))}
                </tbody>
              </table>
            </Card>
          )}
        </Page>
      )}
    </Loaded>
  );
}
