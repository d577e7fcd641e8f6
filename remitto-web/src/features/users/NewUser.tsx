import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ok } from '../../api/client';
import type { Role } from '../../api/types';
import { Button, Card, Failure, Input, Labelled, Select } from '../../components/ui';
import { ROLES, ROLE_WORDS } from './words';

const NOBODY = { email: '', name: '', role: 'VIEWER' as Role, password: '' };

/** Adds an account. */
export function NewUser() {
  const client = useQueryClient();
  const [user, setUser] = useState(NOBODY);
  const add = useMutation({
    mutationFn: () => ok(api.POST('/api/users', { body: user })),
    onSuccess: async () => {
      setUser(NOBODY);
      await client.invalidateQueries({ queryKey: ['users'] });
    },
  });
  return (
    <Card title="Add user">
      <form
        className="flex flex-col gap-3 px-4 pb-4"
        onSubmit={(event) => {
          event.preventDefault();
          add.mutate();
        }}
      >
        <Labelled label="Name">
          <Input
            className="w-full"
            value={user.name}
            onChange={(event) => setUser({ ...user, name: event.target.value })}
            required
          />
        </Labelled>
        <Labelled label="E-mail">
          <Input
            className="w-full"
            type="email"
            value={user.email}
            onChange={(event) => setUser({ ...user, email: event.target.value })}
            required
          />
        </Labelled>
        <Labelled label="Role">
          <Select
            className="w-full"
            value={user.role}
            onChange={(event) => setUser({ ...user, role: event.target.value as Role })}
          >
            {ROLES.map((one) => (
              <option key={one} value={one}>
                {ROLE_WORDS[one]}
              </option>
            ))}
          </Select>
        </Labelled>
        <Labelled label="First password" note="At least 10 characters that are hard to guess.">
          <Input
            className="w-full"
            type="password"
            autoComplete="new-password"
            value={user.password}
            onChange={(event) => setUser({ ...user, password: event.target.value })}
            required
          />
        </Labelled>
        <Failure error={add.error} />
        <div>
          <Button kind="primary" type="submit" disabled={add.isPending}>
            Add user
          </Button>
        </div>
      </form>
    </Card>
  );
}
