import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { Link, useParams } from 'react-router';
import { api, ok } from '../../api/client';
import type { FileSet, LandedFile } from '../../api/types';
import { ArchiveButton } from '../../components/ArchiveButton';
import { count, counted } from '../../components/format';
import { Loaded } from '../../components/Loaded';
import { Ago, At } from '../../components/Moment';
import { Card, Failure, Page, Pill, Skeleton, TD, TH } from '../../components/ui';
import { Act, ActLink } from '../session/Editors';
import { bytes, queryOf } from '../landing/names';
import { AFTER, formatWords, severalWords, STATES } from './words';

/** The files of a set: which were read, what of them is held, and what they become. */
export function FileSetPage() {
  const { id = '' } = useParams();
  const set = useQuery({
    queryKey: ['file-set', id],
    queryFn: () => ok(api.GET('/api/file-sets/{id}', { params: { path: { id: Number(id) } } })),
    refetchInterval: 15_000,
  });
  return (
    <Loaded title="File set" query={set}>
      {(found) => <Files set={found} />}
    </Loaded>
  );
}

function Files({ set }: { set: FileSet }) {
  const client = useQueryClient();
  const path = { id: set.id };
  const renew = () => {
    for (const queryKey of [['file-set', String(set.id)], ['file-sets'], ['landed-files', set.id]]) {
      void client.invalidateQueries({ queryKey });
    }
  };
  const pause = useMutation({
    mutationFn: () =>
      set.paused
        ? ok(api.POST('/api/file-sets/{id}/resume', { params: { path } }))
        : ok(api.POST('/api/file-sets/{id}/pause', { params: { path } })),
    onSuccess: renew,
  });
  const begin = useMutation({
    mutationFn: () => ok(api.POST('/api/file-sets/{id}/readings', { params: { path } })),
  });
  const job = begin.data?.id;
  const reading = useQuery({
    queryKey: ['file-set-reading', job],
    queryFn: () => ok(api.GET('/api/file-sets/readings/{job}', { params: { path: { job: job as number } } })),
    enabled: job !== undefined,
    refetchInterval: (query) => (query.state.data?.state === 'UNDER_WAY' ? 700 : false),
  });
  const state = reading.data?.state;
  const underWay = begin.isPending || (job !== undefined && (state === undefined || state === 'UNDER_WAY'));
  useEffect(() => {
    if (state && state !== 'UNDER_WAY') renew();
    // eslint-disable-next-line react-hooks/exhaustive-deps -- once for each reading that ended
  }, [state, job]);
  const result = reading.data?.result;
  const sql = queryOf(
    set.table,
    set.definition.columns.map((one) => one.name),
  );
  return (
    <Page
      title={set.name}
      of={`file set of ${set.source}`}
      note={
        <>
          {set.lookedAt ? (
            <>
              Looked for files <Ago at={set.lookedAt} />
            </>
          ) : (
            'Not looked for files yet'
          )}
          {set.paused ? '; paused' : '; looks every minute'}
        </>
      }
      actions={
        <>
          <ArchiveButton
            kind="file set"
            name={set.name}
            consequence="Its files are not read any more and stay where they are."
            to={`/sources/${set.sourceId}`}
            archive={() => ok(api.DELETE('/api/file-sets/{id}', { params: { path } }))}
          />
          <Act onClick={() => pause.mutate()}>{set.paused ? 'Resume' : 'Pause'}</Act>
          <ActLink to={`/sources/${set.sourceId}/file-sets/${set.id}/edit`}>Edit file set</ActLink>
          <Act kind="primary" disabled={underWay} onClick={() => begin.mutate()}>
            {underWay ? 'Reading' : 'Read files'}
          </Act>
        </>
      }
    >
      <Failure error={begin.error ?? pause.error} />
      {set.problem && <Failure error={new Error(set.problem)} />}
      <p role="status" className="text-soft m-0 mb-2 empty:hidden">
        {underWay
          ? (reading.data?.doing ?? 'Looking for files')
          : state === 'DONE' && result
            ? `${counted(result.read, 'file')} read, ${count(result.unchanged)} unchanged${
                result.waiting ? `, ${count(result.waiting)} waiting` : ''
              }${result.failed ? `, ${count(result.failed)} failed` : ''}.`
            : ''}
      </p>
      {set.reading && (
        <p className="rounded-button border-hairline bg-sunk m-0 mb-3 border px-3 py-2">
          The file set was changed. Its files are read again; until they all are, the table shows the rows as
          they were before.
        </p>
      )}
      <div className="grid grid-cols-1 items-start gap-4 lg:grid-cols-[300px_minmax(0,1fr)]">
        <Card title="What it reads" className="pb-3">
          <dl className="m-0 grid grid-cols-[auto_1fr] gap-x-3 gap-y-1.5 px-4 pt-1">
            <dt className="text-soft">Files</dt>
            <dd className="m-0 font-mono break-all">{set.definition.pattern}</dd>
            <dt className="text-soft">Form</dt>
            <dd className="m-0">{formatWords(set.definition.format)}</dd>
            <dt className="text-soft">Several</dt>
            <dd className="m-0">{severalWords(set.definition.several)}</dd>
            <dt className="text-soft">After</dt>
            <dd className="m-0">{AFTER.find((one) => one.value === set.definition.afterReading)?.title}</dd>
            <dt className="text-soft">Rows kept</dt>
            <dd className="m-0">
              {set.definition.keepDays === 0 ? 'for good' : counted(set.definition.keepDays, 'day')}
            </dd>
            <dt className="text-soft">Table</dt>
            <dd className="m-0 font-mono break-all">landed.{set.table}</dd>
          </dl>
          <div className="px-4 pt-3">
            <ActLink
              to={`/datasets/new?source=${set.sourceId}&name=${encodeURIComponent(set.name)}&sql=${encodeURIComponent(sql)}`}
            >
              New dataset
            </ActLink>
          </div>
        </Card>
        <FileLog set={set} />
      </div>
    </Page>
  );
}

function FileLog({ set }: { set: FileSet }) {
  const files = useQuery({
    queryKey: ['landed-files', set.id],
    queryFn: () => ok(api.GET('/api/file-sets/{id}/files', { params: { path: { id: set.id } } })),
    refetchInterval: 15_000,
  });
  const [open, setOpen] = useState<number>();
  return (
    <Card
      title="Files"
      aside={
        <>
          {counted(set.counts.read, 'file')} read
          {set.counts.heldRows > 0 && <>, {counted(set.counts.heldRows, 'row')} held</>}
        </>
      }
    >
      <Failure error={files.error} />
      {!files.data ? (
        !files.error && <Skeleton rows={3} />
      ) : files.data.length === 0 ? (
        <p className="text-soft m-0 px-4 pt-1 pb-4">
          No file was found yet. Files that match {set.definition.pattern} are read within a minute of being
          complete.
        </p>
      ) : (
        <table className="w-full border-collapse">
          <thead>
            <tr>
              <th className={TH}>File</th>
              <th className={TH}>State</th>
              <th className={`${TH} text-right`}>Rows</th>
              <th className={`${TH} text-right`}>Held</th>
              <th className={TH}>Changed</th>
              <th className={TH}>Read</th>
            </tr>
          </thead>
          <tbody>
            {files.data.map((file) => (
              <FileRow
                key={file.id}
                set={set}
                file={file}
                open={open === file.id}
                onOpen={() => setOpen(open === file.id ? undefined : file.id)}
              />
            ))}
          </tbody>
        </table>
      )}
    </Card>
  );
}

function FileRow({
  set,
  file,
  open,
  onOpen,
}: {
  set: FileSet;
  file: LandedFile;
  open: boolean;
  onOpen: () => void;
}) {
  const state = STATES[file.state];
  return (
    <>
      <tr>
        <td className={TD}>
          <span className="font-mono break-all">{file.path}</span>{' '}
          <span className="text-soft whitespace-nowrap">{bytes(file.size)}</span>
          {file.problem && (
            <div className={file.state === 'FAILED' ? 'text-removed' : 'text-soft'}>{file.problem}</div>
          )}
        </td>
        <td className={TD}>
          <Pill tone={state.tone}>{state.title}</Pill>
        </td>
        <td className={`${TD} text-right font-mono`}>{count(file.rows)}</td>
        <td className={`${TD} text-right font-mono`}>
          {file.held > 0 ? (
            <button
              type="button"
              className="text-held cursor-pointer font-medium underline-offset-2 hover:underline"
              aria-expanded={open}
              aria-label={`${counted(file.held, 'held row')} of ${file.path}`}
              onClick={onOpen}
            >
              ‖ {count(file.held)}
            </button>
          ) : (
            count(0)
          )}
        </td>
        <td className={TD}>
          <At at={file.modifiedAt} />
        </td>
        <td className={TD}>{file.readAt ? <Ago at={file.readAt} /> : '–'}</td>
      </tr>
      {open && (
        <tr>
          <td colSpan={6} className="border-hairline bg-sunk border-b px-3 py-2">
            <HeldRows set={set} file={file} />
          </td>
        </tr>
      )}
    </>
  );
}

function HeldRows({ set, file }: { set: FileSet; file: LandedFile }) {
  const held = useQuery({
    queryKey: ['landed-files', set.id, file.id, 'held'],
    queryFn: () =>
      ok(
        api.GET('/api/file-sets/{id}/files/{file}/held', {
          params: { path: { id: set.id, file: file.id } },
        }),
      ),
  });
  if (held.error) return <Failure error={held.error} />;
  if (!held.data) return <Skeleton rows={1} />;
  return (
    <>
      <p className="text-soft m-0 pb-2">
        These rows do not fit. Correct the file, or{' '}
        <Link to={`/sources/${set.sourceId}/file-sets/${set.id}/edit?file=${encodeURIComponent(file.path)}`}>
          edit the file set
        </Link>
        ; both read it again.
        {held.data.length < file.held &&
          ` The first ${count(held.data.length)} of ${count(file.held)} are shown.`}
      </p>
      <table className="w-full border-collapse">
        <thead>
          <tr>
            <th className={`${TH} text-right`}>Line</th>
            <th className={TH}>Why it does not fit</th>
            <th className={TH}>As it stands in the file</th>
          </tr>
        </thead>
        <tbody>
          {held.data.map((row) => (
            <tr key={row.line}>
              <td className={`${TD} text-right font-mono`}>{count(row.line)}</td>
              <td className={TD}>{row.problem}</td>
              <td className={`${TD} font-mono break-all`}>{row.content.slice(0, 500)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  );
}
