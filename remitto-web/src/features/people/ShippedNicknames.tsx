import { useMemo, useState } from 'react';
import type { PeopleRules } from '../../api/types';
import { count } from '../../components/format';
import { shortFormsOf, type Nickname } from './nicknames';

const SHOWN = 60;

/** Short forms that ship, each of which may be said not to hold; found by name, since there are thousands. */
export function ShippedNicknames({
  rules,
  pairs,
  onChange,
}: {
  rules: PeopleRules;
  pairs: Nickname[];
  onChange: (rules: PeopleRules) => void;
}) {
  const [wanted, setWanted] = useState('');
  const found = useMemo(() => shortFormsOf(pairs, wanted), [pairs, wanted]);
  return (
    <details>
      <summary className="text-deep cursor-pointer">
        Built-in short forms; clear those that do not apply
      </summary>
      <label className="mt-2 flex items-center gap-2">
        <span className="text-soft">Find a name</span>
        <input
          type="search"
          className="rounded-button border-hairline bg-card border px-2 py-1"
          value={wanted}
          onChange={(event) => setWanted(event.target.value)}
        />
        <span className="text-soft" role="status">
          {found.length > SHOWN
            ? `The first ${SHOWN} of ${count(found.length)} short forms`
            : `${count(found.length)} ${found.length === 1 ? 'short form' : 'short forms'}`}
        </span>
      </label>
      <ul className="m-0 mt-1 grid max-h-[220px] list-none grid-cols-3 gap-x-3 overflow-auto p-0">
        {found.slice(0, SHOWN).map((one) => (
          <li key={one.nickname}>
            <label className="flex items-start gap-2">
              <input
                type="checkbox"
                className="mt-1"
                checked={!rules.notNicknames.includes(one.nickname)}
                onChange={(event) => {
                  const others = rules.notNicknames.filter((nickname) => nickname !== one.nickname);
                  onChange({
                    ...rules,
                    notNicknames: event.target.checked ? others : [...others, one.nickname],
                  });
                }}
              />
              <span>
                {one.nickname}: {one.names.join(', ')}
              </span>
            </label>
          </li>
        ))}
      </ul>
    </details>
  );
}
