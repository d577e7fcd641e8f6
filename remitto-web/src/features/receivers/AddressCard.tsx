import { useMutation } from '@tanstack/react-query';
import { api, ok } from '../../api/client';
import type { Receiver } from '../../api/types';
import { AskFirst } from '../../components/AskFirst';
import { At } from '../../components/Moment';
import { Button, Card, Failure } from '../../components/ui';
import { Act, Editors } from '../session/Editors';
import { checkWords } from './words';

/** What is pasted into the tool that calls. */
export function AddressCard({ receiver }: { receiver: Receiver }) {
  const path = { id: receiver.id };
  const show = useMutation({
    mutationFn: (act: 'show' | 'move' | 'secret') =>
      act === 'show'
        ? ok(api.POST('/api/receivers/{id}/address/show', { params: { path } }))
        : act === 'move'
          ? ok(api.POST('/api/receivers/{id}/address', { params: { path } }))
          : ok(api.POST('/api/receivers/{id}/secret', { params: { path }, body: {} })),
  });
  const at = show.data;
  const asks = receiver.definition.check.kind !== 'open';
  return (
    <Card title="Address" className="pb-4">
      <div className="flex flex-col gap-3 px-4 pt-1">
        <p className="text-soft m-0">
          What the tool that calls is given. Its calls are checked by {checkWords(receiver.definition.check)}.
        </p>
        <Failure error={show.error} />
        {at ? (
          <>
            <Pasted label="Address" value={at.url} />
            {asks && <Pasted label="Secret" value={at.secret} />}
            {at.formerUntil && (
              <p className="text-soft m-0">
                The secret before it is taken until <At at={at.formerUntil} />.
              </p>
            )}
            <Editors>
              <div className="flex flex-wrap gap-2">
                {asks && (
                  <AskFirst
                    trigger={<Button kind="quiet">Replace secret</Button>}
                    title="Replace the secret?"
                    act="Replace secret"
                    pending={show.isPending}
                    error={show.error}
                    onAct={() => show.mutate('secret')}
                  >
                    The secret of now is taken for 24 hours more, so that the tool can be changed meanwhile.
                  </AskFirst>
                )}
                <AskFirst
                  trigger={<Button kind="quiet">New address</Button>}
                  title="Give the receiver another address?"
                  act="Give another address"
                  pending={show.isPending}
                  error={show.error}
                  onAct={() => show.mutate('move')}
                >
                  The address of now takes no more calls at once. Calls that the tool makes there meanwhile
                  are refused, and lost unless it repeats them.
                </AskFirst>
              </div>
            </Editors>
          </>
        ) : (
          <div>
            <Act disabled={show.isPending} onClick={() => show.mutate('show')}>
              {asks ? 'Show address and secret' : 'Show address'}
            </Act>
          </div>
        )}
      </div>
    </Card>
  );
}

function Pasted({ label, value }: { label: string; value: string }) {
  return (
    <div>
      <div className="flex items-baseline justify-between gap-2">
        <span className="text-soft">{label}</span>
        <Button
          kind="quiet"
          aria-label={`Copy ${label}`}
          onClick={() => void navigator.clipboard.writeText(value)}
        >
          Copy
        </Button>
      </div>
      <div aria-label={label} className="rounded-button bg-sunk px-2 py-1.5 font-mono break-all" role="note">
        {value}
      </div>
    </div>
  );
}
