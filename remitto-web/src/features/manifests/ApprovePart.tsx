import type { Run, Verdict } from '../../api/types';
import { count, counted } from '../../components/format';
import { Card } from '../../components/ui';
import { VERDICTS } from '../../components/verdicts';
import type { Kept } from './Lines';

/** Which verdicts and lines of a stopped manifest go; the others stay behind and are judged again in the next run. */
export function ApprovePart({
  run,
  part,
  onChange,
  without,
  onTakeBack,
}: {
  run: Run;
  part: Verdict[];
  onChange: (part: Verdict[]) => void;
  without: Kept[];
  onTakeBack: () => void;
}) {
  const moving: [Verdict, number][] = [
    ['ADDED', run.counts.added],
    ['CHANGED', run.counts.changed],
    ['REMOVED', run.counts.removed],
  ];
  const shown = moving.filter(([, number]) => number > 0);
  const goes = (verdict: Verdict) => part.length === 0 || part.includes(verdict);
  const toggle = (verdict: Verdict) => {
    const now = shown.map(([one]) => one).filter((one) => goes(one) !== (one === verdict));
    if (now.length > 0) onChange(now.length === shown.length ? [] : now);
  };
  return (
    <Card title="What is sent when approved">
      <div className="flex flex-col gap-1 px-4 pb-3">
        {shown.map(([verdict, number]) => (
          <label key={verdict} className="flex items-center gap-2">
            <input
              type="checkbox"
              checked={goes(verdict)}
              disabled={shown.length < 2}
              onChange={() => toggle(verdict)}
            />
            <span className={`font-mono ${VERDICTS[verdict].text}`}>{VERDICTS[verdict].sign}</span>
            {count(number)} {VERDICTS[verdict].word}
          </label>
        ))}
        {without.length > 0 && (
          <span>
            {counted(without.length, 'line')} kept back individually.{' '}
            <button type="button" className="text-deep cursor-pointer underline" onClick={onTakeBack}>
              Send them too
            </button>
          </span>
        )}
        <span className="text-soft">
          Clear single lines on the right to keep them back. Lines kept back are evaluated again in the next
          run.
        </span>
      </div>
    </Card>
  );
}
