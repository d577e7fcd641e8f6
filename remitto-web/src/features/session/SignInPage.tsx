import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { api, ApiProblem, ok } from '../../api/client';
import { Button, Failure, Input, Labelled } from '../../components/ui';
import { Entrance } from './Entrance';

export function SignInPage() {
  const client = useQueryClient();
  const [params] = useSearchParams();
  const [email, setEmail] = useState('');
  const [password, setPassword] = useState('');
  const [code, setCode] = useState('');
  const [coded, setCoded] = useState(false);
  const signIn = useMutation({
    mutationFn: () =>
      ok(api.POST('/api/session', { body: coded ? { email, password, code } : { email, password } })),
    onSuccess: (session) => client.setQueryData(['session'], session),
    onError: (error) => {
      if (error instanceof ApiProblem && error.asksForCode) setCoded(true);
    },
  });
  // That a code is needed is no mistake of whoever signs in.
  const missing = coded && code === '' && signIn.error instanceof ApiProblem && signIn.error.asksForCode;
  const entrance = useQuery({
    queryKey: ['open-id'],
    queryFn: () => ok(api.GET('/api/session/open-id')),
    // Why a sign-in came to nothing is told once.
    staleTime: Infinity,
  });
  const elsewhere = useMutation({
    mutationFn: () => ok(api.POST('/api/session/open-id', { body: { to: params.get('to') ?? '/' } })),
    onSuccess: (begun) => location.assign(begun.address),
  });
  const { available = false, name = '', localAccounts = true, problem = '' } = entrance.data ?? {};
  const company = available && (
    <>
      <Failure error={elsewhere.error ?? (problem ? new Error(problem) : null)} />
      <Button
        kind={localAccounts ? 'plain' : 'primary'}
        disabled={elsewhere.isPending}
        onClick={() => elsewhere.mutate()}
      >
        Sign in with {name}
      </Button>
    </>
  );
  if (!localAccounts) return <Entrance title="Sign in">{company}</Entrance>;
  return (
    <Entrance title="Sign in" onSubmit={() => signIn.mutate()}>
      {company}
      <Labelled label="E-mail">
        <Input
          className="w-full"
          type="email"
          autoComplete="username"
          value={email}
          onChange={(e) => setEmail(e.target.value)}
          required
        />
      </Labelled>
      <Labelled label="Password">
        <Input
          className="w-full"
          type="password"
          autoComplete="current-password"
          value={password}
          onChange={(e) => setPassword(e.target.value)}
          required
        />
      </Labelled>
      {coded && (
        <Labelled label="Code" note="Six digits from your authenticator, or a recovery code.">
          <Input
            className="w-full"
            autoComplete="one-time-code"
            // eslint-disable-next-line jsx-a11y/no-autofocus -- it has just been asked for, and nothing else is left to do
            autoFocus
            value={code}
            onChange={(e) => setCode(e.target.value)}
            required
          />
        </Labelled>
      )}
      <Failure error={missing ? null : signIn.error} />
      <Button kind="primary" type="submit" disabled={signIn.isPending}>
        Sign in
      </Button>
    </Entrance>
  );
}
