import type { Right, Role } from '../../api/types';

export const ROLE_WORDS: Record<Role, string> = {
  VIEWER: 'Viewer',
  EDITOR: 'Editor',
  APPROVER: 'Approver',
  ADMIN: 'Administrator',
};

export const RIGHT_WORDS: Record<Right, string> = {
  SEE_PERSONAL_VALUES: 'See personal values',
  DOWNLOAD_PERSONAL_VALUES: 'Download personal values',
  SEE_SENSITIVE_VALUES: 'See sensitive values',
};

export const ROLES = Object.keys(ROLE_WORDS) as Role[];
export const RIGHTS = Object.keys(RIGHT_WORDS) as Right[];
