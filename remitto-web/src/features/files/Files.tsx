import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { api, ok } from '../../api/client';
import type { FilesOfDestination } from '../../api/types';
import { count } from '../../components/format';
import { Ago } from '../../components/Moment';
import { Card, TD, TH } from '../../components/ui';
import { freshLayout } from './layout';
import { Drafted } from '../drafts/Drafted';
import { LayoutForm } from './LayoutForm';
import { Act, Editable } from '../session/Editors';

/** The files a destination takes, how they are laid out, and those that were delivered. */
export function Files({ id }: { id: number }) {
  const [chosen, setChosen] = useState('');
  const files = useQuery({
    queryKey: ['files', id],
    queryFn: () => ok(api.GET('/api/destinations/{id}/files', { params: { path: { id } } })),
  });
  if (!files.data?.takesFiles) return null;
  const laidOut = files.data.layouts;
  const open =
    laidOut.find((one) => one.layout.name === chosen) ?? (chosen === 'new' ? undefined : laidOut[0]);
  return (
    <>
      <Card title="Files the destination accepts">
        <div className="flex flex-wrap items-center gap-1 px-3 pb-2" role="group" aria-label="Files">
          {laidOut.map((one) => (
            <button
              key={one.layout.name}
              type="button"
              aria-pressed={one === open}
              className={`rounded-button cursor-pointer px-2.5 py-1 ${one === open ? 'bg-board text-board-ink font-semibold' : 'hover:bg-sunk'}`}
              onClick={() => setChosen(one.layout.name)}
            >
              {one.layout.name}
            </button>
          ))}
          {laidOut.length > 0 && <Act onClick={() => setChosen('new')}>New file</Act>}
        </div>
        <Editable>
          <Drafted
            key={open?.layout.name ?? 'new'}
            place={{ kind: 'FILE_LAYOUT', subject: `${id}.${open?.layout.name ?? 'new'}` }}
          >
            {(draft) => (
              <LayoutForm
                id={id}
                saved={open?.layout}
                draft={draft}
                routes={open?.routes ?? []}
                fresh={freshLayout('')}
                onSaved={setChosen}
              />
            )}
          </Drafted>
        </Editable>
      </Card>
      <Delivered files={files.data} />
    </>
  );
}

function Delivered({ files }: { files: FilesOfDestination }) {
  return (
    <Card title="Delivered" aside="the latest 20">
      {files.delivered.length === 0 ? (
        <p className="text-soft m-0 px-4 pb-3">None yet. Each run of a route delivers one file.</p>
      ) : (
        <table className="w-full border-collapse">
          <thead>
            <tr>
              <th className={TH}>File</th>
              <th className={`${TH} text-right`}>Rows</th>
              <th className={`${TH} text-right`}>Bytes</th>
              <th className={TH}>Manifest</th>
              <th className={TH}>When</th>
            </tr>
          </thead>
          <tbody>
            {files.delivered.map((one) => (
              <tr key={`${one.runId} ${one.path}`}>
                <td className={`${TD} font-mono [overflow-wrap:anywhere]`} title={`SHA-256 ${one.sha256}`}>
                  {one.path}
                </td>
                <td className={`${TD} text-right font-mono`}>{count(one.rows)}</td>
                <td className={`${TD} text-right font-mono`}>{count(one.bytes)}</td>
                <td className={TD}>
                  <Link to={`/manifests/${one.runId}`} className="text-deep underline">
                    {one.route}, {one.runId}
                  </Link>
                </td>
                <td className={TD}>
                  <Ago at={one.deliveredAt} />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </Card>
  );
}
