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

const HALTED: Record<Run['halt'], string> = {
  NONE: 'Halted, lines left',
  FAULT: 'Halted, lines left',
  CIRCUIT: 'Waits for the destination',
  PAUSED: 'Paused, lines left',
  WAVE: 'First wave sent',
  LOST: 'Halted, lines left',
};

export function stateOf(run: Pick<Run, 'state' | 'sums' | 'halt' | 'sentInPart'>): StateLook {
  const sends = run.sums.added + run.sums.changed + run.sums.removed;
  switch (run.state) {
    case 'DRAWING':
      return { label: 'Drawing up', board: BUSY, tone: 'warn' };
    case 'DRAWN':
      return { label: 'Waits to be sent', board: HELD, tone: 'held' };
    case 'STOPPED':
      return { label: 'Waits for approval', board: HELD, tone: 'held' };
    case 'SENDING':
      return { label: 'Sending', board: BUSY, tone: 'warn' };
    case 'SENT':
      if (run.sentInPart)
        return { label: sends === 0 ? 'Nothing sent, some held' : 'Sent in part', board: HELD, tone: 'held' };
      return { label: sends === 0 ? 'Nothing to send' : 'Sent', board: GOOD, tone: 'good' };
    case 'HALTED':
      return run.halt === 'PAUSED' || run.halt === 'WAVE'
        ? { label: HALTED[run.halt], board: HELD, tone: 'held' }
        : { label: HALTED[run.halt], board: BAD, tone: 'bad' };
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
