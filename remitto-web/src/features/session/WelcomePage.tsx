import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import { api, ok } from '../../api/client';
import { Button, Failure, Input, Labelled, Skeleton } from '../../components/ui';
import { ROLE_WORDS } from '../users/words';
import { Entrance } from './Entrance';

/** Opens an invitation: whoever follows its link makes their own account, and is signed in. */
export function WelcomePage() {
  const { token = '' } = useParams();
  const client = useQueryClient();
  const navigate = useNavigate();
  const [email, setEmail] = useState('');
  const [name, setName] = useState('');
  const [password, setPassword] = useState('');
  const invitation = useQuery({
    queryKey: ['welcome', token],
    queryFn: () => ok(api.GET('/api/welcome/{token}', { params: { path: { token } } })),
    retry: false,
    staleTime: Infinity,
  });
  const accept = useMutation({
    mutationFn: async () => {
      const made = await ok(
        api.POST('/api/welcome/{token}', {
          params: { path: { token } },
          body: { email: invitation.data?.email || email, name, password },
        }),
      );
      return ok(api.POST('/api/session', { body: { email: made.email, password } }));
    },
    onSuccess: (session) => {
      client.setQueryData(['session'], session);
      void navigate('/');
    },
  });
  return (
    <Entrance title="Create your account" onSubmit={() => accept.mutate()}>
      <Failure error={invitation.error} />
      {invitation.isPending && <Skeleton rows={3} />}
      {invitation.data && (
        <>
          <p className="text-soft m-0">You will have the role {ROLE_WORDS[invitation.data.role]}.</p>
          <Labelled label="E-mail">
            <Input
              className="w-full"
              type="email"
              autoComplete="username"
              value={invitation.data.email || email}
              readOnly={invitation.data.email !== ''}
              onChange={(e) => setEmail(e.target.value)}
              required
            />
          </Labelled>
          <Labelled label="Name">
            <Input
              className="w-full"
              autoComplete="name"
              value={name}
              onChange={(e) => setName(e.target.value)}
              required
            />
          </Labelled>
          <Labelled label="Password" note="At least 10 characters that are hard to guess.">
            <Input
              className="w-full"
              type="password"
              autoComplete="new-password"
              value={password}
              onChange={(e) => setPassword(e.target.value)}
              required
            />
          </Labelled>
          <Failure error={accept.error} />
          <Button kind="primary" type="submit" disabled={accept.isPending}>
            Create account
          </Button>
        </>
      )}
    </Entrance>
  );
}
