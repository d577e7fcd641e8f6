import type { Scope } from '../../api/types';

/** The scopes of a token with what each allows, in the order of the work. */
export const SCOPES: [Scope, string, string][] = [
  ['READ', 'read', 'see what every signed-in person may see'],
  ['PREPARE', 'prepare', 'prepare manifests, read sources, start refreshes'],
  ['SEND', 'send', 'send prepared manifests'],
  ['APPROVE', 'approve', 'approve what a guard stopped, erase people'],
  ['DEFINE', 'define', 'change routes, datasets, audiences and all other definitions'],
  ['ADMINISTER', 'administer', 'manage users, tokens and retention'],
];

export const scopeWords = (scopes: Scope[]) =>
  SCOPES.filter(([scope]) => scopes.includes(scope))
    .map(([, words]) => words)
    .join(', ');
