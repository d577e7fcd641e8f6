import { useQuery } from '@tanstack/react-query';
import { DropdownMenu } from 'radix-ui';
import { Link, useLocation } from 'react-router';
import { api, ok } from '../api/client';
import { count } from './format';

interface Stop {
  to: string;
  name: string;
  count?: number;
  trouble: boolean;
}

const ITEM =
  'rounded-button text-ink data-[highlighted]:bg-sunk cursor-pointer px-2.5 py-1.5 font-medium no-underline outline-none';

function initials(user: string): string {
  return user
    .split(' ')
    .map((part) => part[0])
    .join('')
    .slice(0, 2);
}

/** The main navigation: six stops in the order of the work, each a place to be. */
export function Line({
  user,
  admin,
  onPalette,
  onSignOut,
}: {
  user: string;
  admin: boolean;
  onPalette: () => void;
  onSignOut: () => void;
}) {
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
      <div className="flex h-[72px] items-center gap-5 px-5">
        <Link to="/" className="text-ink flex items-center gap-2 text-[17px] font-semibold no-underline">
          <img src="/mark.svg" alt="" width={28} height={28} />
          Remitto
        </Link>
        <nav aria-label="The line" className="relative mx-auto flex max-w-[780px] flex-1">
          <div aria-hidden className="bg-ink absolute top-[11px] right-[8.4%] left-[8.4%] h-[3px]" />
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
                  title="Something here needs a person"
                  className="bg-held absolute top-[-4px] left-1/2 ml-[5px] flex h-[15px] w-[15px] items-center justify-center rounded-full text-[10px] font-bold text-white"
                >
                  !
                </span>
              )}
              <span
                className={`mt-0.5 ${here(stop.to) ? 'text-ink font-semibold' : 'text-soft font-medium'}`}
              >
                {stop.name}
                {stop.count !== undefined && (
                  <span className="text-soft ml-1 font-normal">{count(stop.count)}</span>
                )}
              </span>
            </Link>
          ))}
        </nav>
        <nav aria-label="Apart from the line" className="flex items-center gap-1">
          <Link to="/departures" className={aside(pathname === '/' || here('/departures'))}>
            Departures
          </Link>
          <Link to="/held" className={aside(here('/held'))}>
            Held{' '}
            <span className="bg-held-on text-held ml-0.5 rounded-full px-1.5 text-[12px]">
              {count(data?.held ?? 0)}
            </span>
          </Link>
          <Link to="/journal" className={aside(here('/journal'))}>
            Journal
          </Link>
          <button
            type="button"
            onClick={onPalette}
            aria-label="Ctrl K, find anything"
            className="border-hairline bg-sunk text-soft cursor-pointer rounded border px-1.5 font-mono text-[11px]"
          >
            Ctrl K
          </button>
          <DropdownMenu.Root>
            <DropdownMenu.Trigger asChild>
              <button
                type="button"
                title={user}
                aria-label={`${initials(user)}, account of ${user}`}
                className="bg-sunk text-ink ml-1 h-7 w-7 cursor-pointer rounded-full text-[11px] font-semibold"
              >
                {initials(user)}
              </button>
            </DropdownMenu.Trigger>
            <DropdownMenu.Portal>
              <DropdownMenu.Content
                align="end"
                sideOffset={6}
                className="rounded-card border-hairline bg-card z-20 flex min-w-[180px] flex-col border p-1.5"
              >
                <DropdownMenu.Label className="text-soft px-2.5 py-1.5">{user}</DropdownMenu.Label>
                <DropdownMenu.Item asChild>
                  <Link to="/account" className={ITEM}>
                    Account
                  </Link>
                </DropdownMenu.Item>
                {admin && (
                  <DropdownMenu.Item asChild>
                    <Link to="/users" className={ITEM}>
                      Users
                    </Link>
                  </DropdownMenu.Item>
                )}
                <DropdownMenu.Item asChild>
                  <Link to="/retention" className={ITEM}>
                    Retention
                  </Link>
                </DropdownMenu.Item>
                <DropdownMenu.Item className={ITEM} onSelect={onSignOut}>
                  Sign out
                </DropdownMenu.Item>
              </DropdownMenu.Content>
            </DropdownMenu.Portal>
          </DropdownMenu.Root>
        </nav>
      </div>
    </header>
  );
}
