import type { DatasetDefinition } from '../../api/types';
import { Card, Input, Labelled, Select } from '../../components/ui';
import type { TableOf } from './SchemaTree';

type TableQuery = Extract<DatasetDefinition['query'], { kind: 'table' }>;

/** A dataset without SQL: a table, ticked columns, and a filter or the explicit choice of all rows. */
export function TablePicker({
  query,
  tables,
  onChange,
}: {
  query: TableQuery;
  tables: TableOf[];
  onChange: (query: TableQuery) => void;
}) {
  const table = tables.find((one) => one.schema === query.schema && one.name === query.table);
  const toggle = (column: string) =>
    onChange({
      ...query,
      columns: query.columns.includes(column)
        ? query.columns.filter((one) => one !== column)
        : (table?.columns ?? [])
            .map((one) => one.name)
            .filter((one) => one === column || query.columns.includes(one)),
    });
  return (
    <Card className="flex min-h-[270px] flex-col gap-3 p-4">
      <Labelled label="Table">
        <Select
          className="w-full"
          value={`${query.schema}.${query.table}`}
          onChange={(e) => {
            const found = tables.find((one) => `${one.schema}.${one.name}` === e.target.value);
            if (found)
              onChange({
                kind: 'table',
                schema: found.schema,
                table: found.name,
                columns: found.columns.map((column) => column.name),
              });
          }}
        >
          <option value=".">choose a table</option>
          {tables.map((one) => (
            <option key={`${one.schema}.${one.name}`} value={`${one.schema}.${one.name}`}>
              {one.schema}.{one.name}
            </option>
          ))}
        </Select>
      </Labelled>
      {table && (
        <>
          <fieldset className="m-0 border-0 p-0">
            <legend className="text-soft mb-1">Columns</legend>
            <div className="grid grid-cols-3 gap-1">
              {table.columns.map((column) => (
                <label key={column.name} className="flex items-center gap-1.5 font-mono text-[0.75rem]">
                  <input
                    type="checkbox"
                    checked={query.columns.includes(column.name)}
                    onChange={() => toggle(column.name)}
                  />
                  {column.name}
                </label>
              ))}
            </div>
          </fieldset>
          <fieldset className="m-0 border-0 p-0">
            <legend className="text-soft mb-1">Rows</legend>
            <label className="mr-4 inline-flex items-center gap-1.5">
              <input
                type="radio"
                name="rows"
                checked={query.filter === undefined}
                onChange={() => onChange({ ...query, filter: undefined })}
              />
              all rows
            </label>
            <label className="inline-flex items-center gap-1.5">
              <input
                type="radio"
                name="rows"
                checked={query.filter !== undefined}
                onChange={() => onChange({ ...query, filter: '' })}
              />
              filter rows
            </label>
            {query.filter !== undefined && (
              <Input
                aria-label="Condition"
                className="mt-2 w-full font-mono"
                placeholder="status = 'active'"
                value={query.filter}
                onChange={(e) => onChange({ ...query, filter: e.target.value })}
              />
            )}
          </fieldset>
        </>
      )}
    </Card>
  );
}
