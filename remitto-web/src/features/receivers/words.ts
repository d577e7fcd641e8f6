import type { CallCheck, CallsMean, ReceivedCall, ReceiverDefinition } from '../../api/types';
import { counted } from '../../components/format';

export const CHECKS: { kind: CallCheck['kind']; title: string; note: string }[] = [
  {
    kind: 'standard-webhooks',
    title: 'Standard Webhooks',
    note: 'Signed with a secret over id, time and body. The safest where the tool offers it.',
  },
  {
    kind: 'hmac',
    title: 'Signature in a header',
    note: 'An HMAC over the body, as the documentation of the tool says.',
  },
  { kind: 'shared-secret', title: 'Secret in a header', note: 'The secret itself, or after Bearer.' },
  { kind: 'basic', title: 'User and password', note: 'Basic authentication.' },
  {
    kind: 'open',
    title: 'Nothing',
    note: 'Whoever knows the address may call. For tools that can do nothing else.',
  },
];

export const MEANINGS: { kind: CallsMean['kind']; title: string; note: string }[] = [
  {
    kind: 'every-call-adds',
    title: 'Every call adds',
    note: 'Each call is a row of its own, as events are.',
  },
  {
    kind: 'latest-per-key',
    title: 'The latest of every key',
    note: 'One row for each record. A call that is older than what is known changes nothing.',
  },
];

export function begunCheck(kind: CallCheck['kind']): CallCheck {
  switch (kind) {
    case 'hmac':
      return { kind, header: 'X-Signature', digest: 'SHA256', spelling: 'HEX', prefix: '', timeHeader: '' };
    case 'shared-secret':
      return { kind, header: 'X-Secret' };
    case 'basic':
      return { kind, user: 'remitto' };
    default:
      return { kind };
  }
}

export function begunMeaning(kind: CallsMean['kind']): CallsMean {
  return kind === 'latest-per-key' ? { kind, keys: [], orderBy: '', change: '', removes: [] } : { kind };
}

export function beginning(zone: string): ReceiverDefinition {
  return {
    check: { kind: 'standard-webhooks' },
    records: '',
    columns: [],
    eventKey: '',
    several: { kind: 'every-call-adds' },
    zone,
    keepDays: 0,
    callsPerMinute: 6000,
    mostKilobytes: 256,
  };
}

export function checkWords(check: CallCheck): string {
  switch (check.kind) {
    case 'hmac':
      return `HMAC in ${check.header}`;
    case 'shared-secret':
      return `secret in ${check.header}`;
    case 'basic':
      return `user ${check.user} and a password`;
    case 'open':
      return 'nothing is asked';
    default:
      return 'Standard Webhooks';
  }
}

export function meaningWords(several: CallsMean): string {
  const title = MEANINGS.find((one) => one.kind === several.kind)?.title ?? '';
  return several.kind === 'latest-per-key' ? `${title}: ${several.keys.join(', ')}` : title;
}

export const CALL_VERDICTS: Record<
  ReceivedCall['verdict'],
  { title: string; tone: 'good' | 'bad' | 'plain' | 'warn' | 'held' }
> = {
  WAITING: { title: 'kept', tone: 'plain' },
  KEPT: { title: 'in the table', tone: 'good' },
  HELD: { title: '‖ held', tone: 'held' },
  DOUBLE: { title: 'known already', tone: 'plain' },
  REFUSED: { title: 'refused', tone: 'bad' },
};

/** What became of a call's records, where that needs words. */
export function rowsWords(call: ReceivedCall): string {
  if (call.verdict === 'REFUSED' || call.verdict === 'WAITING') return '';
  if (call.records <= 1) return '';
  return `${counted(call.rows, 'row')} of ${counted(call.records, 'record')}`;
}
