import { useQuery } from '@tanstack/react-query';
import { api, ok } from '../../../api/client';
import type { Column, FieldRule, Receives, RouteFault } from '../../../api/types';
import { CodeField } from '../../../components/CodeField';
import { Input, Select } from '../../../components/ui';
import { ColumnChoice } from './ColumnChoice';
import { DatasetWay } from './DatasetWay';

interface Props {
  rule: FieldRule;
  columns: Column[];
  faults: RouteFault[];
  destinationId: number;
  onChange: (receives: Receives) => void;
}

const KINDS: Record<Receives['kind'], string> = {
  column: 'from a column',
  fixed: 'a fixed value',
  expression: 'an expression (CEL)',
  dataset: 'found in another dataset',
  there: 'the id of a record in the destination',
  record: 'the record of another route',
  records: 'the records of another route',
};

function offset(text: string, line: number, column: number): number {
  const lines = text.split('\n').slice(0, line - 1);
  return lines.reduce((sum, one) => sum + one.length + 1, 0) + column;
}

/** What a field receives, edited in place. */
export function Received({ rule, columns, faults, destinationId, onChange }: Props) {
  const { receives } = rule;
  const routes = useQuery({ queryKey: ['routes'], queryFn: () => ok(api.GET('/api/routes')) });
  const functions = useQuery({
    queryKey: ['functions'],
    queryFn: () => ok(api.GET('/api/expressions/functions')),
    staleTime: Infinity,
    enabled: receives.kind === 'expression',
  });
  const column = 'column' in receives ? receives.column : '';
  const fresh: Record<Receives['kind'], () => Receives> = {
    column: () => ({ kind: 'column', column }),
    fixed: () => ({ kind: 'fixed', text: '' }),
    expression: () => ({ kind: 'expression', expression: column }),
    dataset: () => ({
      kind: 'dataset',
      column,
      ifMany: 'UNUSABLE',
      where: { dataset: 0, by: '', hops: [], give: '', parts: [], only: [] },
    }),
    there: () => ({ kind: 'there', object: '', by: '', column, ifMany: 'UNUSABLE' }),
    record: () => ({ kind: 'record', column, route: routes.data?.[0]?.id ?? 0 }),
    records: () => ({ kind: 'records', column, route: routes.data?.[0]?.id ?? 0, separator: ';' }),
  };
  return (
    <>
      <Select
        aria-label={`What ${rule.field} receives`}
        value={receives.kind}
        onChange={(e) => onChange(fresh[e.target.value as Receives['kind']]())}
      >
        {Object.entries(KINDS).map(([kind, word]) => (
          <option key={kind} value={kind}>
            {word}
          </option>
        ))}
      </Select>
      <div className={receives.kind === 'dataset' ? 'basis-full' : 'min-w-0 flex-1'}>
        {receives.kind === 'column' && (
          <ColumnChoice
            wide
            columns={columns}
            value={receives.column}
            onChange={(name) => onChange({ kind: 'column', column: name })}
          />
        )}
        {receives.kind === 'fixed' && (
          <Input
            aria-label="Fixed value"
            className="w-full font-mono"
            value={receives.text}
            onChange={(e) => onChange({ kind: 'fixed', text: e.target.value })}
          />
        )}
        {(receives.kind === 'record' || receives.kind === 'records') && (
          <div className="flex flex-wrap items-center gap-2">
            <Select
              aria-label="Route of the record"
              value={receives.route}
              onChange={(e) => onChange({ ...receives, route: Number(e.target.value) })}
            >
              {(routes.data ?? []).map((route) => (
                <option key={route.id} value={route.id}>
                  {route.name}
                </option>
              ))}
            </Select>
            <span>{receives.kind === 'record' ? 'by its key in' : 'by the keys in'}</span>
            <ColumnChoice
              columns={columns}
              value={receives.column}
              onChange={(name) => onChange({ ...receives, column: name })}
            />
            {receives.kind === 'records' && (
              <>
                <span>with</span>
                <Input
                  aria-label="Separator of the keys"
                  className="w-[44px] font-mono"
                  value={receives.separator}
                  onChange={(e) => onChange({ ...receives, separator: e.target.value })}
                />
                <span>as separator</span>
              </>
            )}
          </div>
        )}
        {receives.kind === 'there' && (
          <FoundThere
            receives={receives}
            columns={columns}
            destinationId={destinationId}
            onChange={onChange}
          />
        )}
        {receives.kind === 'dataset' && (
          <DatasetWay receives={receives} columns={columns} onChange={onChange} />
        )}
        {receives.kind === 'expression' && (
          <>
            <CodeField
              label={`Expression for ${rule.field}`}
              value={receives.expression}
              onChange={(expression) => onChange({ kind: 'expression', expression })}
              names={[
                ...columns.map((one) => one.name),
                ...(functions.data ?? []).map((one) => `${one.name}()`),
              ]}
              faults={faults
                .filter((fault) => fault.line > 0)
                .map((fault) => ({
                  at: offset(receives.expression, fault.line, fault.column),
                  message: fault.message,
                }))}
              height="auto"
              single
            />
            <details className="text-soft mt-1">
              <summary className="cursor-pointer">Additional functions</summary>
              <ul className="m-0 mt-1 list-none p-0">
                {(functions.data ?? []).map((one) => (
                  <li key={one.name} className="font-mono text-[0.75rem]">
                    {one.help}
                  </li>
                ))}
              </ul>
            </details>
          </>
        )}
      </div>
    </>
  );
}

export const IF_MANY = { UNUSABLE: 'treat as invalid', FIRST: 'the first is used', LIST: 'all are used' };

function FoundThere({
  receives,
  columns,
  destinationId,
  onChange,
}: {
  receives: Extract<Receives, { kind: 'there' }>;
  columns: Column[];
  destinationId: number;
  onChange: (receives: Receives) => void;
}) {
  const objects = useQuery({
    queryKey: ['objects', destinationId],
    queryFn: () => ok(api.GET('/api/destinations/{id}/objects', { params: { path: { id: destinationId } } })),
  });
  const object = useQuery({
    queryKey: ['fields', destinationId, receives.object],
    queryFn: () =>
      ok(
        api.GET('/api/destinations/{id}/objects/{object}', {
          params: { path: { id: destinationId, object: receives.object } },
        }),
      ),
    enabled: receives.object !== '',
  });
  return (
    <div className="flex flex-wrap items-center gap-2">
      <span>of the</span>
      <Select
        aria-label="Object in the destination"
        value={receives.object}
        onChange={(e) => onChange({ ...receives, object: e.target.value, by: '' })}
      >
        <option value="">choose…</option>
        {(objects.data ?? []).map((one) => (
          <option key={one.name} value={one.name}>
            {one.title}
          </option>
        ))}
      </Select>
      <span>whose</span>
      <Select
        aria-label="Field in the destination"
        className="font-mono"
        value={receives.by}
        onChange={(e) => onChange({ ...receives, by: e.target.value })}
      >
        <option value="">choose…</option>
        {(object.data?.object.fields ?? []).map((field) => (
          <option key={field.name}>{field.name}</option>
        ))}
      </Select>
      <span>is</span>
      <ColumnChoice
        columns={columns}
        value={receives.column}
        onChange={(column) => onChange({ ...receives, column })}
      />
      <span>; if several,</span>
      <Select
        aria-label="If several are found"
        value={receives.ifMany}
        onChange={(e) => onChange({ ...receives, ifMany: e.target.value as typeof receives.ifMany })}
      >
        {Object.entries(IF_MANY).map(([key, word]) => (
          <option key={key} value={key}>
            {word}
          </option>
        ))}
      </Select>
    </div>
  );
}
