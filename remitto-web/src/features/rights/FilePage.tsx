import { useQuery } from '@tanstack/react-query';
import { Link, useParams } from 'react-router';
import { api, ok } from '../../api/client';
import { counted, moment } from '../../components/format';
import { Loaded } from '../../components/Loaded';
import { Card, Page, TD, TH } from '../../components/ui';
import { useMay } from '../session/useSession';
import { at } from '../../components/base';

/** All that is kept of a person and was sent, why, and on what basis. */
export function FilePage() {
  const mayDownload = useMay('DOWNLOAD_PERSONAL_VALUES');
  const { id = '' } = useParams();
  const file = useQuery({
    queryKey: ['person-file', id],
    queryFn: () => ok(api.GET('/api/people/{id}/file', { params: { path: { id: Number(id) } } })),
    staleTime: Infinity,
  });
  return (
    <Loaded title="File of a person" query={file}>
      {(found) => (
        <Page
          title="File"
          of={`person ${found.personId}`}
          note={
            <>
              Everything kept and sent, prepared {moment(found.preparedAt)}. This view is recorded in the
              journal.{' '}
              <Link to={`/people/${found.personId}`} className="text-deep underline">
                The person
              </Link>
              .
            </>
          }
          actions={
            mayDownload && (
              <a
                className="rounded-button border-hairline bg-card inline-block border px-3 py-1.5 font-semibold no-underline"
                href={at(`/api/people/${found.personId}/file.json`)}
                download
              >
                Download
              </a>
            )
          }
        >
          <div className="flex flex-col gap-3">
            {found.tables.map((table) => (
              <Card
                key={table.title}
                title={table.title}
                aside={table.rows.length === 0 ? 'nothing' : counted(table.rows.length, 'entry', 'entries')}
                className="overflow-x-auto"
              >
                <p className="text-soft m-0 px-4 pb-2">{table.why}</p>
                {table.rows.length > 0 && (
                  <table className="w-full border-collapse">
                    <thead>
                      <tr>
                        {table.columns.map((column) => (
                          <th key={column} className={TH}>
                            {column}
                          </th>
                        ))}
                      </tr>
                    </thead>
                    <tbody>
                      {table.rows.map((row, at) => (
                        <tr key={at}>
                          {row.map((cell, place) => (
                            <td key={table.columns[place]} className={`${TD} [overflow-wrap:anywhere]`}>
                              {cell}
                            </td>
                          ))}
                        </tr>
                      ))}
                    </tbody>
                  </table>
                )}
              </Card>
            ))}
          </div>
        </Page>
      )}
    </Loaded>
  );
}
