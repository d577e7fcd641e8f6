import { DropdownMenu } from 'radix-ui';
import { Link } from 'react-router';
import type { Session } from '../../api/types';
import { city } from '../../components/format';
import { zone } from '../../components/here';
import { ROLE_WORDS } from '../users/words';
import { type Settings, THEMES, useChangeSettings } from './settings';

const ITEM =
  'rounded-button text-ink data-[highlighted]:bg-sunk flex cursor-pointer items-baseline justify-between gap-4 px-2.5 py-1.5 font-medium no-underline outline-none';

export interface AccountOf {
  session: Session;
  onSignOut: () => void;
}

function initials(user: string): string {
  return user
    .split(' ')
    .map((part) => part[0])
    .join('')
    .slice(0, 2);
}

/** Who is signed in, how things are shown to them, and the pages about the account. */
export function AccountMenu({ session, onSignOut }: AccountOf) {
  const user = session.name;
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger asChild>
        <button
          type="button"
          title={user}
          aria-label={`${initials(user)}, account of ${user}`}
          className="bg-sunk text-ink ml-1 h-7 w-7 cursor-pointer rounded-full text-[0.6875rem] font-semibold"
        >
          {initials(user)}
        </button>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          sideOffset={6}
          className="rounded-card border-hairline bg-card z-20 flex min-w-[230px] flex-col border p-1.5"
        >
          <DropdownMenu.Label className="px-2.5 py-1.5">
            <span className="block font-semibold">{user}</span>
            <span className="text-soft">{session.role && ROLE_WORDS[session.role]}</span>
          </DropdownMenu.Label>
          <DropdownMenu.Item asChild>
            <Link to="/account" className={ITEM}>
              Account <span className="text-soft font-normal">times in {city(zone())}</span>
            </Link>
          </DropdownMenu.Item>
          {session.role === 'ADMIN' && (
            <DropdownMenu.Item asChild>
              <Link to="/users" className={ITEM}>
                Users
              </Link>
            </DropdownMenu.Item>
          )}
          <DropdownMenu.Item asChild>
            <Link to="/retention" className={ITEM}>
              Retention
            </Link>
          </DropdownMenu.Item>
          <Themes settings={session.settings} />
          <DropdownMenu.Item className={ITEM} onSelect={onSignOut}>
            Sign out
          </DropdownMenu.Item>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

function Themes({ settings }: { settings: Settings }) {
  const change = useChangeSettings();
  return (
    <>
      <DropdownMenu.Separator className="border-hairline my-1 border-t" />
      <DropdownMenu.Label className="text-soft px-2.5 py-1">Theme</DropdownMenu.Label>
      <DropdownMenu.RadioGroup
        aria-label="Theme"
        value={settings.theme}
        onValueChange={(theme) => change.mutate({ ...settings, theme: theme as Settings['theme'] })}
      >
        {Object.entries(THEMES).map(([theme, words]) => (
          <DropdownMenu.RadioItem
            key={theme}
            value={theme}
            className={ITEM}
            onSelect={(event) => event.preventDefault()}
          >
            {words}
            <DropdownMenu.ItemIndicator aria-hidden className="text-deep">
              ✓
            </DropdownMenu.ItemIndicator>
          </DropdownMenu.RadioItem>
        ))}
      </DropdownMenu.RadioGroup>
      <DropdownMenu.Separator className="border-hairline my-1 border-t" />
    </>
  );
}
