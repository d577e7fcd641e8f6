import type { Field, Leavers, RouteSpec } from '../../api/types';
import { Input, Select, Token } from '../../components/ui';
import { LEAVING, leaving } from './modes';

const FRESH: Record<Leavers['kind'], Leavers> = {
  stay: { kind: 'stay' },
  set: { kind: 'set', fields: [] },
  clear: { kind: 'clear', fields: [] },
  'take-off': { kind: 'take-off' },
  delete: { kind: 'delete' },
};

const MEANS: Record<Leavers['kind'], string> = {
  stay: 'The record is left untouched.',
  set: 'The record stays and gets these values.',
  clear: 'The record stays without these values.',
  'take-off': 'The record is taken off the list.',
  delete: 'The record is removed. An undo can add it again.',
};

/** What happens to a record that left the dataset. */
export function LeaversToken({
  spec,
  fields,
  onChange,
}: {
  spec: RouteSpec;
  fields: Field[];
  onChange: (leavers: Leavers) => void;
}) {
  const { leavers } = spec;
  const kinds: Leavers['kind'][] =
    spec.mode === 'MEMBERSHIP' ? ['stay', 'take-off'] : ['stay', 'set', 'clear', 'delete'];
  const writable = fields.filter((field) => field.writable && !field.readOnly);
  return (
    <Token label="When a row leaves the dataset" text={leaving(leavers)}>
      {kinds.map((kind) => (
        <label key={kind} className="flex items-baseline gap-2">
          <input
            type="radio"
            name="leavers"
            checked={leavers.kind === kind}
            onChange={() => onChange(FRESH[kind])}
          />
          <span>
            <strong>{LEAVING[kind]}</strong>
            <span className="text-soft block">{MEANS[kind]}</span>
          </span>
        </label>
      ))}
      {leavers.kind === 'set' &&
        leavers.fields.map((one) => (
          <span key={one.field} className="flex items-center gap-2">
            <span className="font-mono">{one.field} =</span>
            <Input
              aria-label={`Value of ${one.field} when a row leaves`}
              className="w-[160px] font-mono"
              value={one.text}
              onChange={(e) =>
                onChange({
                  kind: 'set',
                  fields: leavers.fields.map((other) =>
                    other.field === one.field ? { ...other, text: e.target.value } : other,
                  ),
                })
              }
            />
            <TakeAway
              label={one.field}
              onClick={() =>
                onChange({ kind: 'set', fields: leavers.fields.filter((other) => other.field !== one.field) })
              }
            />
          </span>
        ))}
      {leavers.kind === 'clear' &&
        leavers.fields.map((name) => (
          <span key={name} className="flex items-center gap-2">
            <span className="font-mono">{name}</span>
            <TakeAway
              label={name}
              onClick={() =>
                onChange({ kind: 'clear', fields: leavers.fields.filter((other) => other !== name) })
              }
            />
          </span>
        ))}
      {(leavers.kind === 'set' || leavers.kind === 'clear') && (
        <Select
          aria-label="Add a field for rows that leave"
          value=""
          onChange={(e) => {
            if (!e.target.value) return;
            if (leavers.kind === 'set')
              onChange({ kind: 'set', fields: [...leavers.fields, { field: e.target.value, text: '' }] });
            else onChange({ kind: 'clear', fields: [...leavers.fields, e.target.value] });
          }}
        >
          <option value="">add a field</option>
          {writable.map((field) => (
            <option key={field.name}>{field.name}</option>
          ))}
        </Select>
      )}
    </Token>
  );
}

function TakeAway({ label, onClick }: { label: string; onClick: () => void }) {
  return (
    <button type="button" className="text-deep cursor-pointer" onClick={onClick}>
      remove<span className="sr-only"> {label}</span>
    </button>
  );
}
