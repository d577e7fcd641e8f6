import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ok } from '../../api/client';
import type { Session } from '../../api/types';
import { Button, Card, Failure, Input, Labelled } from '../../components/ui';

/** The name that others see beside what one did. */
export function OwnName({ session }: { session: Session }) {
  const client = useQueryClient();
  const [name, setName] = useState(session.name);
  const change = useMutation({
    mutationFn: () => ok(api.PUT('/api/session/name', { body: { name } })),
    onSuccess: (fresh) => client.setQueryData(['session'], fresh),
  });
  return (
    <Card title="Name">
      <form
        className="flex flex-col gap-3 px-4 pb-4"
        onSubmit={(event) => {
          event.preventDefault();
          change.mutate();
        }}
      >
        <Labelled
          label="Your name"
          note="Shown beside what you did. Past entries of the journal keep the former name."
        >
          <Input
            className="w-full"
            autoComplete="name"
            value={name}
            maxLength={80}
            onChange={(event) => setName(event.target.value)}
            required
          />
        </Labelled>
        <Failure error={change.error} />
        <div>
          <Button type="submit" disabled={change.isPending || name.trim() === session.name}>
            Change name
          </Button>
        </div>
      </form>
    </Card>
  );
}
