import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { api, ok } from '../../api/client';
import type { Arrival } from '../../api/types';
import { count, counted, toTheSecond } from '../../components/format';
import { Button, Card, Empty, Failure, Page, Pill, Select, Skeleton, TD, TH } from '../../components/ui';
import { FollowedArrival } from './FollowedArrival';
import { SumsCard } from './SumsCard';
import { KINDS, MARKS } from './words';

const EVERY = 3_000;

/** What comes in from every source, as it comes in. */
export function ArrivalsPage() {
  const [asked, setAsked] = useSearchParams();
  const [paused, setPaused] = useState(false);
  const kind = (asked.get('kind') ?? '') as Arrival['kind'] | '';
  const source = asked.get('source') ?? '';
  const troubled = asked.has('troubled');
  const before = asked.get('before') ?? '';
  const open = asked.get('open') ?? '';
  const set = (name: string, value: string) =>
    setAsked(
      (now) => {
        const next = new URLSearchParams(now);
        if (value) next.set(name, value);
        else next.delete(name);
        if (name !== 'open' && name !== 'before') next.delete('before');
        return next;
      },
      { replace: true },
    );
  const still = paused || before !== '';
  const arrivals = useQuery({
    queryKey: ['arrivals', kind, source, troubled, before],
    queryFn: () =>
      ok(
        api.GET('/api/arrivals', {
          params: {
            query: {
              kind: kind || undefined,
              source: source ? Number(source) : undefined,
              troubled,
              before: before || undefined,
            },
          },
        }),
      ),
    refetchInterval: still ? false : EVERY,
    placeholderData: (last) => last,
  });
  const sums = useQuery({
    queryKey: ['arrival-sums'],
    queryFn: () => ok(api.GET('/api/arrivals/sums')),
    refetchInterval: 30_000,
  });
  const sources = useQuery({ queryKey: ['sources'], queryFn: () => ok(api.GET('/api/sources')) });
  const list = arrivals.data;
  const oldest = list?.at(-1);
  return (
    <Page
      title="Arrivals"
      note={
        sums.data
          ? `Calls, files and reads as they come in. ${counted(sums.data.arrivals, 'arrival')} within 24 hours.`
          : 'Calls, files and reads as they come in.'
      }
      actions={
        <>
          <Select aria-label="Kind" value={kind} onChange={(e) => set('kind', e.target.value)}>
            <option value="">Every kind</option>
            {Object.entries(KINDS).map(([one, word]) => (
              <option key={one} value={one}>
                {word}s
              </option>
            ))}
          </Select>
          <Select aria-label="Source" value={source} onChange={(e) => set('source', e.target.value)}>
            <option value="">Every source</option>
            {(sources.data ?? []).map((one) => (
              <option key={one.id} value={one.id}>
                {one.name}
              </option>
            ))}
          </Select>
          <Button aria-pressed={troubled} onClick={() => set('troubled', troubled ? '' : 'yes')}>
            {troubled ? 'Show all' : 'Only problems'}
          </Button>
          <Button
            kind="primary"
            aria-pressed={still}
            onClick={() => {
              setPaused(!still);
              set('before', '');
            }}
          >
            {still ? 'Resume view' : 'Pause view'}
          </Button>
        </>
      }
    >
      <Failure error={arrivals.error ?? sums.error} />
      <div className="grid grid-cols-1 items-start gap-3 lg:grid-cols-[minmax(0,1fr)_340px]">
        <Card>
          {!list ? (
            <Skeleton />
          ) : list.length === 0 ? (
            <Empty>
              {troubled || kind || source || before
                ? 'Nothing came in that this filter shows.'
                : 'Nothing has come in yet. Calls to a receiver, files of a file set and reads of datasets appear here.'}
            </Empty>
          ) : (
            <>
              <table className="w-full table-fixed border-collapse">
                <colgroup>
                  <col className="w-[152px]" />
                  <col className="w-[64px]" />
                  <col className="w-[26%]" />
                  <col />
                  <col className="w-[132px]" />
                </colgroup>
                <thead className="sr-only">
                  <tr>
                    <th className={TH}>Time</th>
                    <th className={TH}>Kind</th>
                    <th className={TH}>Belongs to</th>
                    <th className={TH}>Content</th>
                    <th className={TH}>Mark</th>
                  </tr>
                </thead>
                <tbody>
                  {list.map((one) => (
                    <ArrivalRow
                      key={`${one.kind}-${one.id}`}
                      arrival={one}
                      open={open === `${one.kind}-${one.id}`}
                      onOpen={() =>
                        set('open', open === `${one.kind}-${one.id}` ? '' : `${one.kind}-${one.id}`)
                      }
                    />
                  ))}
                </tbody>
              </table>
              {oldest && list.length >= 60 && (
                <div className="px-4 py-2">
                  <Button kind="quiet" onClick={() => set('before', oldest.at)}>
                    Older arrivals
                  </Button>
                </div>
              )}
            </>
          )}
        </Card>
        <div className={`flex min-w-0 flex-col gap-3 ${open ? 'max-lg:order-first' : ''}`}>
          {open && <FollowedArrival arrival={open} onClose={() => set('open', '')} />}
          {sums.data && <SumsCard sums={sums.data} />}
        </div>
      </div>
    </Page>
  );
}

function content(arrival: Arrival): string {
  switch (arrival.kind) {
    case 'CALL':
      return arrival.first.length > 0
        ? arrival.first.join(', ')
        : arrival.rows > 0
          ? counted(arrival.rows, 'row')
          : 'no row';
    case 'FILE':
      return `${arrival.what}, ${counted(arrival.rows, 'row')}`;
    case 'READ':
      return `${count(arrival.rows)} rows ${arrival.what}`;
  }
}

function ArrivalRow({ arrival, open, onOpen }: { arrival: Arrival; open: boolean; onOpen: () => void }) {
  const mark = MARKS[arrival.mark];
  return (
    <tr className={open ? 'bg-sunk' : ''}>
      <td className={`${TD} font-mono whitespace-nowrap`}>{toTheSecond(arrival.at)}</td>
      <td className={TD}>
        <Pill>{KINDS[arrival.kind]}</Pill>
      </td>
      <td className={TD}>
        <button
          type="button"
          aria-expanded={open}
          className="text-deep cursor-pointer text-left font-semibold underline"
          onClick={onOpen}
        >
          {arrival.subject.name}
        </button>
        <div className="text-soft truncate">{arrival.subject.source}</div>
      </td>
      <td className={TD}>
        <div className="lg:truncate" title={content(arrival)}>
          {content(arrival)}
        </div>
        {arrival.detail && (
          <div className={`break-words ${arrival.mark === 'FITS' ? 'text-soft' : 'text-removed'}`}>
            {arrival.detail}
          </div>
        )}
      </td>
      <td className={`${TD} text-right`}>
        <Pill tone={mark.tone}>{mark.word}</Pill>
      </td>
    </tr>
  );
}
