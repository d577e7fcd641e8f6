import type { DestinationView, ProfileView, Setting } from '../../api/types';
import { Card, Input, Labelled, Select } from '../../components/ui';

export type Settings = Record<string, string>;

interface Props {
  destination?: DestinationView;
  profile: ProfileView;
  profiles: ProfileView[];
  name: string;
  signIn: string;
  settings: Settings;
  onProfile: (profile: string) => void;
  onName: (name: string) => void;
  onSignIn: (way: string) => void;
  onSettings: (settings: Settings) => void;
}

/** What a person fills in to connect a tool, by the way of signing in that was chosen. */
export function Connection(props: Props) {
  const { destination, profile, profiles, name, signIn, settings } = props;
  const way = signIn || (profile.ways[0]?.name ?? '');
  const asked = profile.connection.filter(
    (setting: Setting) => setting.ways === undefined || setting.ways.includes(way),
  );
  return (
    <Card title="Connection" className="pb-4">
      <div className="flex flex-col gap-3 px-4 pt-2">
        <Labelled label="Profile" note={`Rate limit ${profile.limits}.`}>
          <Select
            className="w-full"
            value={profile.profile}
            disabled={destination !== undefined}
            onChange={(e) => props.onProfile(e.target.value)}
          >
            {profiles.map((one) => (
              <option key={one.profile} value={one.profile}>
                {one.title}, version {one.liveVersion}
              </option>
            ))}
          </Select>
        </Labelled>
        <Labelled label="Name">
          <Input className="w-full" value={name} onChange={(e) => props.onName(e.target.value)} />
        </Labelled>
        {profile.ways.length > 1 && (
          <Labelled label="Sign in">
            <Select className="w-full" value={way} onChange={(e) => props.onSignIn(e.target.value)}>
              {profile.ways.map((one) => (
                <option key={one.name} value={one.name}>
                  {one.title}
                </option>
              ))}
            </Select>
          </Labelled>
        )}
        {asked.map((setting) => (
          <Labelled key={setting.name} label={setting.label}>
            <Input
              className="w-full"
              type={setting.secret ? 'password' : 'text'}
              autoComplete={setting.secret ? 'new-password' : 'off'}
              placeholder={setting.secret && destination ? 'unchanged' : (setting.example ?? '')}
              value={settings[setting.name] ?? ''}
              onChange={(e) => props.onSettings({ ...settings, [setting.name]: e.target.value })}
            />
          </Labelled>
        ))}
      </div>
    </Card>
  );
}
