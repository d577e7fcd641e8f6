import type { ColumnGuess, LandedColumn } from '../../api/types';
import { Input, Select, TD, TH } from '../../components/ui';

const TYPES: [LandedColumn['type'], string][] = [
  ['TEXT', 'text'],
  ['INTEGER', 'whole number'],
  ['DECIMAL', 'number'],
  ['BOOLEAN', 'yes or no'],
  ['DATE', 'date'],
  ['TIMESTAMP', 'date and time'],
];

const PLACEHOLDERS: Partial<Record<LandedColumn['type'], string>> = {
  BOOLEAN: 'yes/no',
  DATE: 'uuuu-MM-dd',
  TIMESTAMP: 'ISO 8601',
};

/** What of a file or a call is kept, under which name and as what. */
export function ColumnsTable({
  of,
  guesses,
  columns,
  examples,
  event,
  onChange,
}: {
  of: 'file' | 'call';
  guesses: ColumnGuess[];
  columns: LandedColumn[];
  /** A value of each, by where it is from. */
  examples?: Record<string, string>;
  /** Which value tells events apart. */
  event?: { from: string; onChange: (from: string) => void };
  onChange: (columns: LandedColumn[]) => void;
}) {
  // Columns that the file does not have stay, so that nobody loses them by looking at another file.
  const froms = [...new Set([...guesses.map((one) => one.column.from), ...columns.map((one) => one.from)])];
  const put = (from: string, next: LandedColumn | undefined) =>
    onChange(
      froms.flatMap((one) => {
        const kept = one === from ? next : columns.find((column) => column.from === one);
        return kept ? [kept] : [];
      }),
    );
  return (
    <table className="w-full border-collapse">
      <thead>
        <tr>
          <th className={TH}>In the {of}</th>
          {event && <th className={TH}>Event key</th>}
          <th className={TH}>Name</th>
          <th className={TH}>Type</th>
          <th className={TH}>Spelling</th>
          <th className={TH}>Evidence</th>
        </tr>
      </thead>
      <tbody>
        {froms.map((from) => {
          const guess = guesses.find((one) => one.column.from === from);
          const column = columns.find((one) => one.from === from);
          return (
            <tr key={from} className={column ? '' : 'text-soft'}>
              <td className={TD}>
                <label className="flex items-baseline gap-2 font-mono">
                  <input
                    type="checkbox"
                    checked={column !== undefined}
                    aria-label={`Keep ${from}`}
                    onChange={() =>
                      put(
                        from,
                        column
                          ? undefined
                          : (guess?.column ?? { name: from, from, type: 'TEXT', spelling: '' }),
                      )
                    }
                  />
                  {from}
                </label>
                {examples?.[from] && (
                  <div className="text-soft max-w-64 truncate pl-6 font-mono" title={examples[from]}>
                    {examples[from]}
                  </div>
                )}
              </td>
              {event && (
                <td className={`${TD} text-center`}>
                  <input
                    type="radio"
                    name="event-key"
                    aria-label={`${from} tells events apart`}
                    checked={event.from === from}
                    onChange={() => event.onChange(from)}
                  />
                </td>
              )}
              {column ? (
                <Kept column={column} onChange={(next) => put(from, next)} />
              ) : (
                <td className={TD} colSpan={3}>
                  not kept
                </td>
              )}
              <td className={TD}>
                {guess ? guess.evidence : of === 'file' ? 'not in this file' : 'not in the latest calls'}
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

function Kept({ column, onChange }: { column: LandedColumn; onChange: (column: LandedColumn) => void }) {
  return (
    <>
      <td className={TD}>
        <Input
          className="w-full min-w-28 font-mono"
          aria-label={`Name of ${column.from}`}
          value={column.name}
          onChange={(event) => onChange({ ...column, name: event.target.value })}
        />
      </td>
      <td className={TD}>
        <Select
          aria-label={`Type of ${column.from}`}
          value={column.type}
          onChange={(event) =>
            onChange({ ...column, type: event.target.value as LandedColumn['type'], spelling: '' })
          }
        >
          {TYPES.map(([value, title]) => (
            <option key={value} value={value}>
              {title}
            </option>
          ))}
        </Select>
      </td>
      <td className={TD}>
        {column.type === 'TEXT' ? (
          <span className="text-soft">–</span>
        ) : column.type === 'INTEGER' || column.type === 'DECIMAL' ? (
          <Select
            aria-label={`Spelling of ${column.from}`}
            value={column.spelling}
            onChange={(event) => onChange({ ...column, spelling: event.target.value })}
          >
            <option value="">decimal point</option>
            <option value="comma">decimal comma</option>
          </Select>
        ) : (
          <Input
            className="w-36 font-mono"
            aria-label={`Spelling of ${column.from}`}
            placeholder={PLACEHOLDERS[column.type]}
            value={column.spelling}
            onChange={(event) => onChange({ ...column, spelling: event.target.value })}
          />
        )}
      </td>
    </>
  );
}
