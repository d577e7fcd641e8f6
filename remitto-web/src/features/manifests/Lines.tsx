import { useQueries, useQuery } from '@tanstack/react-query';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useRef, useState } from 'react';
import { api, ok } from '../../api/client';
import type { LineView } from '../../api/types';
import { counted } from '../../components/format';
import { Failure, Skeleton } from '../../components/ui';
import { Sign } from '../../components/verdicts';
import { LineDetail, Old, OtherRoute } from './LineDetail';

const WINDOW = 100;
const ROW = 36;

export interface LineFilter {
  verdict: string;
  field: string;
  state: string;
  code: string;
  find: string;
}

/** The object that the lines are about. */
export interface Place {
  destinationId: number;
  object: string;
}

/** A line that stays behind. */
export interface Kept {
  number: number;
  verdict: LineView['verdict'];
}

/** Lets somebody say of single lines that they stay behind. */
export interface Keep {
  goes: (verdict: LineView['verdict']) => boolean;
  without: Kept[];
  onChange: (without: Kept[]) => void;
}

function windowQuery(runId: number, filter: LineFilter, offset: number) {
  return {
    queryKey: ['lines', runId, filter, offset],
    queryFn: () =>
      ok(
        api.GET('/api/runs/{id}/lines', {
          params: { path: { id: runId }, query: { ...filter, offset, limit: WINDOW } },
        }),
      ),
    staleTime: 60_000,
  };
}

/** The lines of a manifest. Only the windows in sight are fetched, so that any length scrolls smoothly. */
export function Lines({
  runId,
  filter,
  keep,
  place,
}: {
  runId: number;
  filter: LineFilter;
  keep?: Keep;
  place: Place;
}) {
  const scroller = useRef<HTMLDivElement>(null);
  const opener = useRef<HTMLButtonElement>(null);
  const [open, setOpen] = useState<LineView>();
  const close = () => {
    setOpen(undefined);
    opener.current?.focus();
  };
  const first = useQuery(windowQuery(runId, filter, 0));
  const total = first.data?.total ?? 0;
  const rows = useVirtualizer({
    count: total,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 12,
  });
  const items = rows.getVirtualItems();
  const from = Math.floor((items[0]?.index ?? 0) / WINDOW);
  const to = Math.floor((items[items.length - 1]?.index ?? 0) / WINDOW);
  const offsets = Array.from({ length: to - from + 1 }, (_, i) => (from + i) * WINDOW);
  const windows = useQueries({
    queries: total > 0 ? offsets.map((offset) => windowQuery(runId, filter, offset)) : [],
  });
  const lineAt = (index: number) => windows[Math.floor(index / WINDOW) - from]?.data?.lines[index % WINDOW];

  useEffect(() => {
    const slash = (event: KeyboardEvent) => {
      if (event.key === '/' && !(event.target instanceof HTMLInputElement)) {
        event.preventDefault();
        document.getElementById('find-record')?.focus();
      }
    };
    document.addEventListener('keydown', slash);
    return () => document.removeEventListener('keydown', slash);
  }, []);

  const columns = keep
    ? 'grid-cols-[34px_26px_130px_170px_minmax(0,1fr)_120px]'
    : 'grid-cols-[26px_130px_170px_minmax(0,1fr)_120px]';
  if (first.error) return <Failure error={first.error} />;
  if (!first.data) return <Skeleton />;
  if (total === 0) return <p className="text-soft px-4 py-6">No line matches.</p>;
  const list = (
    <div className="min-w-0 flex-1">
      <div
        aria-hidden
        className={`text-soft border-hairline grid gap-2 border-b px-3 py-1.5 font-medium ${columns}`}
      >
        {keep && <span>Send</span>}
        <span />
        <span>Record</span>
        <span>Name</span>
        <span>What changes</span>
        <span className="text-right">In the destination</span>
      </div>
      <div
        ref={scroller}
        className="max-h-[calc(100vh-330px)] min-h-[260px] overflow-auto"
        tabIndex={0}
        role="region"
        aria-label="Lines of the manifest"
      >
        <div role="table" aria-rowcount={total} style={{ height: rows.getTotalSize() }} className="relative">
          {items.map((item) => {
            const line = lineAt(item.index);
            return (
              <div
                key={item.key}
                role="row"
                aria-rowindex={item.index + 1}
                className={`border-hairline absolute inset-x-0 grid items-center gap-2 border-b px-3 ${columns} ${line?.verdict === 'REMOVED' ? 'bg-removed-on' : ''} ${line && open?.line === line.line ? 'bg-sunk' : ''}`}
                style={{ height: ROW, transform: `translateY(${item.start}px)` }}
              >
                {line ? (
                  <>
                    {keep && (
                      <span role="cell">
                        <Send line={line} keep={keep} />
                      </span>
                    )}
                    <span role="cell">
                      <Sign verdict={line.verdict} />
                    </span>
                    <span role="cell" className="min-w-0">
                      <button
                        type="button"
                        className="w-full cursor-pointer truncate text-left font-mono hover:underline"
                        aria-expanded={open?.line === line.line}
                        onClick={(event) => {
                          opener.current = event.currentTarget;
                          setOpen(line);
                        }}
                      >
                        {line.key}
                      </button>
                    </span>
                    <span role="cell" className="truncate">
                      {line.label}
                    </span>
                    <span role="cell" className="truncate">
                      <Changes line={line} field={filter.field} />
                    </span>
                    <span role="cell" className="truncate text-right">
                      <Outcome line={line} />
                    </span>
                  </>
                ) : (
                  <span role="cell" className="bg-sunk col-span-5 h-4 animate-pulse rounded" />
                )}
              </div>
            );
          })}
        </div>
      </div>
      <div className="text-soft border-hairline border-t px-3 py-1.5">{counted(total, 'line')}</div>
    </div>
  );
  return (
    <div className="flex flex-col xl:flex-row">
      {list}
      {open && <LineDetail line={open} place={place} onClose={close} />}
    </div>
  );
}

const MOVES = ['ADDED', 'CHANGED', 'REMOVED'];

function Send({ line, keep }: { line: LineView; keep: Keep }) {
  if (!MOVES.includes(line.verdict)) return null;
  const kept = keep.without.some((one) => one.number === line.line);
  return (
    <input
      type="checkbox"
      aria-label={`Send ${line.key}`}
      checked={keep.goes(line.verdict) && !kept}
      disabled={!keep.goes(line.verdict)}
      onChange={() =>
        keep.onChange(
          kept
            ? keep.without.filter((one) => one.number !== line.line)
            : [...keep.without, { number: line.line, verdict: line.verdict }],
        )
      }
    />
  );
}

function Outcome({ line }: { line: LineView }) {
  switch (line.state) {
    case 'ACKNOWLEDGED':
      return (
        <span className="text-added font-mono" title={`Accepted as record ${line.remoteId}`}>
          ✓ {line.remoteId}
        </span>
      );
    case 'REFUSED':
      return (
        <span className="text-removed" title={line.answer}>
          refused
        </span>
      );
    case 'MOVED_ON':
      return (
        <span className="text-held" title={line.answer}>
          changed meanwhile
        </span>
      );
    case 'FORBIDDEN':
      return (
        <span className="text-soft" title={line.answer}>
          no longer allowed
        </span>
      );
    case 'CANCELLED':
      return <span className="text-soft">not sent</span>;
    case 'SENDING':
    case 'UNKNOWN':
      return <span className="text-changed">{line.state === 'SENDING' ? 'being sent' : 'unknown'}</span>;
    default:
      return <span className="text-soft font-mono">{line.remoteId}</span>;
  }
}

function Changes({ line, field }: { line: LineView; field: string }) {
  if (line.state === 'REFUSED' || line.state === 'MOVED_ON')
    return <span className={line.state === 'REFUSED' ? 'text-removed' : 'text-held'}>{line.answer}</span>;
  if (line.state === 'FORBIDDEN') return <span className="text-soft">{line.answer}</span>;
  if (line.verdict === 'HELD') return <span className="text-held">Held: {line.reason}</span>;
  if (line.verdict === 'LEFT_OUT') return <span className="text-soft">{line.reason}</span>;
  if (line.verdict === 'UNCHANGED') return <span className="text-soft">unchanged since last sent</span>;
  const moved = line.fields.filter((one) => one.outcome === 'WRITTEN' || one.outcome === 'HELD');
  const shown = field ? moved.filter((one) => one.field === field) : moved;
  return (
    <>
      {line.code === 'left' && <span className="text-removed">left the dataset: </span>}
      {shown.map((one, i) => (
        <span key={one.field}>
          {i > 0 && ', '}
          <span className="text-soft">{one.field}</span>{' '}
          {one.outcome === 'HELD' ? (
            <span className="text-held">‖ {one.reason}</span>
          ) : (
            <>
              {line.verdict !== 'ADDED' && one.old !== undefined && <Old text={one.old} />}{' '}
              {one.otherRoute && <OtherRoute name={one.otherRoute} />}{' '}
              {line.verdict !== 'REMOVED' && (
                <span className="text-added font-mono">{one.fresh === '' ? '(cleared)' : one.fresh}</span>
              )}
            </>
          )}
        </span>
      ))}
    </>
  );
}
