import type { FirstRun, Guards, Leavers, Limit, RouteSpec } from '../../api/types';

export const MODES: Record<RouteSpec['mode'], { text: string; means: string }> = {
  ADD_OR_UPDATE: {
    text: 'adds and updates',
    means: 'New records are added, existing records are changed.',
  },
  ADD_ONLY: { text: 'only adds', means: 'Existing records are never changed.' },
  UPDATE_ONLY: { text: 'only updates', means: 'Missing records are left out, never added.' },
  KEEP_EQUAL: {
    text: 'keeps equal',
    means: 'Adds and changes records, and also handles records that left the dataset.',
  },
  REMOVE: {
    text: 'removes',
    means: 'Every record in the dataset is deleted in the destination. Nothing is added.',
  },
  MEMBERSHIP: {
    text: 'keeps a list',
    means: 'People in the dataset are put on the list; people who leave it are taken off.',
  },
  APPEND: {
    text: 'appends events',
    means: 'Each event is added once, by its key, and never changed afterwards.',
  },
};

export const LEAVING: Record<Leavers['kind'], string> = {
  stay: 'leave the record untouched',
  set: 'set fields',
  clear: 'clear fields',
  'take-off': 'take off the list',
  delete: 'delete the record',
};

export function leaving(leavers: Leavers): string {
  if (leavers.kind === 'set')
    return leavers.fields.length > 0
      ? `set ${leavers.fields.map((one) => `${one.field} = ${one.text}`).join(', ')}`
      : 'set fields';
  if (leavers.kind === 'clear')
    return leavers.fields.length > 0 ? `clear ${leavers.fields.join(', ')}` : 'clear fields';
  return LEAVING[leavers.kind];
}

export const ALREADY_THERE: Record<FirstRun['alreadyThere'], string> = {
  ADOPT: 'matching records already in the destination are adopted',
  LEAVE: 'records already in the destination are left untouched',
};

export const OLDER_ROWS: Record<FirstRun['olderRows'], string> = {
  SEND: 'rows older than the route are sent',
  WAIT_FOR_CHANGE: 'rows older than the route wait until they change',
};

export function firstRun(choice: FirstRun | undefined): string {
  return choice
    ? `${ALREADY_THERE[choice.alreadyThere]}; ${OLDER_ROWS[choice.olderRows]}`
    : 'not decided yet';
}

function limit(word: string, one: Limit): string[] {
  const parts = [];
  if (one.percent !== undefined) parts.push(`${one.percent}%`);
  if (one.count !== undefined) parts.push(`${one.count} records`);
  return parts.length > 0 ? [`${parts.join(' or ')} ${word}`] : [];
}

export function guardSentence(guards: Guards): string {
  const limits = [
    ...limit('removed', guards.removed),
    ...limit('held', guards.held),
    ...limit('added', guards.added),
    ...limit('changed', guards.changed),
    ...limit('of a field cleared', guards.cleared),
  ];
  return limits.length > 0 ? `require approval above ${limits.join(', ')}` : 'no limit';
}
