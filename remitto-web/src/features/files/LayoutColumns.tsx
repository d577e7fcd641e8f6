import type { FileColumn, FileLayout } from '../../api/types';
import { Button, Input, Select, TD, TH } from '../../components/ui';
import { moved, withColumn } from './layout';

const KINDS: Record<string, string> = {
  TEXT: 'text',
  EMAIL: 'e-mail address',
  PHONE: 'phone number',
  INTEGER: 'whole number',
  DECIMAL: 'number',
  BOOLEAN: 'true or false',
  DATE: 'date',
  TIMESTAMP: 'date and time',
  LIST: 'list',
  ROWS: 'list of rows',
};

/** The columns of a file in their order, named as its receiver wants them. */
export function LayoutColumns({
  layout,
  onChange,
}: {
  layout: FileLayout;
  onChange: (layout: FileLayout) => void;
}) {
  const change = (at: number, part: Partial<FileColumn>) => {
    const column = layout.columns[at];
    if (column) onChange(withColumn(layout, at, { ...column, ...part }));
  };
  return (
    <div>
      <table className="w-full border-collapse">
        <thead>
          <tr>
            <th className={TH}>Column name in the file</th>
            <th className={TH}>Type</th>
            <th className={TH}>Key</th>
            <th className={TH}>Required</th>
            <th className={TH}>
              <span className="sr-only">Position</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {layout.columns.map((column, at) => (
            <tr key={at}>
              <td className={TD}>
                <Input
                  className="w-full"
                  aria-label={`Name of column ${at + 1}`}
                  value={column.name}
                  onChange={(event) => change(at, { name: event.target.value })}
                />
              </td>
              <td className={TD}>
                <Select
                  aria-label={`Type of column ${at + 1}`}
                  value={column.kind}
                  onChange={(event) => change(at, { kind: event.target.value as FileColumn['kind'] })}
                >
                  {Object.entries(KINDS).map(([value, text]) => (
                    <option key={value} value={value}>
                      {text}
                    </option>
                  ))}
                </Select>
              </td>
              <td className={TD}>
                <input
                  type="radio"
                  name="key"
                  aria-label={`${column.name} is the key`}
                  checked={layout.key === column.name}
                  onChange={() => onChange({ ...layout, key: column.name })}
                />
              </td>
              <td className={TD}>
                <input
                  type="checkbox"
                  aria-label={`${column.name} is required`}
                  checked={column.required || layout.key === column.name}
                  disabled={layout.key === column.name}
                  onChange={(event) => change(at, { required: event.target.checked })}
                />
              </td>
              <td className={`${TD} text-right whitespace-nowrap`}>
                <Button
                  kind="quiet"
                  aria-label={`Move ${column.name} up`}
                  disabled={at === 0}
                  onClick={() => onChange(moved(layout, at, -1))}
                >
                  ↑
                </Button>
                <Button
                  kind="quiet"
                  aria-label={`Move ${column.name} down`}
                  disabled={at === layout.columns.length - 1}
                  onClick={() => onChange(moved(layout, at, 1))}
                >
                  ↓
                </Button>
                <Button
                  kind="quiet"
                  aria-label={`Remove ${column.name}`}
                  disabled={layout.key === column.name}
                  onClick={() =>
                    onChange({ ...layout, columns: layout.columns.filter((_, place) => place !== at) })
                  }
                >
                  Remove
                </Button>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <Button
        kind="quiet"
        onClick={() =>
          onChange({
            ...layout,
            columns: [
              ...layout.columns,
              { name: `column ${layout.columns.length + 1}`, kind: 'TEXT', required: false },
            ],
          })
        }
      >
        Add column
      </Button>
    </div>
  );
}
