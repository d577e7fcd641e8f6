import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useParams } from 'react-router';
import { api, ok } from '../../api/client';
import type { Receiver } from '../../api/types';
import { ArchiveButton } from '../../components/ArchiveButton';
import { counted } from '../../components/format';
import { Loaded } from '../../components/Loaded';
import { Ago } from '../../components/Moment';
import { Card, Failure, Page } from '../../components/ui';
import { queryOf } from '../landing/names';
import { Act, ActLink } from '../session/Editors';
import { AddressCard } from './AddressCard';
import { Calls } from './Calls';
import { upTo } from './ReceiversOfSource';
import { Replay } from './Replay';
import { meaningWords } from './words';

/** A receiver: where other tools call, what they called with, and what became of that. */
export function ReceiverPage() {
  const { id = '' } = useParams();
  const receiver = useQuery({
    queryKey: ['receiver', id],
    queryFn: () => ok(api.GET('/api/receivers/{id}', { params: { path: { id: Number(id) } } })),
    refetchInterval: 3_000,
  });
  return (
    <Loaded title="Receiver" query={receiver}>
      {(found) => <Found receiver={found} />}
    </Loaded>
  );
}

function Found({ receiver }: { receiver: Receiver }) {
  const client = useQueryClient();
  const path = { id: receiver.id };
  const here = `/sources/${receiver.sourceId}/receivers/${receiver.id}`;
  const pause = useMutation({
    mutationFn: () =>
      receiver.paused
        ? ok(api.POST('/api/receivers/{id}/resume', { params: { path } }))
        : ok(api.POST('/api/receivers/{id}/pause', { params: { path } })),
    onSuccess: (saved) => client.setQueryData(['receiver', String(receiver.id)], saved),
  });
  const { definition, counts } = receiver;
  const ready = receiver.catching && counts.waiting > 0;
  return (
    <Page
      title={receiver.name}
      of={`receiver of ${receiver.source}`}
      note={
        <>
          {counts.lastAt ? (
            <>
              Last call <Ago at={counts.lastAt} />
            </>
          ) : (
            'Not called yet'
          )}
          {receiver.paused && '; paused: calls are kept and not laid out'}
        </>
      }
      actions={
        <>
          <ArchiveButton
            kind="receiver"
            name={receiver.name}
            consequence="Its address takes no more calls. What was kept stays in its table."
            to={`/sources/${receiver.sourceId}`}
            archive={() => ok(api.DELETE('/api/receivers/{id}', { params: { path } }))}
          />
          {!receiver.catching && <Replay receiver={receiver} />}
          <Act disabled={pause.isPending} onClick={() => pause.mutate()}>
            {receiver.paused ? 'Resume' : 'Pause'}
          </Act>
          <ActLink to={`${here}/edit`} kind={ready ? 'primary' : 'plain'}>
            {ready ? 'Choose columns' : 'Edit receiver'}
          </ActLink>
        </>
      }
    >
      <Failure error={pause.error} />
      {receiver.problem && <Failure error={new Error(receiver.problem)} />}
      {receiver.catching ? (
        <Told>
          {ready
            ? `${counted(counts.waiting, 'call')} caught as samples. Choose columns from them; nothing that was caught is lost.`
            : 'Calls are caught as samples until columns are chosen from them.'}
        </Told>
      ) : (
        receiver.layingOut && (
          <Told>Calls are laid out anew. Until all are, the table shows the rows as they were before.</Told>
        )
      )}
      <div className="grid grid-cols-1 items-start gap-4 lg:grid-cols-[300px_minmax(0,1fr)]">
        <div className="flex min-w-0 flex-col gap-4">
          <AddressCard receiver={receiver} />
          <Card title="What it makes of calls" className="pb-3">
            <dl className="m-0 grid grid-cols-[auto_minmax(0,1fr)] gap-x-3 gap-y-1.5 px-4 pt-1">
              <dt className="text-soft">Calls</dt>
              <dd className="m-0">{upTo(counts.lastDay)} in 24 hours</dd>
              {counts.held > 0 && (
                <>
                  <dt className="text-soft">Held</dt>
                  <dd className="text-held m-0">‖ {upTo(counts.held)}</dd>
                </>
              )}
              {!receiver.catching && (
                <>
                  <dt className="text-soft">Columns</dt>
                  <dd className="m-0 font-mono break-all">
                    {definition.columns.map((one) => one.name).join(', ')}
                  </dd>
                  <dt className="text-soft">Several</dt>
                  <dd className="m-0">{meaningWords(definition.several)}</dd>
                  <dt className="text-soft">Event key</dt>
                  <dd className="m-0 font-mono break-all">{definition.eventKey || 'as the tool says'}</dd>
                </>
              )}
              <dt className="text-soft">Kept</dt>
              <dd className="m-0">
                {definition.keepDays === 0 ? 'for good' : counted(definition.keepDays, 'day')}
              </dd>
              <dt className="text-soft">Table</dt>
              <dd className="m-0 font-mono break-all">landed.{receiver.table}</dd>
            </dl>
            {!receiver.catching && (
              <div className="px-4 pt-3">
                <ActLink
                  to={`/datasets/new?source=${receiver.sourceId}&name=${encodeURIComponent(receiver.name)}&sql=${encodeURIComponent(
                    queryOf(
                      receiver.table,
                      definition.columns.map((one) => one.name),
                    ),
                  )}`}
                >
                  New dataset
                </ActLink>
              </div>
            )}
          </Card>
        </div>
        <Calls receiver={receiver} />
      </div>
    </Page>
  );
}

function Told({ children }: { children: React.ReactNode }) {
  return (
    <p role="status" className="rounded-button border-hairline bg-sunk m-0 mb-3 border px-3 py-2">
      {children}
    </p>
  );
}
