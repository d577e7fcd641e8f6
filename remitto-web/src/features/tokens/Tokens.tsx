import { useMutation } from '@tanstack/react-query';
import { api, ok } from '../../api/client';
import type { ApiToken, ServiceAccount } from '../../api/types';
import { counted, moment } from '../../components/format';
import { Ago } from '../../components/Moment';
import { Button, Card, Empty, Failure, Pill, TD, TH } from '../../components/ui';
import { NewToken } from './NewToken';
import { scopeWords } from './words';

export function isOpen(token: ApiToken): boolean {
  return token.revokedAt === undefined && new Date(token.expiresAt) > new Date();
}

function reach({ narrowing }: ApiToken): string {
  const parts = [
    narrowing.routeIds.length > 0 && counted(narrowing.routeIds.length, 'route'),
    narrowing.destinationIds.length > 0 && counted(narrowing.destinationIds.length, 'destination'),
  ].filter((part) => part !== false);
  return parts.length === 0 ? 'everything' : parts.join(' and ');
}

/** The tokens of a service account: made, told once, revoked. */
export function Tokens({ account, onChanged }: { account: ServiceAccount; onChanged: () => void }) {
  const revoke = useMutation({
    mutationFn: (token: number) =>
      ok(
        api.DELETE('/api/service-accounts/{id}/tokens/{token}', {
          params: { path: { id: account.id, token } },
        }),
      ),
    onSuccess: onChanged,
  });
  return (
    <Card title={`Tokens of ${account.name}`} className="pb-2">
      <Failure error={revoke.error} />
      {account.tokens.length === 0 ? (
        <Empty>It has no token, so it can do nothing yet.</Empty>
      ) : (
        <table className="w-full border-collapse">
          <thead>
            <tr>
              <th className={TH}>For</th>
              <th className={TH}>May</th>
              <th className={TH}>On</th>
              <th className={TH}>Last used</th>
              <th className={TH}>Ends</th>
              <th className={TH}>
                <span className="sr-only">Action</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {account.tokens.map((token) => (
              <tr key={token.id}>
                <td className={TD}>
                  {token.name} <code className="text-soft">…{token.tail}</code>
                </td>
                <td className={TD}>{scopeWords(token.scopes)}</td>
                <td className={TD}>{reach(token)}</td>
                <td className={TD}>
                  {token.lastUsedAt ? (
                    <>
                      <Ago at={token.lastUsedAt} />{' '}
                      <span className="text-soft">from {token.lastUsedFrom}</span>
                    </>
                  ) : (
                    <span className="text-soft">never</span>
                  )}
                </td>
                <td className={`${TD} whitespace-nowrap`}>{moment(token.expiresAt)}</td>
                <td className={`${TD} text-right`}>
                  {token.revokedAt ? (
                    <Pill>revoked</Pill>
                  ) : !isOpen(token) ? (
                    <Pill>expired</Pill>
                  ) : (
                    <Button
                      kind="quiet"
                      aria-label={`Revoke token ${token.name}`}
                      disabled={revoke.isPending}
                      onClick={() => revoke.mutate(token.id)}
                    >
                      Revoke
                    </Button>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <NewToken accountId={account.id} onMade={onChanged} />
    </Card>
  );
}
