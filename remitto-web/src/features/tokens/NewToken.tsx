import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ok } from '../../api/client';
import type { Scope } from '../../api/types';
import { moment } from '../../components/format';
import { Button, Failure, Input, Labelled, Select } from '../../components/ui';
import { SCOPES } from './words';

const DAYS = [7, 30, 90, 180, 365];
const DAY = 24 * 60 * 60 * 1000;

/** Makes a token, and tells it once. */
export function NewToken({ accountId, onMade }: { accountId: number; onMade: () => void }) {
  const [name, setName] = useState('');
  const [scopes, setScopes] = useState<Scope[]>(['READ']);
  const [days, setDays] = useState(90);
  const [routeIds, setRouteIds] = useState<number[]>([]);
  const [destinationIds, setDestinationIds] = useState<number[]>([]);
  const routes = useQuery({ queryKey: ['routes'], queryFn: () => ok(api.GET('/api/routes')) });
  const destinations = useQuery({
    queryKey: ['destinations'],
    queryFn: () => ok(api.GET('/api/destinations')),
  });
  const make = useMutation({
    mutationFn: () =>
      ok(
        api.POST('/api/service-accounts/{id}/tokens', {
          params: { path: { id: accountId } },
          body: {
            name,
            scopes,
            narrowing: { routeIds, destinationIds },
            expiresAt: new Date(Date.now() + days * DAY).toISOString(),
          },
        }),
      ),
    onSuccess: () => {
      setName('');
      onMade();
    },
  });
  return (
    <form
      className="border-hairline mt-2 flex flex-col gap-3 border-t px-4 pt-3 pb-2"
      onSubmit={(event) => {
        event.preventDefault();
        make.mutate();
      }}
    >
      <h3 className="m-0 text-base font-semibold">New token</h3>
      <div className="grid grid-cols-1 gap-3 sm:grid-cols-[minmax(0,2fr)_minmax(0,1fr)]">
        <Labelled label="What the token is for">
          <Input
            className="w-full"
            value={name}
            maxLength={80}
            onChange={(event) => setName(event.target.value)}
            required
          />
        </Labelled>
        <Labelled label="Expires after">
          <Select className="w-full" value={days} onChange={(event) => setDays(Number(event.target.value))}>
            {DAYS.map((one) => (
              <option key={one} value={one}>
                {one} days
              </option>
            ))}
          </Select>
        </Labelled>
      </div>
      <fieldset className="m-0 flex flex-col gap-1 border-0 p-0">
        <legend className="text-soft mb-1 p-0">It may</legend>
        {SCOPES.map(([scope, words, allows]) => (
          <label key={scope} className="flex items-baseline gap-2">
            <input
              type="checkbox"
              checked={scopes.includes(scope)}
              onChange={(event) =>
                setScopes(event.target.checked ? [...scopes, scope] : scopes.filter((one) => one !== scope))
              }
            />
            <span>
              <span className="font-semibold">{words}</span> <span className="text-soft">{allows}</span>
            </span>
          </label>
        ))}
      </fieldset>
      <Chosen label="Only on these routes" all={routes.data ?? []} chosen={routeIds} onChosen={setRouteIds} />
      <Chosen
        label="Only on these destinations, and routes to them"
        all={destinations.data ?? []}
        chosen={destinationIds}
        onChosen={setDestinationIds}
      />
      <Failure error={make.error} />
      <div>
        <Button kind="primary" type="submit" disabled={make.isPending}>
          Make token
        </Button>
      </div>
      {make.data && (
        <div role="status" className="rounded-button bg-sunk px-3 py-2">
          <p className="m-0 mb-1">
            Give this to the program. It works until {moment(make.data.made.expiresAt)} and is not shown
            again.
          </p>
          <code className="wrap-anywhere">{make.data.token}</code>{' '}
          <Button kind="quiet" onClick={() => void navigator.clipboard.writeText(make.data.token)}>
            Copy token
          </Button>
        </div>
      )}
    </form>
  );
}

function Chosen({
  label,
  all,
  chosen,
  onChosen,
}: {
  label: string;
  all: { id: number; name: string }[];
  chosen: number[];
  onChosen: (ids: number[]) => void;
}) {
  if (all.length === 0) return null;
  return (
    <details>
      <summary className="cursor-pointer">
        {label} <span className="text-soft">{chosen.length === 0 ? 'all' : chosen.length}</span>
      </summary>
      <div className="mt-1 grid max-h-48 grid-cols-1 gap-1 overflow-auto sm:grid-cols-2">
        {all.map((one) => (
          <label key={one.id} className="flex items-baseline gap-2">
            <input
              type="checkbox"
              checked={chosen.includes(one.id)}
              onChange={(event) =>
                onChosen(event.target.checked ? [...chosen, one.id] : chosen.filter((id) => id !== one.id))
              }
            />
            {one.name}
          </label>
        ))}
      </div>
    </details>
  );
}
