import { useState } from 'react';
import type { BenchTried } from '../../api/types';
import { count } from '../../components/format';
import { Pill, TD, TH } from '../../components/ui';

type Seen = BenchTried['calls'][number];

function pretty(text: string): string {
  try {
    return JSON.stringify(JSON.parse(text), null, 2);
  } catch {
    return text;
  }
}

/** What came of a call: how it is read, and what went over the line. */
export function Tried({ tried }: { tried: BenchTried }) {
  const { reading, problem, calls } = tried;
  return (
    <div className="flex min-w-0 flex-col gap-2">
      <div role="status">
        {problem ? (
          <span className="text-removed font-semibold">{problem}</span>
        ) : (
          <>
            <strong>Interpreted as</strong> {reading.sentence}
            {reading.more && <span className="text-soft">. {reading.more}.</span>}
          </>
        )}
      </div>
      {reading.rows.length > 0 && (
        <div
          className="border-hairline rounded-button max-h-[220px] overflow-auto border"
          tabIndex={0}
          role="region"
          aria-label="Interpretation"
        >
          <table className="w-full border-collapse">
            <thead className="bg-card sticky top-0">
              <tr>
                {reading.columns.map((column) => (
                  <th key={column} className={`${TH} whitespace-nowrap`}>
                    {column}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {reading.rows.map((row, i) => (
                <tr key={i}>
                  {row.map((cell, j) => (
                    <td key={j} className={`${TD} max-w-[180px] truncate font-mono whitespace-nowrap`}>
                      {cell}
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
      {calls.map((call, i) => (
        <OneCall key={i} call={call} open={i === calls.length - 1} />
      ))}
    </div>
  );
}

function tone(status: number): 'good' | 'bad' | 'plain' {
  if (status === 0) return 'plain';
  return status < 300 ? 'good' : 'bad';
}

function OneCall({ call, open }: { call: Seen; open: boolean }) {
  const [shown, setShown] = useState(open);
  return (
    <div className="border-hairline rounded-button border">
      <button
        type="button"
        aria-expanded={shown}
        className="flex w-full cursor-pointer items-baseline gap-2 px-3 py-1.5 text-left"
        onClick={() => setShown(!shown)}
      >
        <strong className="font-mono">{call.method}</strong>
        <span className="min-w-0 flex-1 font-mono break-all">{call.address}</span>
        <Pill tone={tone(call.status)}>{call.status === 0 ? 'not sent' : call.status}</Pill>
        {call.status > 0 && <span className="text-soft font-mono">{count(call.millis)} ms</span>}
      </button>
      {shown && (
        <div className="border-hairline grid grid-cols-2 gap-3 border-t px-3 py-2">
          <Half title="Sent" headers={call.headers} body={call.body} />
          <Half title="Answered" headers={call.answerHeaders} body={call.answer} />
        </div>
      )}
    </div>
  );
}

function Half({ title, headers, body }: { title: string; headers: Record<string, string>; body: string }) {
  return (
    <div className="min-w-0">
      <h3 className="text-soft m-0 text-[0.8125rem] font-medium">{title}</h3>
      <ul className="m-0 list-none p-0 font-mono text-[0.75rem]">
        {Object.entries(headers).map(([name, value]) => (
          <li key={name} className="break-all">
            <span className="text-soft">{name}:</span> {value}
          </li>
        ))}
      </ul>
      {body !== '' && (
        <pre
          tabIndex={0}
          aria-label={`${title}, body`}
          className="bg-sunk m-0 mt-1 max-h-[240px] overflow-auto rounded p-2 font-mono text-[0.75rem]"
        >
          {pretty(body)}
        </pre>
      )}
    </div>
  );
}
