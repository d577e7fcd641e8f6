import { useQuery } from '@tanstack/react-query';
import { api, ok } from '../../api/client';

/** Whether the one who is signed in may decide what cannot be taken back. */
export function useMayApprove(): boolean {
  const session = useQuery({ queryKey: ['session'], queryFn: () => ok(api.GET('/api/session')) });
  return session.data?.role === 'APPROVER' || session.data?.role === 'ADMIN';
}
