import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ok } from '../../api/client';
import type { FrequencyCapSetting } from '../../api/types';
import { Card, Failure, Input, Labelled, Token } from '../../components/ui';
import { Act } from '../session/Editors';

/** How often a person is written to, over all routes that send messages. */
export function FrequencyCap() {
  const setting = useQuery({
    queryKey: ['frequency-cap'],
    queryFn: () => ok(api.GET('/api/consents/frequency-cap')),
  });
  return setting.data ? <Setting key={JSON.stringify(setting.data)} setting={setting.data} /> : null;
}

function Setting({ setting }: { setting: FrequencyCapSetting }) {
  const client = useQueryClient();
  const [limited, setLimited] = useState(setting.limit !== undefined);
  const [most, setMost] = useState(setting.limit?.most ?? 2);
  const [days, setDays] = useState(setting.limit?.days ?? 7);
  const [routes, setRoutes] = useState(
    setting.routes.filter((one) => one.messages).map((one) => one.routeId),
  );
  const save = useMutation({
    mutationFn: () =>
      ok(
        api.PUT('/api/consents/frequency-cap', {
          body: { ...(limited ? { limit: { most, days } } : {}), routes },
        }),
      ),
    onSuccess: (saved) => client.setQueryData(['frequency-cap'], saved),
  });
  return (
    <Card title="Frequency cap">
      <div className="flex flex-col gap-2 px-4 pb-3">
        <div className="flex flex-wrap items-center gap-1.5">
          <span>Each person gets</span>
          <Token label="limit" text={limited ? `at most ${most} in ${days} days` : 'any number of messages'}>
            <label className="flex items-center gap-2">
              <input
                type="checkbox"
                checked={limited}
                onChange={(event) => setLimited(event.target.checked)}
              />
              Limited
            </label>
            <Labelled label="Maximum messages">
              <Input
                type="number"
                min={1}
                value={most}
                onChange={(event) => setMost(Number(event.target.value))}
              />
            </Labelled>
            <Labelled label="In days">
              <Input
                type="number"
                min={1}
                max={365}
                value={days}
                onChange={(event) => setDays(Number(event.target.value))}
              />
            </Labelled>
          </Token>
          <span>counting the records these routes add or change:</span>
        </div>
        {setting.routes.map((one) => (
          <label key={one.routeId} className="flex items-center gap-2">
            <input
              type="checkbox"
              checked={routes.includes(one.routeId)}
              onChange={(event) =>
                setRoutes(
                  event.target.checked
                    ? [...routes, one.routeId]
                    : routes.filter((route) => route !== one.routeId),
                )
              }
            />
            {one.route}, to {one.destination}
          </label>
        ))}
        {setting.routes.length === 0 && <p className="text-soft m-0">No route sends to people yet.</p>}
        <p className="text-soft m-0">
          Each record that such a route adds or changes counts as one message. People over the limit are
          skipped until a later run. Opt-outs are always sent.
        </p>
        <Failure error={save.error} />
        <div>
          <Act disabled={save.isPending} onClick={() => save.mutate()}>
            Set
          </Act>
        </div>
      </div>
    </Card>
  );
}
