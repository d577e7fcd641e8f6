import type { FirstRun } from '../../api/types';
import { Token } from '../../components/ui';
import { ALREADY_THERE, firstRun, OLDER_ROWS } from './modes';

/** What the first run does with what is older than the route. Asked, never assumed. */
export function FirstRunToken({
  choice,
  onChange,
}: {
  choice: FirstRun | undefined;
  onChange: (choice: FirstRun) => void;
}) {
  const base: FirstRun = choice ?? { alreadyThere: 'ADOPT', olderRows: 'SEND' };
  return (
    <Token label="On the first run" text={firstRun(choice)}>
      <fieldset className="m-0 flex flex-col gap-1 border-0 p-0">
        <legend className="text-soft mb-1">Records that are in the destination already</legend>
        {(Object.keys(ALREADY_THERE) as FirstRun['alreadyThere'][]).map((one) => (
          <label key={one} className="flex items-baseline gap-2">
            <input
              type="radio"
              name="already-there"
              checked={choice?.alreadyThere === one}
              onChange={() => onChange({ ...base, alreadyThere: one })}
            />
            {ALREADY_THERE[one]}
          </label>
        ))}
      </fieldset>
      <fieldset className="m-0 flex flex-col gap-1 border-0 p-0">
        <legend className="text-soft mb-1">Rows that existed before the route</legend>
        {(Object.keys(OLDER_ROWS) as FirstRun['olderRows'][]).map((one) => (
          <label key={one} className="flex items-baseline gap-2">
            <input
              type="radio"
              name="older-rows"
              checked={choice?.olderRows === one}
              onChange={() => onChange({ ...base, olderRows: one })}
            />
            {OLDER_ROWS[one]}
          </label>
        ))}
      </fieldset>
      <p className="text-soft m-0">
        Rows that match two records are held. Records in the destination that match no row are left untouched;
        a stocktake lists them.
      </p>
    </Token>
  );
}
