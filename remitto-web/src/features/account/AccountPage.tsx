import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ok } from '../../api/client';
import type { Session } from '../../api/types';
import { zones } from '../../components/here';
import { city, moment } from '../../components/format';
import { Ago } from '../../components/Moment';
import { Button, Card, Failure, Input, Labelled, Page, Pill, Select, TD, TH } from '../../components/ui';
import { OwnName } from './OwnName';
import { SecondFactor } from './SecondFactor';
import { DraftsCard } from '../drafts/DraftsCard';
import { Editors } from '../session/Editors';
import { THEMES, useChangeSettings } from '../session/settings';
import { useSession } from '../session/useSession';
import { RIGHT_WORDS, ROLE_WORDS } from '../users/words';

/** One's own account: what it may do, its password, and where it is signed in. */
export function AccountPage() {
  const session = useSession();
  if (!session?.role) return null;
  return (
    <Page title="Account" of={session.name} note={`Role: ${ROLE_WORDS[session.role]}`}>
      <div className="grid grid-cols-1 lg:grid-cols-[minmax(0,7fr)_minmax(320px,4fr)] items-start gap-4">
        <div className="flex min-w-0 flex-col gap-3">
          <Editors>
            <DraftsCard />
          </Editors>
          <Sessions />
          <Rights session={session} />
          <SecondFactor />
        </div>
        <div className="flex min-w-0 flex-col gap-3">
          <Shown session={session} />
          <OwnName session={session} />
          <Password />
        </div>
      </div>
    </Page>
  );
}

function Rights({ session }: { session: Session }) {
  return (
    <Card title="Rights">
      {session.rights.length === 0 && (
        <p className="text-soft m-0 px-4 pb-4">
          Personal values are masked for this account. An administrator can grant the right to see them.
        </p>
      )}
      <ul className="m-0 flex list-none gap-2 px-4 pb-3">
        {session.rights.map((right) => (
          <li key={right}>
            <Pill>{RIGHT_WORDS[right]}</Pill>
          </li>
        ))}
      </ul>
      {session.rights.includes('SEE_SENSITIVE_VALUES') && <Purpose session={session} />}
    </Card>
  );
}

/** How times and colours are shown; each choice takes effect at once. */
function Shown({ session }: { session: Session }) {
  const change = useChangeSettings();
  const { settings } = session;
  const here = Intl.DateTimeFormat().resolvedOptions().timeZone;
  return (
    <Card title="Display">
      <div className="flex flex-col gap-3 px-4 pb-4">
        <Labelled
          label="Time zone"
          note="Every time is shown in this zone. Route schedules keep their own zone."
        >
          <Select
            className="w-full"
            value={settings.zone ?? ''}
            onChange={(event) => change.mutate({ ...settings, zone: event.target.value || undefined })}
          >
            <option value="">The browser's ({city(here)})</option>
            {zones().map((one) => (
              <option key={one}>{one}</option>
            ))}
          </Select>
        </Labelled>
        <Labelled label="Theme">
          <Select
            className="w-full"
            value={settings.theme}
            onChange={(event) =>
              change.mutate({ ...settings, theme: event.target.value as typeof settings.theme })
            }
          >
            {Object.entries(THEMES).map(([theme, words]) => (
              <option key={theme} value={theme}>
                {words}
              </option>
            ))}
          </Select>
        </Labelled>
        <Failure error={change.error} />
      </div>
    </Card>
  );
}

function Purpose({ session }: { session: Session }) {
  const client = useQueryClient();
  const [purpose, setPurpose] = useState('');
  const state = useMutation({
    mutationFn: () => ok(api.PUT('/api/session/purpose', { body: { purpose } })),
    onSuccess: async (fresh) => {
      setPurpose('');
      client.setQueryData(['session'], fresh);
      await client.invalidateQueries();
    },
  });
  return (
    <form
      className="border-hairline flex flex-col gap-3 border-t px-4 py-4"
      onSubmit={(event) => {
        event.preventDefault();
        state.mutate();
      }}
    >
      <p className="text-soft m-0">
        {session.purpose
          ? `Sensitive values are shown for this purpose: ${session.purpose}`
          : 'Sensitive values stay masked until you state a purpose. It is written to the journal and ends after 30 minutes.'}
      </p>
      <Labelled label="Purpose">
        <Input
          className="w-full"
          value={purpose}
          maxLength={300}
          onChange={(event) => setPurpose(event.target.value)}
          required
        />
      </Labelled>
      <Failure error={state.error} />
      <div>
        <Button type="submit" disabled={state.isPending}>
          State purpose
        </Button>
      </div>
    </form>
  );
}

function Sessions() {
  const client = useQueryClient();
  const sessions = useQuery({
    queryKey: ['sessions'],
    queryFn: () => ok(api.GET('/api/session/all')),
  });
  const end = useMutation({
    mutationFn: (handle: string) =>
      ok(api.DELETE('/api/session/all/{handle}', { params: { path: { handle } } })),
    onSuccess: (left) => client.setQueryData(['sessions'], left),
  });
  return (
    <Card title="Sessions" aside="Where this account is signed in" className="pb-2">
      <Failure error={sessions.error ?? end.error} />
      <table className="w-full border-collapse">
        <thead>
          <tr>
            <th className={TH}>Signed in</th>
            <th className={TH}>Last used</th>
            <th className={TH}>Ends</th>
            <th className={TH}>Address and browser</th>
            <th className={TH}>
              <span className="sr-only">Action</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {sessions.data?.map((one) => (
            <tr key={one.handle}>
              <td className={TD}>
                <Ago at={one.since} />
              </td>
              <td className={TD}>{one.mine ? 'this session' : <Ago at={one.lastUsed} />}</td>
              <td className={`${TD} whitespace-nowrap`}>{moment(one.endsAt)}</td>
              <td className={`${TD} text-soft break-words`}>
                {one.address}, {one.browser}
              </td>
              <td className={`${TD} text-right`}>
                {!one.mine && (
                  <Button kind="quiet" disabled={end.isPending} onClick={() => end.mutate(one.handle)}>
                    End session
                  </Button>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </Card>
  );
}

function Password() {
  const client = useQueryClient();
  const [current, setCurrent] = useState('');
  const [fresh, setFresh] = useState('');
  const change = useMutation({
    mutationFn: () => ok(api.PUT('/api/session/password', { body: { current, fresh } })),
    onSuccess: async () => {
      setCurrent('');
      setFresh('');
      await client.invalidateQueries({ queryKey: ['sessions'] });
    },
  });
  return (
    <Card title="Change password">
      <form
        className="flex flex-col gap-3 px-4 pb-4"
        onSubmit={(event) => {
          event.preventDefault();
          change.mutate();
        }}
      >
        <Labelled label="Current password">
          <Input
            className="w-full"
            type="password"
            autoComplete="current-password"
            value={current}
            onChange={(event) => setCurrent(event.target.value)}
            required
          />
        </Labelled>
        <Labelled label="New password" note="At least 10 characters that are hard to guess.">
          <Input
            className="w-full"
            type="password"
            autoComplete="new-password"
            value={fresh}
            onChange={(event) => setFresh(event.target.value)}
            required
          />
        </Labelled>
        <Failure error={change.error} />
        {change.isSuccess && (
          <p role="status" className="text-added m-0">
            Password changed. Other sessions of this account were ended.
          </p>
        )}
        <div>
          <Button type="submit" disabled={change.isPending}>
            Change password
          </Button>
        </div>
      </form>
    </Card>
  );
}
