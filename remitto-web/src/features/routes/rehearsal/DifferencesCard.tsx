import type { Differences } from '../../../api/types';
import { Card } from '../../../components/ui';
import { firstRun, guardSentence, leaving, MODES } from '../modes';
import { sentence } from '../schedule';

type Spec = Differences['before'];

/** One part of a route in a few words. */
function words(part: string, spec: Spec): string {
  switch (part) {
    case 'mode':
      return MODES[spec.mode].text;
    case 'match':
      return spec.match.join(', then ');
    case 'leavers':
      return leaving(spec.leavers);
    case 'guards':
      return guardSentence(spec.guards);
    case 'schedule':
      return sentence(spec.schedule);
    case 'firstRun':
      return spec.firstRun ? firstRun(spec.firstRun) : 'not decided';
    case 'basis':
      return spec.basis.kind === 'consent'
        ? `consent to ${spec.basis.purpose}, told by ${spec.basis.column}`
        : spec.basis.kind === 'stated'
          ? spec.basis.reason
          : 'not stated';
    case 'waves':
      return spec.waves ? `a first wave of ${spec.waves.first}` : 'all at once';
    case 'after':
      return spec.after.length > 0 ? `after routes ${spec.after.join(', ')}` : 'after no other route';
    default:
      return part;
  }
}

const PARTS: Record<string, string> = {
  mode: 'What it does',
  match: 'Match',
  leavers: 'When a row leaves',
  guards: 'Guards',
  schedule: 'When',
  firstRun: 'First run',
  basis: 'Legal basis',
  waves: 'Waves',
  after: 'Order',
};

/** What two versions say differently, in words. */
export function DifferencesCard({ differences, title }: { differences: Differences; title: string }) {
  const none = differences.rules.length === 0 && differences.parts.length === 0;
  return (
    <Card title={title}>
      <div className="flex flex-col gap-2 px-4 pb-3">
        {none && <span className="text-soft">No differences.</span>}
        {differences.parts.map((part) => (
          <div key={part}>
            <strong>{PARTS[part] ?? part}</strong>{' '}
            <del className="text-removed">{words(part, differences.before)}</del>{' '}
            <ins className="text-added no-underline">{words(part, differences.after)}</ins>
          </div>
        ))}
        {differences.rules.map((rule) => (
          <div key={rule.field}>
            <strong className="font-mono">{rule.field}</strong>{' '}
            {rule.before === undefined ? 'gets a rule' : rule.after === undefined ? 'loses its rule' : ''}
            {rule.before !== undefined && <del className="text-removed block">{rule.before}</del>}
            {rule.after !== undefined && <ins className="text-added block no-underline">{rule.after}</ins>}
          </div>
        ))}
      </div>
    </Card>
  );
}
