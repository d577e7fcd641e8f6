import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ok } from '../../api/client';
import type { ReceivedCall, Receiver } from '../../api/types';
import { exact, toTheSecond } from '../../components/format';
import { Button, Card, Failure, Pill, Select, Skeleton, TD, TH } from '../../components/ui';
import { bytes } from '../landing/names';
import { CALL_VERDICTS, rowsWords } from './words';

const MOST = 200;

/** The last calls of a receiver, each with its verdict; opened, with all that was kept of it. */
export function Calls({ receiver }: { receiver: Receiver }) {
  const [verdict, setVerdict] = useState<ReceivedCall['verdict'] | ''>('');
  const [before, setBefore] = useState<number>();
  const [open, setOpen] = useState<number>();
  const [live, setLive] = useState(true);
  const calls = useQuery({
    queryKey: ['received-calls', receiver.id, verdict, before],
    queryFn: () =>
      ok(
        api.GET('/api/receivers/{id}/calls', {
          params: { path: { id: receiver.id }, query: { verdict: verdict || undefined, before } },
        }),
      ),
    refetchInterval: live && before === undefined ? 2_000 : false,
    placeholderData: (former) => former,
  });
  return (
    <Card
      title="Last calls"
      aside={
        <span className="flex items-center gap-2">
          <Button kind="quiet" aria-pressed={!live} onClick={() => setLive(!live)}>
            {live ? 'Hold still' : 'Follow'}
          </Button>
          <Select
            aria-label="Calls shown"
            value={verdict}
            onChange={(event) => {
              setVerdict(event.target.value as typeof verdict);
              setBefore(undefined);
            }}
          >
            <option value="">all calls</option>
            {Object.entries(CALL_VERDICTS).map(([value, one]) => (
              <option key={value} value={value}>
                {one.title.replace('‖ ', '')}
              </option>
            ))}
          </Select>
        </span>
      }
    >
      <Failure error={calls.error} />
      {!calls.data ? (
        !calls.error && <Skeleton rows={3} />
      ) : calls.data.length === 0 ? (
        <p className="text-soft m-0 px-4 pt-1 pb-4" role="status">
          {verdict
            ? 'There is no such call.'
            : 'Waiting for the first call. Paste the address into the other tool and let something happen there; the call appears here.'}
        </p>
      ) : (
        <div className="overflow-x-auto">
          <table className="w-full border-collapse" aria-label="Last calls">
            <thead>
              <tr>
                <th className={TH}>Came in</th>
                <th className={TH}>Verdict</th>
                <th className={TH}>What is to be said</th>
                <th className={`${TH} text-right`}>Size</th>
              </tr>
            </thead>
            <tbody>
              {calls.data.map((call) => (
                <CallRow
                  key={call.id}
                  receiver={receiver}
                  call={call}
                  open={open === call.id}
                  onOpen={() => setOpen(open === call.id ? undefined : call.id)}
                />
              ))}
            </tbody>
          </table>
        </div>
      )}
      {(calls.data?.length === MOST || before !== undefined) && (
        <div className="flex gap-2 px-4 py-2">
          {before !== undefined && (
            <Button kind="quiet" onClick={() => setBefore(undefined)}>
              Latest calls
            </Button>
          )}
          {calls.data?.length === MOST && (
            <Button kind="quiet" onClick={() => setBefore(calls.data?.at(-1)?.id)}>
              Earlier calls
            </Button>
          )}
        </div>
      )}
    </Card>
  );
}

function CallRow({
  receiver,
  call,
  open,
  onOpen,
}: {
  receiver: Receiver;
  call: ReceivedCall;
  open: boolean;
  onOpen: () => void;
}) {
  const verdict = CALL_VERDICTS[call.verdict];
  return (
    <>
      <tr>
        <td className={`${TD} whitespace-nowrap`}>
          <button
            type="button"
            className="text-ink cursor-pointer underline underline-offset-2"
            aria-expanded={open}
            onClick={onOpen}
          >
            <time dateTime={call.receivedAt} title={exact(call.receivedAt)}>
              {toTheSecond(call.receivedAt)}
            </time>
          </button>
        </td>
        <td className={TD}>
          <Pill tone={verdict.tone}>{verdict.title}</Pill>
        </td>
        <td className={TD}>
          {call.problem ? (
            <span className={call.verdict === 'REFUSED' ? 'text-removed' : 'text-held'}>{call.problem}</span>
          ) : (
            <span className="text-soft">{rowsWords(call)}</span>
          )}
        </td>
        <td className={`${TD} text-right font-mono whitespace-nowrap`}>{bytes(call.bytes)}</td>
      </tr>
      {open && (
        <tr>
          <td colSpan={4} className="border-hairline bg-sunk border-b px-3 py-2">
            <Whole receiver={receiver} call={call} />
          </td>
        </tr>
      )}
    </>
  );
}

function Whole({ receiver, call }: { receiver: Receiver; call: ReceivedCall }) {
  const whole = useQuery({
    queryKey: ['received-calls', receiver.id, 'one', call.id],
    queryFn: () =>
      ok(
        api.GET('/api/receivers/{id}/calls/{call}', {
          params: { path: { id: receiver.id, call: call.id } },
        }),
      ),
    retry: false,
  });
  if (whole.error) return <Failure error={whole.error} />;
  if (!whole.data) return <Skeleton rows={2} />;
  return (
    <div className="grid grid-cols-1 gap-3 lg:grid-cols-[minmax(0,1fr)_minmax(0,2fr)]">
      <dl
        className="m-0 grid grid-cols-[auto_minmax(0,1fr)] content-start gap-x-3 gap-y-1"
        aria-label="Headers"
      >
        {Object.entries(whole.data.headers).map(([name, value]) => (
          <div key={name} className="contents">
            <dt className="text-soft font-mono">{name}</dt>
            <dd className="m-0 font-mono break-all">{value}</dd>
          </div>
        ))}
      </dl>
      <pre
        tabIndex={0}
        aria-label="Body"
        className="m-0 max-h-96 overflow-auto font-mono break-all whitespace-pre-wrap"
      >
        {laidOut(whole.data.body)}
      </pre>
    </div>
  );
}

/** JSON on lines of its own; anything else as it came. */
function laidOut(body: string): string {
  try {
    return JSON.stringify(JSON.parse(body), null, 2);
  } catch {
    return body;
  }
}
