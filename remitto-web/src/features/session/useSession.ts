import { useQuery } from '@tanstack/react-query';
import { api, ok } from '../../api/client';
import type { Right, Session } from '../../api/types';

/** Who is signed in, and what they may do. */
export function useSession(): Session | undefined {
  const session = useQuery({ queryKey: ['session'], queryFn: () => ok(api.GET('/api/session')) });
  return session.data;
}

export function useMay(right: Right): boolean {
  return useSession()?.rights.includes(right) ?? false;
}

export function useIsAdministrator(): boolean {
  return useSession()?.role === 'ADMIN';
}

/** Whether the account may change anything. */
export function useIsEditor(): boolean {
  const role = useSession()?.role;
  return role !== undefined && role !== 'VIEWER';
}
