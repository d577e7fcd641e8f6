import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api, ok } from '../../api/client';
import type { PrerequisiteView } from '../../api/types';
import { Ago } from '../../components/Moment';
import { Card, Failure, Pill } from '../../components/ui';
import { useIsEditor } from '../session/useSession';

const STATES: Record<PrerequisiteView['state'], ['good' | 'warn' | 'bad' | 'plain', string]> = {
  MET: ['good', 'met'],
  TICKED: ['good', 'confirmed'],
  NOT_MET: ['bad', 'not met'],
  UNKNOWN: ['warn', 'unknown'],
  OPEN: ['warn', 'needs attention'],
};

/** What must have been done in the tool, with what is lost without it. */
export function Prerequisites({ id }: { id: number }) {
  const client = useQueryClient();
  const asks = useIsEditor();
  const list = useQuery({
    queryKey: ['prerequisites', id],
    queryFn: () => ok(api.GET('/api/destinations/{id}/prerequisites', { params: { path: { id } } })),
    retry: false,
    enabled: asks,
  });
  const tick = useMutation({
    mutationFn: ({ name, ticked }: { name: string; ticked: boolean }) =>
      ok(
        api.PUT('/api/destinations/{id}/prerequisites/{name}', {
          params: { path: { id, name } },
          body: { ticked },
        }),
      ),
    onSuccess: (fresh) => client.setQueryData(['prerequisites', id], fresh),
  });
  if (!list.data || list.data.length === 0) return null;
  return (
    <Card title="Requirements">
      <ul className="m-0 list-none px-4 pb-3">
        {list.data.map((one) => {
          const [tone, word] = STATES[one.state];
          const optional = one.lost !== '';
          return (
            <li key={one.name} className="border-hairline border-t py-1.5 first:border-0">
              <div className="flex items-start justify-between gap-2">
                {one.state === 'OPEN' || one.state === 'TICKED' ? (
                  <label className="flex items-start gap-2">
                    <input
                      type="checkbox"
                      className="mt-1"
                      checked={one.state === 'TICKED'}
                      disabled={tick.isPending}
                      onChange={(e) => tick.mutate({ name: one.name, ticked: e.target.checked })}
                    />
                    {one.title}
                  </label>
                ) : (
                  <span>{one.title}</span>
                )}
                <Pill tone={one.state === 'NOT_MET' && optional ? 'warn' : tone}>{word}</Pill>
              </div>
              {one.state !== 'MET' && one.state !== 'TICKED' && (
                <div className="text-soft">
                  {optional ? `Optional. ${one.lost}` : one.why} {one.state !== 'OPEN' && one.detail}
                </div>
              )}
              {one.state === 'TICKED' && (
                <div className="text-soft">
                  {one.detail}, {one.at && <Ago at={one.at} />}
                </div>
              )}
            </li>
          );
        })}
      </ul>
      <Failure error={tick.error} />
    </Card>
  );
}
