import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Dialog } from 'radix-ui';
import { useState } from 'react';
import { Link } from 'react-router';
import { api, ok } from '../../api/client';
import type { Column, Route, TrialResult } from '../../api/types';
import { counted } from '../../components/format';
import { Button, Failure, Input } from '../../components/ui';
import { Sign, VERDICTS } from '../../components/verdicts';
import { Act } from '../session/Editors';

interface Props {
  route: Route;
  recordKey: string;
  columns: Column[];
  dirty: boolean;
  onClose: () => void;
}

function pretty(text: string): string {
  try {
    return JSON.stringify(JSON.parse(text), null, 1);
  } catch {
    return text;
  }
}

/** Sends one record for real: the record shown, or one made up here. */
export function TryOne({ route, recordKey, columns, dirty, onClose }: Props) {
  const client = useQueryClient();
  const [made, setMade] = useState(false);
  const [cells, setCells] = useState<Record<string, string>>({});
  const tests = useQuery({ queryKey: ['test-records'], queryFn: () => ok(api.GET('/api/test-records')) });
  const send = useMutation({
    mutationFn: () =>
      ok(
        api.POST('/api/routes/{id}/try', {
          params: { path: { id: route.id } },
          body: {
            key: recordKey,
            made: made
              ? Object.fromEntries(Object.entries(cells).filter(([, text]) => text !== ''))
              : undefined,
          },
        }),
      ),
    onSettled: () => {
      void client.invalidateQueries({ queryKey: ['test-records'] });
      void client.invalidateQueries({ queryKey: ['follow'] });
    },
  });
  const cleanUp = useMutation({
    mutationFn: () => ok(api.DELETE('/api/test-records')),
    onSettled: () => client.invalidateQueries({ queryKey: ['test-records'] }),
  });
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="bg-board/40 fixed inset-0 z-30" />
        <Dialog.Content className="rounded-card bg-card text-ink fixed top-[6vh] left-1/2 z-40 max-h-[88vh] w-[780px] -translate-x-1/2 overflow-auto p-5 text-[0.8125rem] shadow-xl">
          <Dialog.Title className="m-0 text-[1.0625rem] font-semibold">Try one record</Dialog.Title>
          <Dialog.Description className="text-soft mt-1 mb-3">
            This sends one record to {route.destination} using version {route.liveVersion}, which is in
            service
            {dirty ? '; your unsaved changes are not part of it' : ''}.
          </Dialog.Description>
          <fieldset className="m-0 mb-3 flex gap-5 border-0 p-0">
            <legend className="sr-only">Which record</legend>
            <label className="flex items-center gap-2">
              <input type="radio" name="which" checked={!made} onChange={() => setMade(false)} /> the record
              shown, <span className="font-mono">{recordKey}</span>
            </label>
            <label className="flex items-center gap-2">
              <input type="radio" name="which" checked={made} onChange={() => setMade(true)} /> a test record
            </label>
          </fieldset>
          {made && (
            <div className="mb-3 grid grid-cols-3 gap-2">
              {columns.map((column) => (
                <label key={column.name}>
                  <span className="text-soft font-mono text-[0.75rem]">
                    {column.name}
                    {column.role === 'KEY' ? ' (key)' : ''}
                  </span>
                  <Input
                    className="w-full font-mono"
                    value={cells[column.name] ?? ''}
                    onChange={(e) => setCells({ ...cells, [column.name]: e.target.value })}
                  />
                </label>
              ))}
            </div>
          )}
          <div className="flex items-center gap-2">
            <Act kind="primary" disabled={send.isPending} onClick={() => send.mutate()}>
              {send.isPending ? 'Sending' : 'Send this one record'}
            </Act>
            <Button onClick={onClose}>Close</Button>
            {(tests.data ?? []).length > 0 && (
              <span className="ml-auto flex items-center gap-2">
                {counted((tests.data ?? []).length, 'test record')} in the destination
                <Act disabled={cleanUp.isPending} onClick={() => cleanUp.mutate()}>
                  Remove test records
                </Act>
              </span>
            )}
            {cleanUp.data && (
              <span role="status">{counted(cleanUp.data.records, 'test record')} removed.</span>
            )}
          </div>
          <Failure error={send.error ?? cleanUp.error} />
          {send.data && <Result result={send.data} />}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

function Result({ result }: { result: TrialResult }) {
  const { line, exchange } = result;
  return (
    <div className="mt-4" role="status">
      <p className={`rounded-button m-0 px-3 py-2 ${VERDICTS[line.verdict].on}`}>
        <Sign verdict={line.verdict} />{' '}
        <strong>
          {line.state === 'ACKNOWLEDGED'
            ? `${line.verdict === 'ADDED' ? 'Added' : 'Changed'}, record ${line.remoteId} there.`
            : line.state === 'REFUSED'
              ? `Refused: ${line.answer}`
              : line.verdict === 'UNCHANGED'
                ? 'Unchanged, so nothing was sent.'
                : `${VERDICTS[line.verdict].word}: ${line.reason || line.answer || result.stopped}`}
        </strong>{' '}
        <Link className="text-deep" to={`/manifests/${result.runId}`}>
          manifest {result.runId}
        </Link>
      </p>
      {exchange && (
        <div className="mt-3 grid grid-cols-2 gap-3">
          <div>
            <h3 className="m-0 mb-1 text-[0.8125rem] font-semibold">
              Request{' '}
              <span className="text-soft font-mono font-normal">
                {exchange.method} {new URL(exchange.address).pathname}
              </span>
            </h3>
            <pre
              tabIndex={0}
              aria-label="Request"
              className="rounded-button bg-sunk m-0 max-h-[240px] overflow-auto p-2 font-mono text-[0.75rem]"
            >
              {pretty(exchange.request)}
            </pre>
          </div>
          <div>
            <h3 className="m-0 mb-1 text-[0.8125rem] font-semibold">
              Answer <span className="text-soft font-mono font-normal">{exchange.status}</span>
            </h3>
            <pre
              tabIndex={0}
              aria-label="Answer"
              className="rounded-button bg-sunk m-0 max-h-[240px] overflow-auto p-2 font-mono text-[0.75rem]"
            >
              {pretty(exchange.answer)}
            </pre>
          </div>
        </div>
      )}
      {Object.keys(result.readBack).length > 0 && (
        <>
          <h3 className="mt-3 mb-1 text-[0.8125rem] font-semibold">The record in the destination now</h3>
          <dl className="m-0 grid grid-cols-[140px_1fr_140px_1fr] gap-x-3 gap-y-0.5">
            {Object.entries(result.readBack).flatMap(([name, value]) => [
              <dt key={name} className="text-soft">
                {name}
              </dt>,
              <dd key={`${name}-value`} className="m-0 truncate font-mono">
                {value}
              </dd>,
            ])}
          </dl>
        </>
      )}
    </div>
  );
}
