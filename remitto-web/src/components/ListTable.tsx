import {
  type ColumnDef,
  createSortedRowModel,
  type RowData,
  rowSelectionFeature,
  rowSortingFeature,
  type SortingState,
  tableFeatures,
  useTable,
} from '@tanstack/react-table';
import { ArrowDown, ArrowUp } from 'lucide-react';
import { type ReactNode, useEffect, useMemo, useRef } from 'react';
import { useListParams } from './listParams';
import { Card, Input, TD, TH } from './ui';

const FEATURES = tableFeatures({
  rowSortingFeature,
  rowSelectionFeature,
  sortedRowModel: createSortedRowModel(),
});
const COLLATOR = new Intl.Collator(undefined, { numeric: true, sensitivity: 'base' });

export interface ListColumn<T extends RowData> {
  id: string;
  title: ReactNode;
  /** What the column is sorted by; a column without it cannot be. Absent values come last. */
  by?: (row: T) => string | number | undefined;
  cell: (row: T) => ReactNode;
  right?: boolean;
  className?: string;
}

interface Props<T extends RowData> {
  /** Of one row and of several, as in ["route", "routes"]. */
  of: [string, string];
  title?: string;
  /** Beside the search. */
  aside?: ReactNode;
  rows: T[];
  id: (row: T) => string | number;
  /** The name that a row is called by. */
  name: (row: T) => string;
  /** All that a row is found by. */
  words: (row: T) => string;
  columns: ListColumn<T>[];
  /** What can be done with several rows at once; rows can be chosen when it is there. */
  acts?: (chosen: T[]) => ReactNode;
  /** Whether the key / leads to the search of this list; of one list on a page. */
  main?: boolean;
}

/**
 * A list that can be searched, sorted by its columns and, where something can be done with several rows, chosen from. What is looked
 * for and the order stand in the address, so that they are still there when somebody comes back.
 */
export function ListTable<T extends RowData>({
  of,
  title,
  aside,
  rows,
  id,
  name,
  words,
  columns,
  acts,
  main = false,
}: Props<T>) {
  const params = useListParams(main ? '' : `${of[1]}-`);
  const find = params.get('find');
  const order = params.get('sort');
  const shown = useMemo(() => {
    const parts = find.toLowerCase().split(/\s+/).filter(Boolean);
    return rows.filter((row) => {
      const text = words(row).toLowerCase();
      return parts.every((part) => text.includes(part));
    });
    // eslint-disable-next-line react-hooks/exhaustive-deps -- words is a function of its row alone
  }, [rows, find]);
  const defs = useMemo<ColumnDef<typeof FEATURES, T>[]>(
    () =>
      columns.map((column) => ({
        id: column.id,
        accessorFn: (row: T) => column.by?.(row),
        enableSorting: column.by !== undefined,
        sortUndefined: 'last' as const,
        sortFn: (one, other, by) => {
          const [a, b] = [one.getValue<string | number>(by), other.getValue<string | number>(by)];
          return typeof a === 'number' && typeof b === 'number' ? a - b : COLLATOR.compare(`${a}`, `${b}`);
        },
      })),
    // eslint-disable-next-line react-hooks/exhaustive-deps -- columns are functions of their row alone
    [columns.map((column) => column.id).join()],
  );
  const sorting: SortingState =
    order === '' ? [] : [{ id: order.replace(/^-/, ''), desc: order.startsWith('-') }];
  const table = useTable({
    features: FEATURES,
    columns: defs,
    data: shown,
    getRowId: (row) => String(id(row)),
    state: { sorting },
    onSortingChange: (change) => {
      const [by] = typeof change === 'function' ? change(sorting) : change;
      params.set('sort', by ? (by.desc ? '-' : '') + by.id : '');
    },
  });
  const chosen = table.getSelectedRowModel().rows.map((row) => row.original);
  const search = useRef<HTMLInputElement>(null);
  useSearchKey(search, main);
  return (
    <Card className="mt-3 overflow-x-auto first:mt-0" title={title}>
      <div className="flex flex-wrap items-center gap-3 px-3 pt-2">
        <Input
          ref={search}
          type="search"
          aria-label={`Find ${of[1]}`}
          placeholder={main ? `Find ${of[1]} (press /)` : `Find ${of[1]}`}
          className="w-64"
          value={find}
          onChange={(event) => params.set('find', event.target.value)}
        />
        <span role="status" className="text-soft">
          {find !== '' && `${shown.length} of ${rows.length} ${rows.length === 1 ? of[0] : of[1]}`}
          {chosen.length > 0 && ` ${chosen.length} selected`}
        </span>
        {chosen.length > 0 && acts?.(chosen)}
        {aside && <div className="ml-auto">{aside}</div>}
      </div>
      <table className="mt-1 w-full border-collapse">
        <thead>
          <tr>
            {acts && (
              <th className={`${TH} w-8`}>
                <input
                  type="checkbox"
                  aria-label={`Select all ${of[1]}`}
                  checked={shown.length > 0 && table.getIsAllRowsSelected()}
                  onChange={table.getToggleAllRowsSelectedHandler()}
                />
              </th>
            )}
            {columns.map((column) => (
              <Header
                key={column.id}
                column={column}
                now={sorting[0]?.id === column.id ? (sorting[0].desc ? 'descending' : 'ascending') : 'none'}
                onSort={() => table.getColumn(column.id)?.toggleSorting()}
              />
            ))}
          </tr>
        </thead>
        <tbody>
          {table.getRowModel().rows.map((row) => (
            <tr key={row.id}>
              {acts && (
                <td className={TD}>
                  <input
                    type="checkbox"
                    aria-label={`Select ${name(row.original)}`}
                    checked={row.getIsSelected()}
                    onChange={row.getToggleSelectedHandler()}
                  />
                </td>
              )}
              {columns.map((column) => (
                <td
                  key={column.id}
                  className={`${TD} ${column.right ? 'text-right font-mono' : ''} ${column.className ?? ''}`}
                >
                  {column.cell(row.original)}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      {shown.length === 0 && <p className="text-soft m-0 px-4 py-4">No {of[0]} matches.</p>}
    </Card>
  );
}

function Header<T extends RowData>({
  column,
  now,
  onSort,
}: {
  column: ListColumn<T>;
  now: 'ascending' | 'descending' | 'none';
  onSort: () => void;
}) {
  const Arrow = now === 'descending' ? ArrowDown : ArrowUp;
  return (
    <th className={`${TH} ${column.right ? 'text-right' : ''}`} aria-sort={column.by ? now : undefined}>
      {column.by ? (
        <button
          type="button"
          className="hover:text-ink inline-flex min-h-6 items-center gap-1 font-medium"
          onClick={onSort}
        >
          {column.title}
          {now !== 'none' && <Arrow aria-hidden size="0.875rem" />}
        </button>
      ) : (
        column.title
      )}
    </th>
  );
}

/** The key / leads to a search, but where somebody writes. */
function useSearchKey(search: React.RefObject<HTMLInputElement | null>, on: boolean) {
  useEffect(() => {
    if (!on) return;
    const press = (event: KeyboardEvent) => {
      const at = event.target as HTMLElement;
      const writes = at.matches('input, textarea, select, [contenteditable=true], [contenteditable=true] *');
      if (event.key !== '/' || writes || event.ctrlKey || event.metaKey || event.altKey) return;
      event.preventDefault();
      search.current?.focus();
    };
    window.addEventListener('keydown', press);
    return () => window.removeEventListener('keydown', press);
  }, [search, on]);
}
