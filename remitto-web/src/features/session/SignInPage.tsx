import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ok } from '../../api/client';
import { Button, Failure, Input, Labelled } from '../../components/ui';

export function SignInPage() {
  const client = useQueryClient();
  const [email, setEmail] = useState('');
  const [password, setPassword] = useState('');
  const signIn = useMutation({
    mutationFn: () => ok(api.POST('/api/session', { body: { email, password } })),
    onSuccess: (session) => client.setQueryData(['session'], session),
  });
  return (
    <main className="flex min-h-screen items-center justify-center">
      <form
        className="rounded-card border-hairline bg-card flex w-[360px] flex-col gap-4 border p-7"
        onSubmit={(event) => {
          event.preventDefault();
          signIn.mutate();
        }}
      >
        <div className="flex items-center gap-2 text-[1.0625rem] font-semibold">
          <img src="/mark.svg" alt="" width={30} height={30} />
          Remitto
        </div>
        <h1 className="m-0 text-[1.25rem] font-semibold">Sign in</h1>
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
      </form>
    </main>
  );
}
