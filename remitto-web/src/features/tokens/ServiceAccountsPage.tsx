import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ok } from '../../api/client';
import type { Right, ServiceAccount } from '../../api/types';
import { counted } from '../../components/format';
import { Loaded } from '../../components/Loaded';
import { Ago } from '../../components/Moment';
import { Button, Card, Empty, Failure, Input, Labelled, Page, Pill, TD, TH } from '../../components/ui';
import { RIGHTS, RIGHT_WORDS } from '../users/words';
import { isOpen, Tokens } from './Tokens';

const KEY = ['service-accounts'];

/** Accounts of programs, and the tokens they call with. For administrators. */
export function ServiceAccountsPage() {
  const all = useQuery({ queryKey: KEY, queryFn: () => ok(api.GET('/api/service-accounts')) });
  return (
    <Loaded title="Service accounts" query={all}>
      {(accounts) => <Accounts accounts={accounts} />}
    </Loaded>
  );
}

function Accounts({ accounts }: { accounts: ServiceAccount[] }) {
  const client = useQueryClient();
  const [chosen, setChosen] = useState(0);
  const account = accounts.find((one) => one.id === chosen);
  const reload = () => client.invalidateQueries({ queryKey: KEY });
  return (
    <Page
      title="Service accounts"
      note="Programs call the API with a token of a service account. What they do is in the journal under its name."
    >
      <div className="grid grid-cols-1 lg:grid-cols-[minmax(0,7fr)_minmax(320px,4fr)] items-start gap-4">
        <div className="flex min-w-0 flex-col gap-3">
          <Card className="pb-2">
            {accounts.length === 0 ? (
              <Empty>No program has an account yet. Add one, then make a token for it.</Empty>
            ) : (
              <table className="w-full border-collapse">
                <thead>
                  <tr>
                    <th className={TH}>Name</th>
                    <th className={TH}>Tokens</th>
                    <th className={TH}>Last used</th>
                    <th className={TH}>Rights</th>
                  </tr>
                </thead>
                <tbody>
                  {accounts.map((one) => (
                    <Row
                      key={one.id}
                      account={one}
                      chosen={one.id === chosen}
                      onChoose={() => setChosen(one.id === chosen ? 0 : one.id)}
                    />
                  ))}
                </tbody>
              </table>
            )}
          </Card>
          {account && <Tokens key={account.id} account={account} onChanged={reload} />}
        </div>
        <AccountForm
          key={account?.id ?? 0}
          account={account}
          onSaved={(saved) => {
            setChosen(saved.id);
            void reload();
          }}
        />
      </div>
    </Page>
  );
}

function Row({
  account,
  chosen,
  onChoose,
}: {
  account: ServiceAccount;
  chosen: boolean;
  onChoose: () => void;
}) {
  const used = account.tokens
    .flatMap((token) => token.lastUsedAt ?? [])
    .sort()
    .at(-1);
  return (
    <tr className={chosen ? 'bg-sunk' : ''}>
      <td className={TD}>
        <button
          type="button"
          className="text-deep cursor-pointer underline"
          aria-pressed={chosen}
          onClick={onChoose}
        >
          {account.name}
        </button>{' '}
        {!account.active && <Pill tone="warn">deactivated</Pill>}
      </td>
      <td className={TD}>{counted(account.tokens.filter((token) => isOpen(token)).length, 'token')}</td>
      <td className={TD}>{used ? <Ago at={used} /> : <span className="text-soft">never</span>}</td>
      <td className={`${TD} text-soft`}>
        {account.rights.map((right) => RIGHT_WORDS[right]).join(', ') || 'personal values are masked'}
      </td>
    </tr>
  );
}

function AccountForm({
  account,
  onSaved,
}: {
  account?: ServiceAccount;
  onSaved: (saved: ServiceAccount) => void;
}) {
  const [name, setName] = useState(account?.name ?? '');
  const [rights, setRights] = useState<Right[]>(account?.rights ?? []);
  const save = useMutation({
    mutationFn: (active: boolean) => {
      const body = { name, rights, active };
      return account
        ? ok(api.PUT('/api/service-accounts/{id}', { params: { path: { id: account.id } }, body }))
        : ok(api.POST('/api/service-accounts', { body }));
    },
    onSuccess: onSaved,
  });
  const active = account?.active ?? true;
  return (
    <Card title={account ? account.name : 'Add service account'}>
      <form
        className="flex flex-col gap-3 px-4 pb-4"
        onSubmit={(event) => {
          event.preventDefault();
          save.mutate(active);
        }}
      >
        <Labelled label="Name of the program">
          <Input
            className="w-full"
            value={name}
            maxLength={80}
            onChange={(event) => setName(event.target.value)}
            required
          />
        </Labelled>
        <fieldset className="m-0 flex flex-col gap-1 border-0 p-0">
          <legend className="text-soft mb-1 p-0">Rights, beyond the scopes of its tokens</legend>
          {/* A purpose is stated by people: a program never sees sensitive values. */}
          {RIGHTS.filter((right) => right !== 'SEE_SENSITIVE_VALUES').map((right) => (
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
        <Failure error={save.error} />
        <div className="flex flex-wrap gap-2">
          <Button kind="primary" type="submit" disabled={save.isPending}>
            {account ? 'Save service account' : 'Add service account'}
          </Button>
          {account && (
            <Button kind="quiet" disabled={save.isPending} onClick={() => save.mutate(!active)}>
              {active ? 'Deactivate' : 'Activate'}
            </Button>
          )}
        </div>
      </form>
    </Card>
  );
}
