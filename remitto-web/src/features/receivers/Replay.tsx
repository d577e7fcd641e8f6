import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ok } from '../../api/client';
import type { Receiver } from '../../api/types';
import { AskFirst } from '../../components/AskFirst';
import { counted } from '../../components/format';
import { Button, Labelled, Select } from '../../components/ui';
import { Editors } from '../session/Editors';

const HOUR = 3_600_000;

const FROM = [
  { hours: 1, title: 'the last hour' },
  { hours: 24, title: 'the last 24 hours' },
  { hours: 168, title: 'the last 7 days' },
  { hours: 0, title: 'all calls that are kept' },
];

/** Lays calls out again from a moment on. */
export function Replay({ receiver }: { receiver: Receiver }) {
  const client = useQueryClient();
  const [hours, setHours] = useState(24);
  const replay = useMutation({
    mutationFn: () =>
      ok(
        api.POST('/api/receivers/{id}/replay', {
          params: { path: { id: receiver.id } },
          body: { from: new Date(hours === 0 ? 0 : Date.now() - hours * HOUR).toISOString() },
        }),
      ),
    onSuccess: () => {
      void client.invalidateQueries({ queryKey: ['receiver', String(receiver.id)] });
      void client.invalidateQueries({ queryKey: ['received-calls', receiver.id] });
    },
  });
  return (
    <Editors>
      <AskFirst
        trigger={<Button kind="quiet">Replay calls</Button>}
        title="Replay calls?"
        act={replay.data ? 'Replay again' : 'Replay calls'}
        pending={replay.isPending}
        error={replay.error}
        onAct={() => replay.mutate()}
        detail={
          <>
            <Labelled label="From">
              <Select value={hours} onChange={(event) => setHours(Number(event.target.value))}>
                {FROM.map((one) => (
                  <option key={one.hours} value={one.hours}>
                    {one.title}
                  </option>
                ))}
              </Select>
            </Labelled>
            <p role="status" className="m-0 empty:hidden">
              {replay.data && `${counted(replay.data.calls, 'call')} laid out again.`}
            </p>
          </>
        }
      >
        Their rows are made anew from what was kept of them, and no event is doubled. The table shows the rows
        as they were until that is done.
      </AskFirst>
    </Editors>
  );
}
