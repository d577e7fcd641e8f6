import { describe, expect, it } from 'vitest';
import type { Run } from '../../api/types';
import { stateOf } from './state';

function run(state: Run['state'], suspension: Run['suspension'] = 'NONE', changed = 0, sentInPart = false) {
  return { state, suspension, sentInPart, counts: { added: 0, changed, removed: 0 } as Run['counts'] };
}

describe('the state of a manifest in words', () => {
  it('tells what was sent from what had nothing to send', () => {
    expect(stateOf(run('SENT', 'NONE', 3)).label).toBe('Sent');
    expect(stateOf(run('SENT')).label).toBe('Nothing to send');
  });

  it('never calls a manifest plainly sent of which something stayed behind', () => {
    expect(stateOf(run('SENT', 'NONE', 3, true))).toMatchObject({ label: 'Sent in part', tone: 'held' });
    expect(stateOf(run('SENT', 'NONE', 0, true))).toMatchObject({
      label: 'Nothing sent, some held',
      tone: 'held',
    });
  });

  it('tells why lines are left', () => {
    expect(stateOf(run('SUSPENDED', 'CIRCUIT'))).toMatchObject({
      label: 'Waiting for the destination',
      tone: 'bad',
    });
    expect(stateOf(run('SUSPENDED', 'FAULT'))).toMatchObject({ label: 'Suspended, lines left', tone: 'bad' });
  });

  it('does not cry over what somebody wanted', () => {
    expect(stateOf(run('SUSPENDED', 'PAUSED'))).toMatchObject({ label: 'Paused, lines left', tone: 'held' });
    expect(stateOf(run('SUSPENDED', 'WAVE'))).toMatchObject({ label: 'First wave sent', tone: 'held' });
    expect(stateOf(run('AWAITING_APPROVAL'))).toMatchObject({ label: 'Awaiting approval', tone: 'held' });
  });

  it('has a word of its own for every state', () => {
    const states: Run['state'][] = [
      'PREPARING',
      'READY',
      'AWAITING_APPROVAL',
      'SENDING',
      'SENT',
      'SUSPENDED',
      'DISCARDED',
      'CANCELLED',
      'INTERRUPTED',
      'FAILED',
      'SKIPPED',
    ];
    expect(new Set(states.map((state) => stateOf(run(state, 'NONE', 1)).label)).size).toBe(states.length);
  });
});
