import type { Column } from '../../../api/types';
import { Select } from '../../../components/ui';

/** One of a dataset's columns. */
export function ColumnChoice({
  columns,
  value,
  onChange,
  wide = false,
  label = 'Column',
}: {
  columns: Column[];
  value: string;
  onChange: (name: string) => void;
  wide?: boolean;
  label?: string;
}) {
  return (
    <Select
      aria-label={label}
      className={`font-mono ${wide ? 'w-full' : ''}`}
      value={value}
      onChange={(e) => onChange(e.target.value)}
    >
      {!columns.some((column) => column.name === value) && (
        <option value={value}>{value || 'choose…'}</option>
      )}
      {columns.map((column) => (
        <option key={column.name} value={column.name}>
          {column.name}
          {wide ? `, ${column.type.toLowerCase()}${column.role === 'SENSITIVE' ? ', sensitive' : ''}` : ''}
        </option>
      ))}
    </Select>
  );
}
