import type { Run } from '../../api/types';

export interface StateLook {
  label: string;
  /** Classes on the dark board. */
  board: string;
  tone: 'plain' | 'good' | 'warn' | 'bad' | 'held';
}

const GOOD = 'bg-[#1E4A40] text-[#A9E8CE]';
const BUSY = 'bg-bulb text-[#2A1C00]';
const HELD = 'bg-[#4A3580] text-[#E6DDFB]';
const BAD = 'bg-[#6E2725] text-[#FAD5D2]';
const PLAIN = 'bg-[#2C4250] text-board-ink';

const SUSPENDED: Record<Run['suspension'], string> = {
  NONE: 'Suspended, lines left',
  FAULT: 'Suspended, lines left',
  CIRCUIT: 'Waiting for the destination',
  PAUSED: 'Paused, lines left',
  WAVE: 'First wave sent',
  LOST: 'Suspended, lines left',
};

export function stateOf(run: Pick<Run, 'state' | 'counts' | 'suspension' | 'sentInPart'>): StateLook {
  const sends = run.counts.added + run.counts.changed + run.counts.removed;
  switch (run.state) {
    case 'PREPARING':
      return { label: 'Preparing', board: BUSY, tone: 'warn' };
    case 'READY':
      return { label: 'Ready to send', board: HELD, tone: 'held' };
    case 'AWAITING_APPROVAL':
      return { label: 'Awaiting approval', board: HELD, tone: 'held' };
    case 'SENDING':
      return { label: 'Sending', board: BUSY, tone: 'warn' };
    case 'SENT':
      if (run.sentInPart)
        return { label: sends === 0 ? 'Nothing sent, some held' : 'Sent in part', board: HELD, tone: 'held' };
      return { label: sends === 0 ? 'Nothing to send' : 'Sent', board: GOOD, tone: 'good' };
    case 'SUSPENDED':
      return run.suspension === 'PAUSED' || run.suspension === 'WAVE'
        ? { label: SUSPENDED[run.suspension], board: HELD, tone: 'held' }
        : { label: SUSPENDED[run.suspension], board: BAD, tone: 'bad' };
    case 'DISCARDED':
      return { label: 'Discarded', board: PLAIN, tone: 'plain' };
    case 'CANCELLED':
      return { label: 'Cancelled', board: PLAIN, tone: 'plain' };
    case 'INTERRUPTED':
      return { label: 'Interrupted', board: BAD, tone: 'bad' };
    case 'FAILED':
      return { label: 'Failed', board: BAD, tone: 'bad' };
    case 'SKIPPED':
      return { label: 'Skipped', board: PLAIN, tone: 'plain' };
    default: {
      const never: never = run.state;
      return never;
    }
  }
}
