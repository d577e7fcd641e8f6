import { useState } from 'react';
import { Input, Labelled, Select } from '../../components/ui';

/** Columns that tell records apart, and the one that says that a record is gone. */
export function KeyFields<T extends { keys: string[]; change: string; removes: string[] }>({
  of,
  names,
  onChange,
}: {
  of: T;
  /** Of the columns that are kept. */
  names: string[];
  onChange: (next: T) => void;
}) {
  const [words, setWords] = useState(of.removes.join(', '));
  return (
    <>
      <fieldset className="m-0 border-0 p-0">
        <legend className="text-soft p-0">Key columns</legend>
        <div className="flex flex-wrap gap-x-3 gap-y-1 pt-1">
          {names.map((name) => (
            <label key={name} className="flex items-baseline gap-1.5 font-mono">
              <input
                type="checkbox"
                checked={of.keys.includes(name)}
                onChange={() =>
                  onChange({
                    ...of,
                    keys: of.keys.includes(name) ? of.keys.filter((one) => one !== name) : [...of.keys, name],
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
          value={of.change}
          onChange={(event) => onChange({ ...of, change: event.target.value })}
        >
          <option value="">none: every row adds or changes</option>
          {names.map((name) => (
            <option key={name}>{name}</option>
          ))}
        </Select>
      </Labelled>
      {of.change && (
        <Labelled label="Words that remove a record" note="With commas between them.">
          <Input
            className="w-full font-mono"
            value={words}
            placeholder="delete, D"
            onChange={(event) => {
              setWords(event.target.value);
              onChange({
                ...of,
                removes: event.target.value
                  .split(',')
                  .map((one) => one.trim())
                  .filter(Boolean),
              });
            }}
          />
        </Labelled>
      )}
    </>
  );
}
