import { describe, expect, it } from 'vitest';
import type { Run } from '../../api/types';
import { stateOf } from './state';

function run(state: Run['state'], halt: Run['halt'] = 'NONE', changed = 0, sentInPart = false) {
  return { state, halt, sentInPart, sums: { added: 0, changed, removed: 0 } as Run['sums'] };
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
    expect(stateOf(run('HALTED', 'CIRCUIT'))).toMatchObject({
      label: 'Waits for the destination',
      tone: 'bad',
    });
    expect(stateOf(run('HALTED', 'FAULT'))).toMatchObject({ label: 'Halted, lines left', tone: 'bad' });
  });

  it('does not cry over what somebody wanted', () => {
    expect(stateOf(run('HALTED', 'PAUSED'))).toMatchObject({ label: 'Paused, lines left', tone: 'held' });
    expect(stateOf(run('HALTED', 'WAVE'))).toMatchObject({ label: 'First wave sent', tone: 'held' });
    expect(stateOf(run('STOPPED'))).toMatchObject({ label: 'Waits for approval', tone: 'held' });
  });

  it('has a word of its own for every state', () => {
    const states: Run['state'][] = [
      'DRAWING',
      'DRAWN',
      'STOPPED',
      'SENDING',
      'SENT',
      'HALTED',
      'DISCARDED',
      'CANCELLED',
      'INTERRUPTED',
      'FAILED',
      'SKIPPED',
    ];
    expect(new Set(states.map((state) => stateOf(run(state, 'NONE', 1)).label)).size).toBe(states.length);
  });
});
