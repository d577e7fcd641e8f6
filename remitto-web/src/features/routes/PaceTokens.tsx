import { useQuery } from '@tanstack/react-query';
import { api, ok } from '../../api/client';
import type { Waves } from '../../api/types';
import { count } from '../../components/format';
import { Input, Labelled, Token } from '../../components/ui';

/** Whether a few records go first. */
export function WavesToken({
  waves,
  onChange,
}: {
  waves: Waves | undefined;
  onChange: (waves: Waves | undefined) => void;
}) {
  const text = waves
    ? `${count(waves.first)} first, the rest ${waves.byItself ? `if at most ${waves.refusedPercent}% are refused` : 'after confirmation'}`
    : 'all at once';
  return (
    <Token label="Waves" text={text}>
      <label className="flex items-center gap-2">
        <input type="radio" name="waves" checked={!waves} onChange={() => onChange(undefined)} />
        all at once
      </label>
      <label className="flex items-center gap-2">
        <input
          type="radio"
          name="waves"
          checked={!!waves}
          onChange={() => onChange({ first: 100, byItself: true, refusedPercent: 2 })}
        />
        a first wave, then the rest
      </label>
      {waves && (
        <>
          <Labelled label="Records in the first wave">
            <Input
              type="number"
              min={1}
              value={waves.first}
              onChange={(e) => onChange({ ...waves, first: Math.max(1, Number(e.target.value)) })}
            />
          </Labelled>
          <label className="flex items-center gap-2">
            <input
              type="checkbox"
              checked={waves.byItself}
              onChange={(e) => onChange({ ...waves, byItself: e.target.checked })}
            />
            the rest follows automatically
          </label>
          {waves.byItself && (
            <Labelled label="unless more than this share is refused (%)">
              <Input
                type="number"
                min={0}
                max={100}
                value={waves.refusedPercent}
                onChange={(e) => onChange({ ...waves, refusedPercent: Number(e.target.value) })}
              />
            </Labelled>
          )}
        </>
      )}
    </Token>
  );
}

/** Routes that go before this one when both are due. */
export function AfterToken({
  routeId,
  after,
  onChange,
}: {
  routeId: number;
  after: number[];
  onChange: (after: number[]) => void;
}) {
  const routes = useQuery({ queryKey: ['routes'], queryFn: () => ok(api.GET('/api/routes')) });
  const others = (routes.data ?? []).filter((route) => route.id !== routeId);
  const names = others.filter((route) => after.includes(route.id)).map((route) => route.name);
  return (
    <Token
      label="After"
      text={names.length > 0 ? `after ${names.join(', ')}` : 'independent of other routes'}
    >
      {others.length === 0 && <span className="text-soft">There is no other route yet.</span>}
      {others.map((route) => (
        <label key={route.id} className="flex items-center gap-2">
          <input
            type="checkbox"
            checked={after.includes(route.id)}
            onChange={(e) =>
              onChange(e.target.checked ? [...after, route.id] : after.filter((id) => id !== route.id))
            }
          />
          {route.name}
        </label>
      ))}
    </Token>
  );
}
