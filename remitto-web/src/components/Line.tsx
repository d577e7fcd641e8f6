import { at } from './base';
import { useQuery } from '@tanstack/react-query';
import { Link, useLocation } from 'react-router';
import { api, ok } from '../api/client';
import { AccountMenu, type AccountOf } from '../features/session/AccountMenu';
import { count } from './format';

interface Stop {
  to: string;
  name: string;
  count?: number;
  trouble: boolean;
}

/** The main navigation: six stops in the order of the work, each a place to be. */
export function Line({ onPalette, ...account }: { onPalette: () => void } & AccountOf) {
  const { pathname } = useLocation();
  const { data } = useQuery({
    queryKey: ['line'],
    queryFn: () => ok(api.GET('/api/line')),
    refetchInterval: 5000,
  });
  const stops: Stop[] = [
    { to: '/sources', name: 'Sources', count: data?.sources, trouble: (data?.sourcesInTrouble ?? 0) > 0 },
    { to: '/datasets', name: 'Datasets', count: data?.datasets, trouble: false },
    { to: '/people', name: 'People', count: data?.people, trouble: false },
    {
      to: '/audiences',
      name: 'Audiences',
      count: data?.audiences,
      trouble: (data?.audiencesInTrouble ?? 0) > 0,
    },
    { to: '/routes', name: 'Routes', count: data?.routes, trouble: (data?.routesWaiting ?? 0) > 0 },
    {
      to: '/destinations',
      name: 'Destinations',
      count: data?.destinations,
      trouble: (data?.destinationsInTrouble ?? 0) > 0,
    },
  ];
  const place = pathname
    .replace(/^\/manifests\b/, '/routes')
    .replace(/^\/stocktakes\b/, '/destinations')
    .replace(/^\/crosswalks\b/, '/datasets')
    .replace(/^\/companies\b/, '/people')
    .replace(/^\/profiles\b/, '/destinations')
    .replace(/^\/explain\b/, '/destinations');
  const here = (to: string) => place === to || place.startsWith(`${to}/`);
  const aside = (active: boolean) =>
    `rounded-button px-2.5 py-1.5 font-medium no-underline ${active ? 'bg-board text-board-ink' : 'text-soft hover:text-ink'}`;
  return (
    <header className="border-hairline bg-card sticky top-0 z-10 border-b">
      <a href="#main" className="sr-only focus:not-sr-only">
        Skip to the page
      </a>
      <div className="flex min-h-[72px] flex-wrap items-center justify-between gap-x-5 px-3 py-1 sm:px-5">
        <Link to="/" className="text-ink flex items-center gap-2 text-[1.0625rem] font-semibold no-underline">
          <img src={at('/mark.svg')} alt="" width={28} height={28} />
          Remitto
        </Link>
        <nav
          aria-label="Main navigation"
          className="relative order-last mx-auto flex w-full max-w-[780px] py-1 lg:order-none lg:w-auto lg:flex-1"
        >
          <div aria-hidden className="bg-ink absolute top-[15px] right-[8.4%] left-[8.4%] h-[3px]" />
          {stops.map((stop) => (
            <Link
              key={stop.to}
              to={stop.to}
              aria-current={here(stop.to) ? 'page' : undefined}
              className="group relative flex flex-1 flex-col items-center no-underline"
            >
              <span
                aria-hidden
                className={`flex h-[24px] w-[24px] items-center justify-center rounded-full ${here(stop.to) ? 'border-buoy bg-card border-2' : ''}`}
              >
                <span
                  className={`border-ink block rounded-full border-[3px] ${here(stop.to) ? 'bg-buoy h-[16px] w-[16px]' : 'bg-card group-hover:bg-sunk h-[19px] w-[19px]'}`}
                />
              </span>
              {stop.trouble && (
                <span
                  aria-hidden
                  title="Something here needs your attention"
                  className="bg-held absolute top-[-4px] left-1/2 ml-[5px] flex h-[15px] w-[15px] items-center justify-center rounded-full text-[0.625rem] font-bold text-white"
                >
                  !
                </span>
              )}
              <span
                className={`mt-0.5 text-center text-[0.6875rem] sm:text-[0.8125rem] ${here(stop.to) ? 'text-ink font-semibold' : 'text-soft font-medium'}`}
              >
                {stop.name}
                {stop.count !== undefined && (
                  <span className="text-soft ml-1 hidden font-normal sm:inline">{count(stop.count)}</span>
                )}
                {stop.trouble && <span className="sr-only">, needs attention</span>}
              </span>
            </Link>
          ))}
        </nav>
        <nav aria-label="Other pages" className="flex flex-wrap items-center gap-1">
          <Link to="/departures" className={aside(pathname === '/' || here('/departures'))}>
            Departures
          </Link>
          <Link to="/held" className={aside(here('/held'))}>
            Held{' '}
            <span className="bg-held-on text-held ml-0.5 rounded-full px-1.5 text-[0.75rem]">
              {count(data?.held ?? 0)}
            </span>
          </Link>
          <Link to="/journal" className={aside(here('/journal'))}>
            Journal
          </Link>
          <button
            type="button"
            onClick={onPalette}
            aria-label="Ctrl K, search"
            className="border-hairline bg-sunk text-soft min-h-6 cursor-pointer rounded border px-1.5 font-mono text-[0.6875rem]"
          >
            Ctrl K
          </button>
          <AccountMenu {...account} />
        </nav>
      </div>
    </header>
  );
}
