import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ok } from '../../api/client';
import type { Role } from '../../api/types';
import { moment } from '../../components/format';
import { Ago } from '../../components/Moment';
import { Button, Card, Failure, Input, Labelled, Select } from '../../components/ui';
import { ROLES, ROLE_WORDS } from './words';
import { at } from '../../components/base';

const QUERY = { queryKey: ['invitations'], queryFn: () => ok(api.GET('/api/users/invitations')) };

/** Invites somebody by a link that works once, and lists the links that nobody has used yet. */
export function Invitations() {
  const client = useQueryClient();
  const open = useQuery(QUERY);
  const [email, setEmail] = useState('');
  const [role, setRole] = useState<Role>('VIEWER');
  const again = () => client.invalidateQueries({ queryKey: QUERY.queryKey });
  const invite = useMutation({
    mutationFn: () => ok(api.POST('/api/users/invitations', { body: { email, role } })),
    onSuccess: async () => {
      setEmail('');
      await again();
    },
  });
  const withdraw = useMutation({
    mutationFn: (id: number) => ok(api.DELETE('/api/users/invitations/{id}', { params: { path: { id } } })),
    onSettled: again,
  });
  const link = invite.data && location.origin + at(`/welcome/${invite.data.token}`);
  return (
    <Card title="Invite by link">
      <form
        className="flex flex-col gap-3 px-4 pb-4"
        onSubmit={(event) => {
          event.preventDefault();
          invite.mutate();
        }}
      >
        <Labelled label="E-mail of the invited person">
          <Input
            className="w-full"
            type="email"
            value={email}
            onChange={(event) => setEmail(event.target.value)}
            required
          />
        </Labelled>
        <Labelled label="Role of the invited person">
          <Select className="w-full" value={role} onChange={(event) => setRole(event.target.value as Role)}>
            {ROLES.map((one) => (
              <option key={one} value={one}>
                {ROLE_WORDS[one]}
              </option>
            ))}
          </Select>
        </Labelled>
        <Failure error={invite.error ?? withdraw.error ?? open.error} />
        <div>
          <Button kind="primary" type="submit" disabled={invite.isPending}>
            Make link
          </Button>
        </div>
        {link && (
          <div role="status" className="rounded-button bg-sunk px-3 py-2">
            <p className="m-0 mb-1">
              Send this link to the person. It works once, until {moment(invite.data.expiresAt)}, and is not
              shown again.
            </p>
            <code className="wrap-anywhere">{link}</code>{' '}
            <Button kind="quiet" onClick={() => void navigator.clipboard.writeText(link)}>
              Copy link
            </Button>
          </div>
        )}
      </form>
      {open.data && open.data.length > 0 && (
        <ul className="border-hairline m-0 list-none border-t px-4 py-2" aria-label="Open invitations">
          {open.data.map((one) => (
            <li key={one.id} className="flex items-baseline justify-between gap-2 py-0.5">
              <span className="wrap-anywhere">
                {one.email || 'First administrator'}{' '}
                <span className="text-soft">
                  {ROLE_WORDS[one.role]}, by {one.madeBy} <Ago at={one.madeAt} />
                </span>
              </span>
              <Button
                kind="quiet"
                aria-label={`Withdraw invitation of ${one.email}`}
                disabled={withdraw.isPending}
                onClick={() => withdraw.mutate(one.id)}
              >
                Withdraw
              </Button>
            </li>
          ))}
        </ul>
      )}
    </Card>
  );
}
