import { useState } from 'react';
import type { Column, Field } from '../../../api/types';
import { Card, Input, Pill, Select, TD, TH } from '../../../components/ui';
import type { Travels } from './choice';

/**
 * What is known of the people of an audience, which of it is sent, and which field receives it: one of the receiver's fields,
 * or a name that somebody gives it.
 */
export function TravelTable({
  columns,
  travels,
  fields,
  onChange,
}: {
  columns: Column[];
  travels: Travels;
  fields?: Field[];
  onChange: (travels: Travels) => void;
}) {
  const [looked, setLooked] = useState('');
  const [only, setOnly] = useState(false);
  const without = (name: string) =>
    Object.fromEntries(Object.entries(travels).filter(([column]) => column !== name));
  const shown = columns.filter(
    (column) => column.name.toLowerCase().includes(looked.toLowerCase()) && (!only || column.name in travels),
  );
  return (
    <Card
      title="Columns to send"
      aside={`${Object.keys(travels).length} of ${columns.length} columns`}
      className="mb-4"
    >
      <div className="flex items-center gap-4 px-4 pb-2">
        <Input
          aria-label="Find a column"
          placeholder="Find a column"
          value={looked}
          onChange={(e) => setLooked(e.target.value)}
        />
        <label className="flex items-center gap-2">
          <input type="checkbox" checked={only} onChange={(e) => setOnly(e.target.checked)} />
          Only sent columns
        </label>
      </div>
      <div className="max-h-[420px] overflow-y-auto" tabIndex={0} role="region" aria-label="Columns">
        <table className="w-full border-collapse [&_td]:align-middle [&_tr:last-child_td]:border-b-0">
          <thead>
            <tr>
              <th className={TH}>Send</th>
              <th className={TH}>Column</th>
              <th className={TH}>Type</th>
              <th className={TH}>{fields ? 'Sent as' : 'Field name'}</th>
            </tr>
          </thead>
          <tbody>
            {shown.map((column) => {
              const there = travels[column.name];
              const sensitive = column.role === 'SENSITIVE';
              return (
                <tr key={column.name}>
                  <td className={TD}>
                    <input
                      type="checkbox"
                      aria-label={`Send ${column.name}`}
                      checked={there !== undefined}
                      disabled={sensitive}
                      onChange={(e) =>
                        onChange(
                          e.target.checked
                            ? { ...travels, [column.name]: fields ? '' : column.name }
                            : without(column.name),
                        )
                      }
                    />
                  </td>
                  <td className={`${TD} font-mono`}>
                    {column.name}
                    {sensitive && (
                      <>
                        {' '}
                        <Pill tone="held">sensitive, not sent</Pill>
                      </>
                    )}
                  </td>
                  <td className={`${TD} text-soft`}>
                    {column.type.toLowerCase()}
                    {column.role !== 'ATTRIBUTE' && !sensitive
                      ? `, ${column.role.toLowerCase().replaceAll('_', ' ')}`
                      : ''}
                  </td>
                  <td className={TD}>
                    {there !== undefined && (
                      <NameThere
                        column={column.name}
                        name={there}
                        fields={fields}
                        onChange={(name) => onChange({ ...travels, [column.name]: name })}
                      />
                    )}
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      </div>
    </Card>
  );
}

/** What a column, or rows, are called there. */
export function NameThere({
  column,
  name,
  fields,
  onChange,
}: {
  column: string;
  name: string;
  fields?: Field[];
  onChange: (name: string) => void;
}) {
  const label = `Destination field for ${column}`;
  return fields ? (
    <Select
      aria-label={label}
      className="w-[240px] font-mono"
      value={name}
      onChange={(e) => onChange(e.target.value)}
    >
      <option value="">choose a field…</option>
      {fields.map((field) => (
        <option key={field.name} value={field.name}>
          {field.name}
        </option>
      ))}
    </Select>
  ) : (
    <Input
      aria-label={label}
      className="w-[240px] font-mono"
      value={name}
      onChange={(e) => onChange(e.target.value)}
    />
  );
}
