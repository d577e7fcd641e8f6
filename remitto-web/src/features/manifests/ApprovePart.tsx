import type { Run, Verdict } from '../../api/types';
import { count } from '../../components/format';
import { Card } from '../../components/ui';
import { VERDICTS } from '../../components/verdicts';

/** Which verdicts of a stopped manifest go; the others stay behind and are judged anew in the next run. */
export function ApprovePart({
  run,
  part,
  onChange,
}: {
  run: Run;
  part: Verdict[];
  onChange: (part: Verdict[]) => void;
}) {
  const moving: [Verdict, number][] = [
    ['ADDED', run.sums.added],
    ['CHANGED', run.sums.changed],
    ['REMOVED', run.sums.removed],
  ];
  const shown = moving.filter(([, number]) => number > 0);
  if (shown.length < 2) return null;
  const goes = (verdict: Verdict) => part.length === 0 || part.includes(verdict);
  const toggle = (verdict: Verdict) => {
    const now = shown.map(([one]) => one).filter((one) => goes(one) !== (one === verdict));
    onChange(now.length === shown.length ? [] : now);
  };
  return (
    <Card title="What goes when approved">
      <div className="flex flex-col gap-1 px-4 pb-3">
        {shown.map(([verdict, number]) => (
          <label key={verdict} className="flex items-center gap-2">
            <input type="checkbox" checked={goes(verdict)} onChange={() => toggle(verdict)} />
            <span className={`font-mono ${VERDICTS[verdict].text}`}>{VERDICTS[verdict].sign}</span>
            {count(number)} {VERDICTS[verdict].word}
          </label>
        ))}
        <span className="text-soft">What stays behind is judged anew in the next run.</span>
      </div>
    </Card>
  );
}
