import { useSession } from './useSession';

/** Whether the one who is signed in may decide what cannot be taken back. */
export function useMayApprove(): boolean {
  const role = useSession()?.role;
  return role === 'APPROVER' || role === 'ADMIN';
}
