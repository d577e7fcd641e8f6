import type { Comparison } from '../../api/types';
import { Input, Labelled } from '../../components/ui';
import { degree, withDegree } from './comparisons';

/** The number a comparison hangs on; nothing where it hangs on none. */
export function DegreeInput({
  comparison,
  onChange,
}: {
  comparison: Comparison;
  onChange: (comparison: Comparison) => void;
}) {
  const has = degree(comparison);
  if (!has) return null;
  return (
    <Labelled label={has.name}>
      <Input
        type="number"
        className="w-[90px]"
        step={has.step}
        value={has.value}
        onChange={(event) => onChange(withDegree(comparison, Number(event.target.value)))}
      />
    </Labelled>
  );
}
