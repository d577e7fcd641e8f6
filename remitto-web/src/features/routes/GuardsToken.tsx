import type { Guards, Limit } from '../../api/types';
import { Input, Labelled, Token } from '../../components/ui';
import { guardSentence } from './modes';

type LimitName = 'removed' | 'held' | 'changed' | 'added' | 'cleared';

const LIMITS: [LimitName, string][] = [
  ['removed', 'Removed (% of known records)'],
  ['held', 'Held (% of rows read)'],
  ['added', 'Added (% of known records)'],
  ['changed', 'Changed (% of known records)'],
  ['cleared', 'Values cleared in one field'],
];

const number = (text: string) => (text === '' ? undefined : Number(text));

export function GuardsToken({ guards, onChange }: { guards: Guards; onChange: (guards: Guards) => void }) {
  return (
    <Token label="Guards" text={guardSentence(guards)}>
      <table className="border-collapse">
        <thead>
          <tr className="text-soft text-left">
            <th className="pr-3 font-medium">Require approval above</th>
            <th className="font-medium">%</th>
            <th className="font-medium">records</th>
          </tr>
        </thead>
        <tbody>
          {LIMITS.map(([name, words]) => (
            <LimitRow
              key={name}
              words={words}
              limit={guards[name]}
              onChange={(limit) => onChange({ ...guards, [name]: limit })}
            />
          ))}
        </tbody>
      </table>
      <Labelled label="Dataset shrank by more than (%)" note="Empty for no limit.">
        <Input
          type="number"
          min={0}
          max={100}
          className="w-[90px]"
          value={guards.shrunkPercent ?? ''}
          onChange={(e) => onChange({ ...guards, shrunkPercent: number(e.target.value) })}
        />
      </Labelled>
      <Check
        checked={guards.week}
        onChange={(week) => onChange({ ...guards, week })}
        label="also count removals and additions over seven days"
      />
      <Check
        checked={guards.stopOnEmptyDataset}
        onChange={(stopOnEmptyDataset) => onChange({ ...guards, stopOnEmptyDataset })}
        label="require approval when the dataset is empty"
      />
      <Check
        checked={guards.stopOnSchemaChange}
        onChange={(stopOnSchemaChange) => onChange({ ...guards, stopOnSchemaChange })}
        label="require approval when the destination's fields changed"
      />
    </Token>
  );
}

function LimitRow({
  words,
  limit,
  onChange,
}: {
  words: string;
  limit: Limit;
  onChange: (limit: Limit) => void;
}) {
  return (
    <tr>
      <td className="py-1 pr-3">{words}</td>
      <td className="pr-2">
        <Input
          type="number"
          min={0}
          max={100}
          className="w-[70px]"
          aria-label={`${words}, percent`}
          value={limit.percent ?? ''}
          onChange={(e) => onChange({ ...limit, percent: number(e.target.value) })}
        />
      </td>
      <td>
        <Input
          type="number"
          min={0}
          className="w-[90px]"
          aria-label={`${words}, records`}
          value={limit.count ?? ''}
          onChange={(e) => onChange({ ...limit, count: number(e.target.value) })}
        />
      </td>
    </tr>
  );
}

function Check({
  checked,
  label,
  onChange,
}: {
  checked: boolean;
  label: string;
  onChange: (checked: boolean) => void;
}) {
  return (
    <label className="flex items-center gap-2">
      <input type="checkbox" checked={checked} onChange={(e) => onChange(e.target.checked)} />
      {label}
    </label>
  );
}
