import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ok } from '../../api/client';
import type { Keeping } from '../../api/types';
import { moment } from '../../components/format';
import { AskFirst } from '../../components/AskFirst';
import { Loaded } from '../../components/Loaded';
import { Button, Card, Input, Page, TD, TH } from '../../components/ui';
import { useIsAdministrator } from '../session/useSession';

const KEY = ['retention'];

/** How long each kind of data is kept. */
export function RetentionPage() {
  const retention = useQuery({ queryKey: KEY, queryFn: () => ok(api.GET('/api/retention')) });
  return (
    <Loaded title="Retention" query={retention}>
      {(kinds) => (
        <Page
          title="Retention"
          note="How long growing data is kept. Records, versions, run counts and journal entries are always kept."
        >
          <Card>
            <table className="w-full border-collapse">
              <thead>
                <tr>
                  <th className={TH}>Kind</th>
                  <th className={TH}>Kept</th>
                  <th className={TH}>Set by</th>
                </tr>
              </thead>
              <tbody className="[&>tr:last-child>*]:border-b-0">
                {kinds.map((kind) => (
                  <Kind key={kind.kind} keeping={kind} />
                ))}
              </tbody>
            </table>
          </Card>
        </Page>
      )}
    </Loaded>
  );
}

function Kind({ keeping }: { keeping: Keeping }) {
  const maySet = useIsAdministrator();
  return (
    <tr>
      <th scope="row" className={`${TD} text-left font-normal`}>
        <b>{keeping.title}</b>
        <span className="text-soft block max-w-[64ch]">{keeping.words}</span>
      </th>
      <td className={TD}>
        {maySet ? <Days keeping={keeping} /> : keeping.days ? `${keeping.days} days` : 'forever'}
      </td>
      <td className={TD}>
        {keeping.changedBy && keeping.changedAt ? `${keeping.changedBy}, ${moment(keeping.changedAt)}` : ''}
      </td>
    </tr>
  );
}

function Days({ keeping }: { keeping: Keeping }) {
  const client = useQueryClient();
  const now = keeping.days === undefined ? '' : String(keeping.days);
  const [days, setDays] = useState(now);
  const save = useMutation({
    mutationFn: () =>
      ok(
        api.PUT('/api/retention/{kind}', {
          params: { path: { kind: keeping.kind } },
          body: days === '' ? {} : { days: Number(days) },
        }),
      ),
    onSuccess: (saved) => client.setQueryData(KEY, saved),
  });
  return (
    <div className="flex items-center gap-2">
      <Input
        aria-label={`Days to keep ${keeping.title.toLowerCase()}; empty for forever`}
        className="w-[90px]"
        inputMode="numeric"
        placeholder="forever"
        value={days}
        onChange={(event) => setDays(event.target.value.replace(/\D/g, ''))}
      />
      <span>days</span>
      {days !== now && (
        <AskFirst
          key={now}
          trigger={<Button>Save</Button>}
          title={`${keeping.title}: keep ${days === '' ? 'forever' : `${days} days`}?`}
          act="Save"
          pending={save.isPending}
          error={save.error}
          onAct={() => save.mutate()}
          onOpenChange={() => save.reset()}
        >
          {days === ''
            ? 'Nothing more is deleted. Data already deleted cannot be restored.'
            : 'Older data is deleted within 15 minutes and cannot be restored.'}
        </AskFirst>
      )}
    </div>
  );
}
