import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ApiProblem, ok } from '../../api/client';
import { Button, Failure, Input, Labelled } from '../../components/ui';
import { Entrance } from './Entrance';

export function SignInPage() {
  const client = useQueryClient();
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
  return (
    <Entrance title="Sign in" onSubmit={() => signIn.mutate()}>
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
