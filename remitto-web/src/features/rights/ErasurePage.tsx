import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { api, ok } from '../../api/client';
import type { Erasure, Removal } from '../../api/types';
import { moment } from '../../components/format';
import { Loaded } from '../../components/Loaded';
import { Button, Card, Failure, Input, Labelled, Page, Pill } from '../../components/ui';
import { useMayApprove } from '../session/useMayApprove';
import { Counts } from './Counts';
import { Removals } from './Removals';
import { Unreached } from './Unreached';
import { at } from '../../components/base';

const KEY = 'erasure';

/** The receipt of an erasure, as far as it has come. */
export function ErasurePage() {
  const { id = '' } = useParams();
  const erasure = useQuery({
    queryKey: [KEY, Number(id)],
    queryFn: () => ok(api.GET('/api/erasures/{id}', { params: { path: { id: Number(id) } } })),
    refetchInterval: (query) => (query.state.data?.finishedAt === undefined ? 1500 : false),
  });
  return (
    <Loaded title="Erasure" query={erasure}>
      {(found) => <Receipt erasure={found} />}
    </Loaded>
  );
}

function Receipt({ erasure }: { erasure: Erasure }) {
  const mayErase = useMayApprove();
  return (
    <Page
      title={`Receipt of erasure ${erasure.id}`}
      of={erasure.reference}
      note={
        <>
          It contains no name or address.{' '}
          <Link to="/people/erasures" className="text-deep underline">
            All erasures
          </Link>
          .
        </>
      }
      actions={
        <a
          className="rounded-button border-hairline bg-card inline-block border px-3 py-1.5 font-semibold no-underline"
          href={at(`/api/erasures/${erasure.id}`)}
          download={`erasure-${erasure.id}.json`}
        >
          Download
        </a>
      }
    >
      <div className="grid grid-cols-1 lg:grid-cols-[minmax(0,7fr)_minmax(320px,4fr)] items-start gap-4">
        <div className="flex min-w-0 flex-col gap-3">
          <Card title="Progress">
            <dl className="m-0 grid grid-cols-[max-content_1fr] gap-x-4 gap-y-1 px-4 pb-3">
              <dt className="text-soft">Asked</dt>
              <dd className="m-0">
                {moment(erasure.askedAt)}, by {erasure.askedBy}. Since then, incoming records of the person
                are rejected.
              </dd>
              <dt className="text-soft">Erased in Remitto</dt>
              <dd className="m-0">{erasure.forgottenAt ? moment(erasure.forgottenAt) : 'not yet'}</dd>
              <dt className="text-soft">Done</dt>
              <dd className="m-0">
                {erasure.finishedAt ? moment(erasure.finishedAt) : <Pill tone="warn">not yet</Pill>}
                {erasure.underWay !== '' && <span className="block">{erasure.underWay}</span>}
                {erasure.waitsFor !== '' && <span className="block">{erasure.waitsFor}</span>}
              </dd>
            </dl>
          </Card>
          <Removals
            title="In destinations"
            removals={erasure.removals}
            actions={(removal) =>
              removal.state === 'BY_HAND' && mayErase ? <ByHand erasure={erasure} removal={removal} /> : null
            }
          />
          <Card title="Erased in Remitto">
            <Counts counts={erasure.counts} />
          </Card>
        </div>
        <div className="flex min-w-0 flex-col gap-3">
          <Card title="Source rows">
            <div className="px-4 pb-3">
              <p className="mt-0 mb-2">
                Remitto only reads sources and cannot delete these rows. As long as they exist, they are
                rejected.
              </p>
              <Counts counts={erasure.sources} unit="row" />
            </div>
          </Card>
          <Unreached sentences={erasure.unreached} />
          <LetIn erasure={erasure} mayErase={mayErase} />
        </div>
      </div>
    </Page>
  );
}

function ByHand({ erasure, removal }: { erasure: Erasure; removal: Removal }) {
  const client = useQueryClient();
  const params = { path: { id: erasure.id, number: removal.number } };
  const settle = useMutation({
    mutationFn: (done: boolean) =>
      ok(
        done
          ? api.POST('/api/erasures/{id}/removals/{number}/done', { params })
          : api.POST('/api/erasures/{id}/removals/{number}/again', { params }),
      ),
    onSuccess: (saved) => client.setQueryData([KEY, erasure.id], saved),
  });
  return (
    <span className="mt-1 flex gap-2">
      <Button disabled={settle.isPending} onClick={() => settle.mutate(true)}>
        Mark as removed
      </Button>
      <Button disabled={settle.isPending} onClick={() => settle.mutate(false)}>
        Try again
      </Button>
      <Failure error={settle.error} />
    </span>
  );
}

/** Whoever was erased can come back at their own request. */
function LetIn({ erasure, mayErase }: { erasure: Erasure; mayErase: boolean }) {
  const client = useQueryClient();
  const [reason, setReason] = useState('');
  const letIn = useMutation({
    mutationFn: () =>
      ok(
        api.POST('/api/erasures/{id}/let-back-in', {
          params: { path: { id: erasure.id } },
          body: { reason },
        }),
      ),
    onSuccess: (saved) => client.setQueryData([KEY, erasure.id], saved),
  });
  return (
    <Card title="If the person returns">
      <div className="px-4 pb-3">
        {erasure.letBackIn !== '' ? (
          <p className="m-0">Allowed again: {erasure.letBackIn}</p>
        ) : (
          <>
            <p className="mt-0 mb-2">
              Their records and addresses are stored only as keyed hashes and are rejected. If they ask to be
              included again, allow it here. Erased data is not restored.
            </p>
            {mayErase && (
              <div className="flex items-end gap-2">
                <Labelled label="Why">
                  <Input
                    value={reason}
                    placeholder="signed up again"
                    onChange={(event) => setReason(event.target.value)}
                  />
                </Labelled>
                <Button disabled={letIn.isPending} onClick={() => letIn.mutate()}>
                  Allow again
                </Button>
              </div>
            )}
            <Failure error={letIn.error} />
          </>
        )}
      </div>
    </Card>
  );
}
