import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import { api, ok } from '../../api/client';
import type { ErasureOutlook } from '../../api/types';
import { counted } from '../../components/format';
import { Loaded } from '../../components/Loaded';
import { AskFirst } from '../../components/AskFirst';
import { Button, ButtonLink, Card, Input, Labelled, Page } from '../../components/ui';
import { useMayApprove } from '../session/useMayApprove';
import { Counts } from './Counts';
import { Removals } from './Removals';
import { Unreached } from './Unreached';

/** What erasing a person would do, before anybody does it. */
export function ErasePage() {
  const { id = '' } = useParams();
  const personId = Number(id);
  const outlook = useQuery({
    queryKey: ['erasure-outlook', personId],
    queryFn: () => ok(api.POST('/api/erasures/outlook/{personId}', { params: { path: { personId } } })),
  });
  return (
    <Loaded title="Erase a person" query={outlook}>
      {(found) => <Outlook personId={personId} outlook={found} />}
    </Loaded>
  );
}

function Outlook({ personId, outlook }: { personId: number; outlook: ErasureOutlook }) {
  const navigate = useNavigate();
  const mayErase = useMayApprove();
  const [reference, setReference] = useState('');
  const erase = useMutation({
    mutationFn: () => ok(api.POST('/api/erasures', { body: { personId, reference } })),
    onSuccess: (erasure) => navigate(`/people/erasures/${erasure.id}`),
  });
  return (
    <Page
      title="Erase"
      of={`person ${personId}`}
      note="Nothing has happened yet. This is what would be erased in Remitto and removed from destinations. It cannot be undone."
      actions={<ButtonLink to={`/people/${personId}/file`}>File of this person</ButtonLink>}
    >
      <div className="grid grid-cols-1 lg:grid-cols-[minmax(0,7fr)_minmax(320px,4fr)] items-start gap-4">
        <div className="flex min-w-0 flex-col gap-3">
          <Removals title="Removed from destinations" removals={outlook.removals} />
          <Card title="Erased in Remitto">
            <Counts counts={outlook.counts} />
          </Card>
        </div>
        <div className="flex min-w-0 flex-col gap-3">
          <Card title="Erase this person">
            <div className="flex flex-col gap-3 px-4 pb-4">
              <Labelled
                label="Request"
                note="For example the number of a letter. It appears on the receipt, so it must not contain a name."
              >
                <Input
                  required
                  value={reference}
                  placeholder="letter 2026-114"
                  onChange={(event) => setReference(event.target.value)}
                />
              </Labelled>
              {mayErase ? (
                <div>
                  <AskFirst
                    trigger={
                      <Button kind="primary" disabled={reference.trim() === ''}>
                        Erase person {personId}
                      </Button>
                    }
                    title={`Erase person ${personId} permanently?`}
                    act="Erase permanently"
                    pending={erase.isPending}
                    error={erase.error}
                    onAct={() => erase.mutate()}
                    onOpenChange={() => erase.reset()}
                  >
                    Starts immediately and cannot be stopped or undone. Data in Remitto is erased,{' '}
                    {counted(outlook.removals.length, 'record')} in destinations{' '}
                    {outlook.removals.length === 1 ? 'is' : 'are'} removed, and records with the
                    person&rsquo;s addresses are rejected from now on.
                  </AskFirst>
                </div>
              ) : (
                <p className="text-soft m-0">Only an approver or administrator can erase a person.</p>
              )}
            </div>
          </Card>
          <Unreached sentences={outlook.unreached} />
          <Card title="Still in sources">
            <div className="px-4 pb-3">
              <p className="mt-0 mb-2">
                Remitto only reads sources. Their owners must delete these rows. Until then, Remitto rejects
                them on every read.
              </p>
              <Counts counts={outlook.sources} unit="row" />
              {outlook.sharedAddresses > 0 && (
                <p className="text-soft mb-0">
                  {counted(outlook.sharedAddresses, 'address', 'addresses')} of theirs also belong to someone
                  else and {outlook.sharedAddresses === 1 ? 'is' : 'are'} not rejected.
                </p>
              )}
            </div>
          </Card>
        </div>
      </div>
    </Page>
  );
}
