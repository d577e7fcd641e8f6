import type { SeveralFiles } from '../../api/types';
import { Input, Labelled, Select } from '../../components/ui';
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
      {several.kind === 'each-holds-changes' && (
        <>
          <fieldset className="m-0 border-0 p-0">
            <legend className="text-soft p-0">Key columns</legend>
            <div className="flex flex-wrap gap-x-3 gap-y-1 pt-1">
              {names.map((name) => (
                <label key={name} className="flex items-baseline gap-1.5 font-mono">
                  <input
                    type="checkbox"
                    checked={several.keys.includes(name)}
                    onChange={() =>
                      onChange({
                        ...several,
                        keys: several.keys.includes(name)
                          ? several.keys.filter((one) => one !== name)
                          : [...several.keys, name],
                      })
                    }
                  />
                  {name}
                </label>
              ))}
            </div>
          </fieldset>
          <Labelled label="Column that says what changed">
            <Select
              className="w-full font-mono"
              value={several.change}
              onChange={(event) => onChange({ ...several, change: event.target.value })}
            >
              <option value="">none: every row adds or changes</option>
              {names.map((name) => (
                <option key={name}>{name}</option>
              ))}
            </Select>
          </Labelled>
          {several.change && (
            <Labelled label="Words that remove a record" note="With commas between them.">
              <Input
                className="w-full font-mono"
                defaultValue={several.removes.join(', ')}
                placeholder="delete, D"
                onChange={(event) =>
                  onChange({
                    ...several,
                    removes: event.target.value
                      .split(',')
                      .map((one) => one.trim())
                      .filter(Boolean),
                  })
                }
              />
            </Labelled>
          )}
        </>
      )}
    </>
  );
}

function begun(kind: SeveralFiles['kind']): SeveralFiles {
  return kind === 'each-holds-changes' ? { kind, keys: [], change: '', removes: [] } : { kind };
}
