import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { api, ok } from '../../api/client';
import type { Source } from '../../api/types';
import { count, counted } from '../../components/format';
import { Ago, At } from '../../components/Moment';
import { Card, Failure, Pill, Skeleton, TD, TH } from '../../components/ui';
import { ActLink, Editors } from '../session/Editors';
import { Grants } from '../sources/Reach';
import { Uploads } from './Uploads';
import { bytes } from '../landing/names';
import { severalWords } from './words';

/** What is read of a source of files. */
export function FilesOfSource({ source }: { source: Source }) {
  const sets = useQuery({ queryKey: ['file-sets'], queryFn: () => ok(api.GET('/api/file-sets')) });
  const here = sets.data?.filter((one) => one.sourceId === source.id);
  return (
    <>
      {source.address.kind === 'upload' && <Uploads source={source} />}
      <Card
        title="File sets"
        aside={<ActLink to={`/sources/${source.id}/file-sets/new`}>New file set</ActLink>}
      >
        <Failure error={sets.error} />
        {!here ? (
          !sets.error && <Skeleton rows={2} />
        ) : here.length === 0 ? (
          <p className="text-soft m-0 max-w-[65ch] px-4 pt-1 pb-4">
            A file set is a number of files of the same form, such as one berth list a day. Its rows become a
            table that datasets are made from.
          </p>
        ) : (
          <table className="w-full border-collapse">
            <thead>
              <tr>
                <th className={TH}>File set</th>
                <th className={TH}>Files</th>
                <th className={TH}>Several files</th>
                <th className={`${TH} text-right`}>Held rows</th>
                <th className={TH}>Last file read</th>
              </tr>
            </thead>
            <tbody>
              {here.map((set) => (
                <tr key={set.id}>
                  <td className={TD}>
                    <Link to={`/sources/${source.id}/file-sets/${set.id}`} className="text-ink font-semibold">
                      {set.name}
                    </Link>{' '}
                    {set.paused && <Pill>paused</Pill>}
                    <div className="text-soft font-mono">landed.{set.table}</div>
                  </td>
                  <td className={TD}>
                    <span className="font-mono">{set.definition.pattern}</span>
                    <div className="text-soft">
                      {count(set.counts.read)} read
                      {set.counts.waiting > 0 && `, ${count(set.counts.waiting)} waiting`}{' '}
                      {set.counts.failed > 0 && <Pill tone="bad">{count(set.counts.failed)} failed</Pill>}
                    </div>
                  </td>
                  <td className={TD}>{severalWords(set.definition.several)}</td>
                  <td className={`${TD} text-right font-mono`}>
                    {set.counts.heldRows > 0 ? (
                      <Pill tone="held">‖ {count(set.counts.heldRows)}</Pill>
                    ) : (
                      count(0)
                    )}
                  </td>
                  <td className={TD}>
                    {set.readAt ? <Ago at={set.readAt} /> : <span className="text-soft">never</span>}
                    {set.problem && <div className="text-removed">{set.problem}</div>}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
      </Card>
      <Editors>
        <FilesThere source={source} />
      </Editors>
      {source.report && <Grants title="Commands for a login that only reads" report={source.report} />}
    </>
  );
}

/** The newest files of the source, whatever reads them. */
function FilesThere({ source }: { source: Source }) {
  const there = useQuery({
    queryKey: ['file-matches', source.id, '**'],
    queryFn: () =>
      ok(api.GET('/api/file-sets/matches', { params: { query: { source: source.id, pattern: '**' } } })),
    retry: false,
  });
  return (
    <Card title="Newest files" aside={there.data && `${counted(there.data.count, 'file')} in all`}>
      <div className="px-4">
        <Failure error={there.error} />
      </div>
      {!there.data ? (
        !there.error && <Skeleton rows={2} />
      ) : there.data.count === 0 ? (
        <p className="text-soft m-0 px-4 pt-1 pb-4">This source has no files yet.</p>
      ) : (
        <table className="w-full border-collapse">
          <thead>
            <tr>
              <th className={TH}>File</th>
              <th className={`${TH} text-right`}>Size</th>
              <th className={TH}>Changed</th>
            </tr>
          </thead>
          <tbody>
            {there.data.newest.map((file) => (
              <tr key={file.path}>
                <td className={`${TD} font-mono break-all`}>{file.path}</td>
                <td className={`${TD} text-right font-mono whitespace-nowrap`}>{bytes(file.size)}</td>
                <td className={`${TD} whitespace-nowrap`}>
                  <At at={file.modifiedAt} />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </Card>
  );
}
