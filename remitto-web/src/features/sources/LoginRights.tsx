import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ok } from '../../api/client';
import type { Source } from '../../api/types';
import { Ago } from '../../components/Moment';
import { Button, Failure, Input, Labelled } from '../../components/ui';
import { useIsAdministrator } from '../session/useSession';

/** What the login of a source may do beyond reading, and who accepted that. */
export function LoginRights({ source, beyond }: { source: Source; beyond: string[] }) {
  const client = useQueryClient();
  const mayAccept = useIsAdministrator();
  const [reason, setReason] = useState('');
  const accept = useMutation({
    mutationFn: () =>
      ok(
        api.POST('/api/sources/{id}/accept-login', {
          params: { path: { id: source.id } },
          body: { reason },
        }),
      ),
    onSuccess: (fresh) => client.setQueryData(['source', String(source.id)], fresh),
  });
  if (beyond.length === 0) return null;
  const accepted = source.acceptedLogin;
  return (
    <div className="border-hairline flex flex-col gap-2 border-b px-4 py-3">
      <p className="m-0 font-semibold">
        {accepted
          ? 'This login can do more than read. Its use was accepted.'
          : 'This login can do more than read, so Remitto does not use it.'}
      </p>
      <ul className="text-changed m-0 max-h-40 list-disc overflow-auto pl-5">
        {beyond.map((one) => (
          <li key={one}>It {one}.</li>
        ))}
      </ul>
      {accepted ? (
        <p className="text-soft m-0">
          Accepted by {accepted.by} <Ago at={accepted.at} />: {accepted.reason}
        </p>
      ) : (
        <>
          {(source.report?.grants.length ?? 0) > 0 && (
            <p className="text-soft m-0">The statements below create a read-only login.</p>
          )}
          {mayAccept && (
            <form
              className="flex items-end gap-2"
              onSubmit={(event) => {
                event.preventDefault();
                accept.mutate();
              }}
            >
              <div className="flex-1">
                <Labelled label="Reason to use this login">
                  <Input
                    className="w-full"
                    value={reason}
                    onChange={(event) => setReason(event.target.value)}
                    required
                  />
                </Labelled>
              </div>
              <Button type="submit" disabled={accept.isPending}>
                Accept login
              </Button>
            </form>
          )}
        </>
      )}
      <Failure error={accept.error} />
    </div>
  );
}
