import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ok } from '../../api/client';
import { Button, Failure, Input, Labelled } from '../../components/ui';
import { Entrance } from './Entrance';

export function SignInPage() {
  const client = useQueryClient();
  const [email, setEmail] = useState('');
  const [password, setPassword] = useState('');
  const signIn = useMutation({
    mutationFn: () => ok(api.POST('/api/session', { body: { email, password } })),
    onSuccess: (session) => client.setQueryData(['session'], session),
  });
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
      <Failure error={signIn.error} />
      <Button kind="primary" type="submit" disabled={signIn.isPending}>
        Sign in
      </Button>
    </Entrance>
  );
}
