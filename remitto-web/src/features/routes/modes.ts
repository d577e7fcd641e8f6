import type { FirstRun, Guards, Leavers, Limit, RouteSpec } from '../../api/types';

export const MODES: Record<RouteSpec['mode'], { text: string; means: string }> = {
  ADD_OR_UPDATE: {
    text: 'adds and updates',
    means: 'A record that is not there is added; one that is there is changed.',
  },
  ADD_ONLY: { text: 'only adds', means: 'A record that is there already is never touched.' },
  UPDATE_ONLY: { text: 'only updates', means: 'A record that is not there is left out, never added.' },
  KEEP_EQUAL: {
    text: 'keeps equal',
    means: 'Adds and changes, and also acts on records that left the dataset.',
  },
  REMOVE: { text: 'removes', means: 'Every record the dataset names is deleted there. Nothing is added.' },
  MEMBERSHIP: {
    text: 'keeps a list',
    means: 'Who is in the dataset is put on the list; who leaves it is taken off.',
  },
  APPEND: {
    text: 'appends events',
    means: 'Each event is added once, by its key, and never changed afterwards.',
  },
};

export const LEAVING: Record<Leavers['kind'], string> = {
  stay: 'stays there as is',
  set: 'gets fields set',
  clear: 'gets fields cleared',
  'take-off': 'is taken off the list',
  delete: 'is deleted there',
};

export function leaving(leavers: Leavers): string {
  if (leavers.kind === 'set')
    return leavers.fields.length > 0
      ? `gets ${leavers.fields.map((one) => `${one.field} = ${one.text}`).join(', ')}`
      : 'gets fields set';
  if (leavers.kind === 'clear')
    return leavers.fields.length > 0 ? `gets ${leavers.fields.join(', ')} cleared` : 'gets fields cleared';
  return LEAVING[leavers.kind];
}

export const ALREADY_THERE: Record<FirstRun['alreadyThere'], string> = {
  ADOPT: 'records already there that match are adopted',
  LEAVE: 'records already there are left as they are',
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
  return limits.length > 0 ? `stop above ${limits.join(', ')}` : 'no limit';
}
