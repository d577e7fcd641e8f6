import type { SeveralFiles } from '../../api/types';
import { Labelled, Select } from '../../components/ui';
import { KeyFields } from '../landing/KeyFields';
import { SEVERAL } from './words';

/** What it means that there are several files. */
export function SeveralFields({
  several,
  names,
  onChange,
}: {
  several: SeveralFiles;
  /** Of the columns that are kept. */
  names: string[];
  onChange: (several: SeveralFiles) => void;
}) {
  return (
    <>
      <Labelled label="Several files" note={SEVERAL.find((one) => one.kind === several.kind)?.note}>
        <Select
          className="w-full"
          value={several.kind}
          onChange={(event) => onChange(begun(event.target.value as SeveralFiles['kind']))}
        >
          {SEVERAL.map((one) => (
            <option key={one.kind} value={one.kind}>
              {one.title}
            </option>
          ))}
        </Select>
      </Labelled>
      {several.kind === 'each-holds-changes' && <KeyFields of={several} names={names} onChange={onChange} />}
    </>
  );
}

function begun(kind: SeveralFiles['kind']): SeveralFiles {
  return kind === 'each-holds-changes' ? { kind, keys: [], change: '', removes: [] } : { kind };
}
