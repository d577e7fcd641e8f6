import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useLayoutEffect } from 'react';
import { api, ok } from '../../api/client';
import type { Session } from '../../api/types';
import { showTimesIn } from '../../components/here';

export type Settings = Session['settings'];

export const THEMES: Record<Settings['theme'], string> = {
  SYSTEM: 'Same as the system',
  LIGHT: 'Light',
  DARK: 'Dark',
};

/** Shows everything as the person chose. Times take the zone at once, since what is shown next is spelled in it. */
export function useSettings(settings: Settings | undefined) {
  showTimesIn(settings?.zone);
  const theme = settings?.theme ?? 'SYSTEM';
  useLayoutEffect(() => {
    document.documentElement.dataset.theme = theme;
  }, [theme]);
}

export function useChangeSettings() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (wanted: Settings) => ok(api.PUT('/api/session/settings', { body: wanted })),
    onSuccess: (session) => client.setQueryData(['session'], session),
  });
}
