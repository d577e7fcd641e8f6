import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ok } from '../../api/client';
import type { Account, Right, Role } from '../../api/types';
import { Loaded } from '../../components/Loaded';
import {
  Button,
  ButtonLink,
  Card,
  Failure,
  Input,
  Labelled,
  Page,
  Pill,
  Select,
  TD,
  TH,
} from '../../components/ui';
import { Invitations } from './Invitations';
import { NewUser } from './NewUser';
import { RIGHTS, RIGHT_WORDS, ROLES, ROLE_WORDS } from './words';

/** Who may sign in, as what, and what they may see. For administrators. */
export function UsersPage() {
  const users = useQuery({ queryKey: ['users'], queryFn: () => ok(api.GET('/api/users')) });
  const rights = useQuery({
    queryKey: ['role-rights'],
    queryFn: () => ok(api.GET('/api/users/role-rights')),
  });
  return (
    <Loaded title="Users" query={users}>
      {(all) => (
        <Loaded title="Users" query={rights}>
          {(byRole) => <Users users={all} byRole={byRole as Record<Role, Right[]>} />}
        </Loaded>
      )}
    </Loaded>
  );
}

function Users({ users, byRole }: { users: Account[]; byRole: Record<Role, Right[]> }) {
  const [chosen, setChosen] = useState(0);
  const user = users.find((one) => one.id === chosen);
  return (
    <Page
      title="Users"
      note="Accounts are deactivated, never deleted, because the history refers to them."
      actions={<ButtonLink to="/service-accounts">Service accounts</ButtonLink>}
    >
      <div className="grid grid-cols-1 lg:grid-cols-[minmax(0,7fr)_minmax(320px,4fr)] items-start gap-4">
        <div className="flex min-w-0 flex-col gap-3">
          <Card className="pb-2">
            <table className="w-full border-collapse">
              <thead>
                <tr>
                  <th className={TH}>Name</th>
                  <th className={TH}>E-mail</th>
                  <th className={TH}>Role</th>
                  <th className={TH}>Rights</th>
                </tr>
              </thead>
              <tbody>
                {users.map((one) => (
                  <tr key={one.id} className={one.id === chosen ? 'bg-sunk' : ''}>
                    <td className={TD}>
                      <button
                        type="button"
                        className="text-deep cursor-pointer underline"
                        aria-pressed={one.id === chosen}
                        onClick={() => setChosen(one.id === chosen ? 0 : one.id)}
                      >
                        {one.name}
                      </button>{' '}
                      {!one.active && <Pill tone="warn">deactivated</Pill>}
                    </td>
                    <td className={TD}>{one.email}</td>
                    <td className={TD}>{ROLE_WORDS[one.role]}</td>
                    <td className={`${TD} text-soft`}>
                      {one.rights.map((right) => RIGHT_WORDS[right]).join(', ') ||
                        'personal values are masked'}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </Card>
          <RoleRights byRole={byRole} />
        </div>
        {user ? (
          <UserForm key={user.id} user={user} byRole={byRole} />
        ) : (
          <div className="flex min-w-0 flex-col gap-3">
            <Invitations />
            <NewUser />
          </div>
        )}
      </div>
    </Page>
  );
}

function RoleRights({ byRole }: { byRole: Record<Role, Right[]> }) {
  const client = useQueryClient();
  const change = useMutation({
    mutationFn: (body: Record<string, Right[]>) => ok(api.PUT('/api/users/role-rights', { body })),
    onSuccess: async () => {
      await client.invalidateQueries({ queryKey: ['role-rights'] });
      await client.invalidateQueries({ queryKey: ['users'] });
    },
  });
  return (
    <Card title="Rights by role" aside="Takes effect with the next request" className="pb-2">
      <Failure error={change.error} />
      <table className="w-full border-collapse">
        <thead>
          <tr>
            <th className={TH}>Role</th>
            {RIGHTS.map((right) => (
              <th key={right} className={TH}>
                {RIGHT_WORDS[right]}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {ROLES.map((role) => (
            <tr key={role}>
              <td className={TD}>{ROLE_WORDS[role]}</td>
              {RIGHTS.map((right) => {
                const has = byRole[role].includes(right);
                return (
                  <td key={right} className={TD}>
                    <input
                      type="checkbox"
                      aria-label={`${ROLE_WORDS[role]}: ${RIGHT_WORDS[right]}`}
                      checked={has}
                      disabled={change.isPending}
                      onChange={() =>
                        change.mutate({
                          [role]: has
                            ? byRole[role].filter((one) => one !== right)
                            : [...byRole[role], right],
                        })
                      }
                    />
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
    </Card>
  );
}

function UserForm({ user, byRole }: { user: Account; byRole: Record<Role, Right[]> }) {
  const client = useQueryClient();
  const [email, setEmail] = useState(user.email);
  const [name, setName] = useState(user.name);
  const [role, setRole] = useState<Role>(user.role);
  const [rights, setRights] = useState<Right[]>(user.rights);
  const [password, setPassword] = useState('');
  // What was given or taken of this user alone stays so; all else is as the role has it.
  const become = (next: Role) => {
    setRights(
      RIGHTS.filter((right) =>
        rights.includes(right) === byRole[role].includes(right)
          ? byRole[next].includes(right)
          : rights.includes(right),
      ),
    );
    setRole(next);
  };
  const path = { params: { path: { id: user.id } } };
  const reload = () => client.invalidateQueries({ queryKey: ['users'] });
  const save = useMutation({
    mutationFn: () =>
      ok(
        api.PUT('/api/users/{id}', {
          ...path,
          body: {
            email,
            name,
            role,
            rights: Object.fromEntries(
              RIGHTS.filter((right) => rights.includes(right) !== byRole[role].includes(right)).map(
                (right) => [right, rights.includes(right)],
              ),
            ),
          },
        }),
      ),
    onSuccess: reload,
  });
  const activate = useMutation({
    mutationFn: () =>
      user.active
        ? ok(api.POST('/api/users/{id}/deactivate', path))
        : ok(api.POST('/api/users/{id}/activate', path)),
    onSuccess: reload,
  });
  const reset = useMutation({
    mutationFn: () => ok(api.PUT('/api/users/{id}/password', { ...path, body: { password } })),
    onSuccess: () => setPassword(''),
  });
  const factor = useMutation({
    mutationFn: () => ok(api.POST('/api/users/{id}/second-factor/reset', path)),
  });
  const end = useMutation({
    mutationFn: () => ok(api.DELETE('/api/users/{id}/sessions', path)),
  });
  return (
    <Card title={user.name}>
      <div className="flex flex-col gap-3 px-4 pb-4">
        <Labelled label="Name">
          <Input className="w-full" value={name} onChange={(event) => setName(event.target.value)} />
        </Labelled>
        <Labelled label="E-mail">
          <Input className="w-full" value={email} onChange={(event) => setEmail(event.target.value)} />
        </Labelled>
        <Labelled label="Role">
          <Select className="w-full" value={role} onChange={(event) => become(event.target.value as Role)}>
            {ROLES.map((one) => (
              <option key={one} value={one}>
                {ROLE_WORDS[one]}
              </option>
            ))}
          </Select>
        </Labelled>
        <fieldset className="m-0 flex flex-col gap-1 border-0 p-0">
          <legend className="text-soft mb-1 p-0">Rights of this user</legend>
          {RIGHTS.map((right) => (
            <label key={right} className="flex items-center gap-2">
              <input
                type="checkbox"
                checked={rights.includes(right)}
                onChange={(event) =>
                  setRights(event.target.checked ? [...rights, right] : rights.filter((one) => one !== right))
                }
              />
              {RIGHT_WORDS[right]}
            </label>
          ))}
        </fieldset>
        <Failure error={save.error ?? activate.error} />
        <div className="flex flex-wrap gap-2">
          <Button kind="primary" disabled={save.isPending} onClick={() => save.mutate()}>
            Save user
          </Button>
          <Button kind="quiet" disabled={activate.isPending} onClick={() => activate.mutate()}>
            {user.active ? 'Deactivate' : 'Activate'}
          </Button>
          <Button kind="quiet" disabled={end.isPending} onClick={() => end.mutate()}>
            End sessions
          </Button>
        </div>
        {end.isSuccess && (
          <p role="status" className="text-soft m-0">
            All sessions of {user.name} were ended.
          </p>
        )}
        <div>
          <Button kind="quiet" disabled={factor.isPending} onClick={() => factor.mutate()}>
            Turn off second factor
          </Button>
          <Failure error={factor.error} />
          {factor.isSuccess && (
            <p role="status" className="text-soft m-0">
              {user.name} signs in with the password alone, and can set up a new second factor.
            </p>
          )}
        </div>
        <Labelled label="New password" note="Ends all sessions of this user.">
          <Input
            className="w-full"
            type="password"
            autoComplete="new-password"
            value={password}
            onChange={(event) => setPassword(event.target.value)}
          />
        </Labelled>
        <Failure error={reset.error} />
        <div>
          <Button disabled={password === '' || reset.isPending} onClick={() => reset.mutate()}>
            Reset password
          </Button>
        </div>
      </div>
    </Card>
  );
}
