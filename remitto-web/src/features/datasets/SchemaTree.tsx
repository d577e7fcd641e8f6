import { useState } from 'react';
import { count } from '../../components/format';
import { Card } from '../../components/ui';

export interface TableOf {
  schema: string;
  name: string;
  rowEstimate: number;
  columns: { name: string; type: string }[];
}

/** The warehouse's tables and their columns. */
export function SchemaTree({
  tables,
  onInsert,
}: {
  tables: TableOf[];
  /** A column was chosen to be written into the query; absent where there is none. */
  onInsert?: (column: string) => void;
}) {
  const [open, setOpen] = useState('');
  return (
    <Card title="Tables" className="max-h-[300px] overflow-auto">
      <ul className="m-0 list-none px-2 pb-2">
        {tables.map((table) => {
          const name = `${table.schema}.${table.name}`;
          return (
            <li key={name}>
              <button
                type="button"
                aria-expanded={open === name}
                className="hover:bg-sunk flex w-full cursor-pointer justify-between gap-1 rounded px-2 py-1 text-left font-mono text-[0.75rem]"
                onClick={() => setOpen(open === name ? '' : name)}
              >
                <span className="truncate">{name}</span>
                <span className="text-soft">{table.rowEstimate < 0 ? '' : count(table.rowEstimate)}</span>
              </button>
              {open === name && (
                <ul className="m-0 list-none py-1 pl-5">
                  {table.columns.map((column) => (
                    <li key={column.name} className="flex justify-between font-mono text-[0.75rem]">
                      {onInsert ? (
                        <button
                          type="button"
                          title="Insert into the query"
                          className="cursor-pointer py-0.5 hover:underline"
                          onClick={() => onInsert(column.name)}
                        >
                          {column.name}
                        </button>
                      ) : (
                        column.name
                      )}{' '}
                      <span className="text-soft truncate pl-2">{column.type}</span>
                    </li>
                  ))}
                </ul>
              )}
            </li>
          );
        })}
      </ul>
    </Card>
  );
}
