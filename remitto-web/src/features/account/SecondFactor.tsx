import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ok } from '../../api/client';
import { counted } from '../../components/format';
import { Ago } from '../../components/Moment';
import { Button, Card, Failure, Input, Labelled } from '../../components/ui';
import { ScanCode } from './ScanCode';

const KEY = ['second-factor'];

/** A second factor of one's own sign-in: set up, made sure of, turned off. */
export function SecondFactor() {
  const client = useQueryClient();
  const factor = useQuery({ queryKey: KEY, queryFn: () => ok(api.GET('/api/session/second-factor')) });
  const [codes, setCodes] = useState<string[]>([]);
  const again = (fresh: string[]) => {
    setCodes(fresh);
    void client.invalidateQueries({ queryKey: KEY });
    void client.invalidateQueries({ queryKey: ['sessions'] });
  };
  return (
    <Card title="Second factor">
      <div className="flex flex-col gap-3 px-4 pb-4">
        <Failure error={factor.error} />
        {factor.data &&
          (factor.data.since ? (
            <On since={factor.data.since} left={factor.data.recoveryCodesLeft} onCodes={again} />
          ) : (
            <SetUp onCodes={again} />
          ))}
        {codes.length > 0 && <Codes codes={codes} />}
      </div>
    </Card>
  );
}

/** Asks for one's own password, so that an open screen alone changes nothing. */
function Proved({
  words,
  pending,
  error,
  onProved,
}: {
  words: string;
  pending: boolean;
  error: unknown;
  onProved: (password: string) => void;
}) {
  const [password, setPassword] = useState('');
  return (
    <form
      className="flex flex-col gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        onProved(password);
        setPassword('');
      }}
    >
      <Labelled label={`Password, to ${words.toLowerCase()}`}>
        <Input
          className="w-full"
          type="password"
          autoComplete="current-password"
          value={password}
          onChange={(event) => setPassword(event.target.value)}
          required
        />
      </Labelled>
      <Failure error={error} />
      <div>
        <Button type="submit" disabled={pending}>
          {words}
        </Button>
      </div>
    </form>
  );
}

function SetUp({ onCodes }: { onCodes: (codes: string[]) => void }) {
  const [code, setCode] = useState('');
  const begin = useMutation({
    mutationFn: (password: string) => ok(api.POST('/api/session/second-factor', { body: { password } })),
  });
  const confirm = useMutation({
    mutationFn: () => ok(api.POST('/api/session/second-factor/confirm', { body: { code } })),
    onSuccess: (made) => onCodes(made.codes),
  });
  if (!begin.data)
    return (
      <>
        <p className="text-soft m-0">
          Off. With it, signing in asks for a code from an authenticator on your phone as well as for the
          password.
        </p>
        <Proved
          words="Set up second factor"
          pending={begin.isPending}
          error={begin.error}
          onProved={(password) => begin.mutate(password)}
        />
      </>
    );
  return (
    <form
      className="flex flex-col gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        confirm.mutate();
      }}
    >
      <p className="m-0">Scan this with an authenticator, or type the key. Then enter the code it shows.</p>
      <ScanCode text={begin.data.uri} />
      <p className="m-0">
        Key: <code className="wrap-anywhere">{begin.data.secret}</code>
      </p>
      <Labelled label="Code from the authenticator">
        <Input
          className="w-full"
          inputMode="numeric"
          autoComplete="one-time-code"
          value={code}
          onChange={(event) => setCode(event.target.value)}
          required
        />
      </Labelled>
      <Failure error={confirm.error} />
      <div>
        <Button kind="primary" type="submit" disabled={confirm.isPending}>
          Turn on
        </Button>
      </div>
    </form>
  );
}

function On({ since, left, onCodes }: { since: string; left: number; onCodes: (codes: string[]) => void }) {
  const fresh = useMutation({
    mutationFn: (password: string) =>
      ok(api.POST('/api/session/second-factor/recovery-codes', { body: { password } })),
    onSuccess: (made) => onCodes(made.codes),
  });
  const off = useMutation({
    mutationFn: (password: string) => ok(api.POST('/api/session/second-factor/off', { body: { password } })),
    onSuccess: () => onCodes([]),
  });
  return (
    <>
      <p className="m-0">
        On since <Ago at={since} />. {counted(left, 'recovery code')} left.
      </p>
      <Proved
        words="Make new recovery codes"
        pending={fresh.isPending}
        error={fresh.error}
        onProved={(password) => fresh.mutate(password)}
      />
      <Proved
        words="Turn off second factor"
        pending={off.isPending}
        error={off.error}
        onProved={(password) => off.mutate(password)}
      />
    </>
  );
}

function Codes({ codes }: { codes: string[] }) {
  return (
    <div role="status" className="rounded-button bg-sunk px-3 py-2">
      <p className="m-0 mb-1">
        Recovery codes. Each lets you in once without the authenticator. Keep them somewhere safe; they are
        not shown again.
      </p>
      <ul className="m-0 grid list-none grid-cols-2 gap-1 p-0" aria-label="Recovery codes">
        {codes.map((code) => (
          <li key={code}>
            <code>{code}</code>
          </li>
        ))}
      </ul>
      <Button kind="quiet" onClick={() => void navigator.clipboard.writeText(codes.join('\n'))}>
        Copy codes
      </Button>
    </div>
  );
}
