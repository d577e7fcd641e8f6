import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { api, ok } from '../../api/client';
import type { Departure } from '../../api/types';
import { ago, city, clock, count, counted, day, midnight, weekday } from '../../components/format';
import { zone } from '../../components/here';
import { Card, Empty, Failure, Page, Skeleton } from '../../components/ui';
import { BoardSums } from '../../components/verdicts';
import { sentence } from '../routes/schedule';
import { stateOf } from '../manifests/state';
import { FirstSteps } from './FirstSteps';
import { LoadChart } from './LoadChart';
import { NeedsYou } from './NeedsYou';
import { RecentRuns } from './RecentRuns';
import { ActLink } from '../session/Editors';

function zoneOf(departure: Departure): string {
  return departure.route.liveSpec?.schedule.zone ?? departure.route.spec.schedule.zone;
}

function Due({ departure, now }: { departure: Departure; now: string }) {
  const { route } = departure;
  if (route.paused) return <span className="text-board-soft">paused</span>;
  if (!route.nextDeparture) return <span className="text-board-soft">manual</span>;
  const there = zoneOf(departure);
  const elsewhere = there === zone() ? '' : `, ${clock(route.nextDeparture, there)} in ${city(there)}`;
  const soon = new Date(route.nextDeparture).getTime() - new Date(now).getTime() < 20 * 3600_000;
  return (
    <span title={`${ago(route.nextDeparture)}${elsewhere}`}>
      {!soon && <span className="text-board-soft mr-1 text-[0.8125rem]">{weekday(route.nextDeparture)}</span>}
      <span className="text-bulb text-[0.9375rem] font-semibold">{clock(route.nextDeparture)}</span>
    </span>
  );
}

export function DeparturesPage() {
  const { data, error } = useQuery({
    queryKey: ['departures'],
    queryFn: () => ok(api.GET('/api/departures', { params: { query: { midnight: midnight() } } })),
    refetchInterval: 2000,
  });
  const held = useQuery({ queryKey: ['held'], queryFn: () => ok(api.GET('/api/held')) });
  if (error)
    return (
      <Page title="Departures">
        <Failure error={error} />
      </Page>
    );
  if (!data)
    return (
      <Page title="Departures">
        <Skeleton />
      </Page>
    );
  const next = data.departures
    .flatMap((departure) =>
      departure.route.nextDeparture && !departure.route.paused ? [departure.route.nextDeparture] : [],
    )
    .sort()[0];
  const order = (departure: Departure) => departure.route.nextDeparture ?? '9999';
  const departures = [...data.departures].sort((one, other) => order(one).localeCompare(order(other)));
  return (
    <Page
      title="Departures"
      note={`${day(data.now)}, ${clock(data.now)} in ${city(zone())}. ${next ? `Next departure ${ago(next, new Date(data.now).getTime())}.` : 'No departure is due.'}`}
      actions={
        <ActLink to="/routes" kind="primary">
          Run a route
        </ActLink>
      }
    >
      {data.timetableLateSince && (
        <p role="alert" className="rounded-card border-hairline bg-card m-0 mb-3 border px-4 py-3">
          <b>The timetable is running late.</b> It was last checked {ago(data.timetableLateSince)}. Until a
          server checks it again, nothing departs on schedule. The server log has the reason.
        </p>
      )}
      {!data.departures.some((one) => one.latest) && <FirstSteps sent={false} />}
      {data.departures.length === 0 ? (
        <Empty>This page shows what is due and what has run, once there is a route.</Empty>
      ) : (
        <div className="grid lg:grid-cols-[minmax(0,1fr)_290px] gap-4">
          <div className="flex min-w-0 flex-col gap-4">
            <div
              className="rounded-card bg-board text-board-ink overflow-x-auto"
              role="region"
              aria-label="Board of departures"
              tabIndex={0}
            >
              <table className="w-full border-collapse">
                <thead>
                  <tr className="text-board-soft text-left">
                    <th className="w-[104px] px-4 py-2.5 font-medium">Due</th>
                    <th className="px-3 font-medium">Route</th>
                    <th className="px-3 font-medium">Going to</th>
                    <th className="px-3 font-medium">Last manifest</th>
                    <th className="px-3 font-medium">State</th>
                  </tr>
                </thead>
                <tbody>
                  {departures.map((departure) => {
                    const { route, latest } = departure;
                    const state = latest ? stateOf(latest) : undefined;
                    return (
                      <tr key={route.id} className="border-board-line border-t">
                        <td className="px-4 py-2 font-mono">
                          <Due departure={departure} now={data.now} />
                        </td>
                        <td className="px-3 py-2">
                          <Link
                            to={`/routes/${route.id}`}
                            className="text-board-ink font-semibold no-underline hover:underline"
                          >
                            {route.name}
                          </Link>
                          <div className="text-board-soft text-[0.75rem]">
                            {route.rows !== undefined ? `${counted(route.rows, 'row')}, ` : ''}
                            {sentence(route.liveSpec?.schedule ?? route.spec.schedule)}
                          </div>
                        </td>
                        <td className="px-3 py-2">
                          {route.destination} <span className="text-board-soft">/ {route.object}</span>
                        </td>
                        <td className="px-3 py-2">
                          {latest ? (
                            <Link to={`/manifests/${latest.id}`} className="text-board-ink no-underline">
                              <BoardSums counts={latest.counts} />
                              <span className="text-board-soft text-[0.75rem] underline decoration-dotted">
                                no. {latest.id}, {ago(latest.startedAt, new Date(data.now).getTime())}
                              </span>
                            </Link>
                          ) : (
                            <span className="text-board-soft">never run</span>
                          )}
                        </td>
                        <td className="px-3 py-2">
                          {!route.liveVersion ? (
                            <span className="rounded bg-[#2C4250] px-2 py-0.5 text-[0.75rem]">
                              Not in service
                            </span>
                          ) : route.paused ? (
                            <span className="rounded bg-[#2C4250] px-2 py-0.5 text-[0.75rem]">Paused</span>
                          ) : data.circuits.some((one) => one.destinationId === route.destinationId) ? (
                            <span className="rounded bg-[#6E2725] px-2 py-0.5 text-[0.75rem] font-medium whitespace-nowrap text-[#FAD5D2]">
                              Destination not responding
                            </span>
                          ) : state ? (
                            <span
                              className={`rounded px-2 py-0.5 text-[0.75rem] font-medium whitespace-nowrap ${state.board}`}
                            >
                              {state.label}
                            </span>
                          ) : (
                            <span className="rounded bg-[#1E4A40] px-2 py-0.5 text-[0.75rem] text-[#A9E8CE]">
                              Ready
                            </span>
                          )}
                        </td>
                      </tr>
                    );
                  })}
                </tbody>
              </table>
            </div>
            <RecentRuns zone={zone()} />
            <Card title="Records accepted by each destination today, by hour" aside={city(zone())}>
              <LoadChart load={data.load} />
            </Card>
          </div>
          <aside className="flex flex-col gap-3" aria-label="What needs attention">
            <h2 className="m-0 text-[0.8125rem] font-semibold">Needs attention</h2>
            <NeedsYou board={data} />
            <Card title={`${counted(held.data?.total ?? 0, 'record')} held`}>
              <ul className="m-0 list-none px-4 pb-3">
                {(held.data?.groups ?? []).slice(0, 5).map((group) => (
                  <li
                    key={group.routeId + group.code}
                    className="border-hairline flex justify-between gap-2 border-b py-1.5 last:border-0"
                  >
                    <Link
                      to={`/held?route=${group.routeId}&code=${encodeURIComponent(group.code)}`}
                      className="text-ink"
                    >
                      {group.route}: {group.field || group.code.replace('unusable:', '').replaceAll('-', ' ')}
                    </Link>
                    <span className="font-mono">{count(group.records)}</span>
                  </li>
                ))}
              </ul>
            </Card>
            <Card title="Since midnight">
              <dl className="m-0 px-4 pb-3">
                {(
                  [
                    ['Read', data.since.read],
                    ['Sent', data.since.sent],
                    ['Unchanged, not sent', data.since.unchanged],
                    ['Held', data.since.held],
                  ] as const
                ).map(([name, value]) => (
                  <div key={name} className="flex justify-between py-1">
                    <dt>{name}</dt>
                    <dd className="m-0 font-mono">{count(value)}</dd>
                  </div>
                ))}
              </dl>
            </Card>
          </aside>
        </div>
      )}
    </Page>
  );
}
