import type { Verdict } from '../api/types';
import { count } from './format';

export const VERDICTS: Record<Verdict, { sign: string; word: string; text: string; on: string }> = {
  ADDED: { sign: '+', word: 'added', text: 'text-added', on: 'bg-added-on' },
  CHANGED: { sign: '~', word: 'changed', text: 'text-changed', on: 'bg-changed-on' },
  REMOVED: { sign: '−', word: 'removed', text: 'text-removed', on: 'bg-removed-on' },
  UNCHANGED: { sign: '=', word: 'unchanged', text: 'text-soft', on: 'bg-sunk' },
  HELD: { sign: '‖', word: 'held', text: 'text-held', on: 'bg-held-on' },
  LEFT_OUT: { sign: '·', word: 'left out', text: 'text-soft', on: 'bg-sunk' },
};

export function Sign({ verdict }: { verdict: Verdict }) {
  const look = VERDICTS[verdict];
  return (
    <span className={`font-mono font-semibold ${look.text}`} title={look.word}>
      {look.sign}
      <span className="sr-only"> {look.word}</span>
    </span>
  );
}

/** The counts that moved, on the dark board. */
export function BoardSums({
  counts,
}: {
  counts: { added: number; changed: number; removed: number; held: number };
}) {
  const parts: [Verdict, number, string][] = [
    ['ADDED', counts.added, 'text-[#86DDB8]'],
    ['CHANGED', counts.changed, 'text-bulb'],
    ['REMOVED', counts.removed, 'text-[#F4A3A0]'],
    ['HELD', counts.held, 'text-[#C9B6F2]'],
  ];
  const shown = parts.filter(([, number]) => number > 0);
  if (shown.length === 0) return <span className="text-board-soft block">no changes</span>;
  return (
    <span className="flex flex-wrap gap-x-3 font-mono">
      {shown.map(([verdict, number, tone]) => (
        <span key={verdict} className={tone} title={VERDICTS[verdict].word}>
          {VERDICTS[verdict].sign}
          {count(number)}
          <span className="sr-only"> {VERDICTS[verdict].word}</span>
        </span>
      ))}
    </span>
  );
}
