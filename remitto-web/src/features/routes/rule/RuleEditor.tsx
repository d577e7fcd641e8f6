import type { Column, FieldRule, RouteFault, RuleWords } from '../../../api/types';
import { Button } from '../../../components/ui';
import { Received } from './Received';
import { ShaperList } from './ShaperList';
import { WhenWritten } from './WhenWritten';

interface Props {
  rule: FieldRule;
  columns: Column[];
  faults: RouteFault[];
  destinationId: number;
  /** The rule as the server puts it in words; absent while it is asked. */
  words?: RuleWords;
  onChange: (rule: FieldRule) => void;
  onRemove: () => void;
}

/** One rule, edited in place. */
export function RuleEditor({ rule, columns, faults, destinationId, words, onChange, onRemove }: Props) {
  return (
    <div className="flex flex-col gap-2.5">
      <p className="text-ink m-0" aria-live="polite">
        {words?.sentence}
      </p>
      <div className="flex flex-wrap items-start gap-3">
        <Received
          rule={rule}
          columns={columns}
          faults={faults}
          destinationId={destinationId}
          onChange={(receives) => onChange({ ...rule, receives })}
        />
      </div>
      <ShaperList rule={rule} columns={columns} onChange={onChange} />
      <WhenWritten rule={rule} columns={columns} direction={words?.direction} onChange={onChange} />
      <div>
        <Button kind="quiet" onClick={onRemove}>
          Remove rule
        </Button>
      </div>
    </div>
  );
}
