import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { api, ok } from '../../api/client';
import type { Column, Ends, Field, FieldRule, RouteFault, RuleWords, Run } from '../../api/types';
import { count } from '../../components/format';
import { Button, Card, Failure, Select, TD, TH } from '../../components/ui';
import { RulesOf } from './RulesOf';
import { RuleEditor } from './rule/RuleEditor';
import { shaperName } from './rule/shapers';
import { freshRule, IF_EMPTY, WRITTEN } from './words';

interface Props {
  rules: FieldRule[];
  match: string[];
  fields: Field[];
  columns: Column[];
  faults: RouteFault[];
  /** Each rule in words, by field. */
  words: Record<string, RuleWords>;
  /** The newest manifest of the route, for how often it wrote each field. */
  last?: Run;
  selected: string;
  onSelect: (field: string) => void;
  onChange: (rule: FieldRule) => void;
  onAdd: (rule: FieldRule) => void;
  onRemove: (field: string) => void;
  routeId: number;
  ends: Ends;
  onPropose: (rules: FieldRule[]) => void;
}

function Received({ rule }: { rule: FieldRule }) {
  return (
    <>
      {rule.receives.kind === 'column' && <span className="font-mono">{rule.receives.column}</span>}
      {rule.receives.kind === 'fixed' && (
        <>
          fixed <span className="font-mono">&quot;{rule.receives.text}&quot;</span>
        </>
      )}
      {(rule.receives.kind === 'record' || rule.receives.kind === 'records') && (
        <span>
          {rule.receives.kind === 'record' ? 'the record of' : 'the records of'}{' '}
          <span className="font-mono">{rule.receives.column}</span>
        </span>
      )}
      {rule.receives.kind === 'dataset' && (
        <span>
          <span className="font-mono">{rule.receives.where.give}</span> found by{' '}
          <span className="font-mono">{rule.receives.column}</span>
        </span>
      )}
      {rule.receives.kind === 'there' && (
        <span>
          the {rule.receives.object} there by <span className="font-mono">{rule.receives.column}</span>
        </span>
      )}
      {rule.receives.kind === 'expression' && <span className="font-mono">{rule.receives.expression}</span>}
      {rule.shapers.map((shaper, i) => (
        <span key={i} className="border-hairline ml-1 rounded border px-1 text-[12px] whitespace-nowrap">
          {shaperName(shaper)}
        </span>
      ))}
    </>
  );
}

/** In how many records of a manifest the field was written, and opened by a click. */
function Written({ run, field }: { run: Run; field: string }) {
  const found = run.fieldCounts.find((one) => one.field === field);
  if (!found) return <span className="text-soft">0</span>;
  return (
    <Link to={`/manifests/${run.id}?field=${encodeURIComponent(field)}`} className="text-deep">
      {found.held > 0 && <span className="text-held mr-1.5">‖{count(found.held)}</span>}
      {count(found.written)}
    </Link>
  );
}

export function Rules(props: Props) {
  const { rules, match, fields, columns, faults, selected, onSelect, onChange, onAdd, onRemove } = props;
  const [open, setOpen] = useState(false);
  const unruled = fields.filter((field) => !rules.some((rule) => rule.field === field.name));
  const used = new Set(rules.flatMap((rule) => ('column' in rule.receives ? [rule.receives.column] : [])));
  const columnsLeft = columns.filter((column) => !used.has(column.name));
  const propose = useMutation({
    mutationFn: () =>
      ok(
        api.POST('/api/routes/propose', {
          body: { ends: props.ends, country: 'NO', zone: Intl.DateTimeFormat().resolvedOptions().timeZone },
        }),
      ),
    onSuccess: (proposal) =>
      props.onPropose(proposal.rules.filter((rule) => !rules.some((one) => one.field === rule.field))),
  });
  return (
    <Card>
      <table className="w-full table-fixed border-collapse">
        <colgroup>
          <col className="w-[24%]" />
          <col />
          <col className="w-[15%]" />
          <col className="w-[17%]" />
          <col className="w-[11%]" />
        </colgroup>
        <thead>
          <tr>
            <th className={TH}>Destination field</th>
            <th className={TH}>Receives</th>
            <th className={TH}>Written</th>
            <th className={TH}>If empty</th>
            <th className={`${TH} text-right`}>{props.last ? `In no. ${props.last.id}` : ''}</th>
          </tr>
        </thead>
        <tbody>
          {rules.map((rule) => {
            const field = fields.find((one) => one.name === rule.field);
            const active = selected === rule.field;
            const mine = faults.filter(
              (fault) => fault.field === rule.field && (fault.blocking || (active && open)),
            );
            return [
              <tr key={rule.field} className={active ? 'bg-sunk' : ''}>
                <td className={`${TD} truncate`}>
                  <button
                    type="button"
                    aria-expanded={active && open}
                    className="cursor-pointer font-semibold hover:underline"
                    onClick={() => {
                      setOpen(active ? !open : true);
                      onSelect(rule.field);
                    }}
                  >
                    {rule.field}
                  </button>{' '}
                  <span className="text-soft">
                    {match[0] === rule.field ? 'key' : field?.required ? 'required' : ''}
                  </span>
                </td>
                <td className={`${TD} truncate`}>
                  <Received rule={rule} />
                </td>
                <td className={`${TD} truncate`} title={props.words[rule.field]?.sentence}>
                  {WRITTEN[rule.written]}
                  {rule.timing && <span className="text-soft"> timed</span>}
                  {rule.consent && <span className="text-soft"> with consent</span>}
                </td>
                <td className={`${TD} truncate`}>
                  {IF_EMPTY[rule.ifEmpty]}
                  {rule.ifEmpty === 'DEFAULT' && <span className="font-mono"> {rule.defaultText}</span>}
                </td>
                <td className={`${TD} text-right font-mono`}>
                  {props.last && <Written run={props.last} field={rule.field} />}
                </td>
              </tr>,
              ...(mine.length > 0
                ? [
                    <tr key={`${rule.field}-faults`} className={active ? 'bg-sunk' : ''}>
                      <td colSpan={5} className="border-hairline border-b px-3 pb-1.5">
                        {mine.map((fault) => (
                          <div
                            key={fault.message}
                            className={fault.blocking ? 'text-removed' : 'text-changed'}
                          >
                            {fault.line > 0 && `At ${fault.line}:${fault.column + 1}: `}
                            {fault.message}
                          </div>
                        ))}
                      </td>
                    </tr>,
                  ]
                : []),
              ...(active && open
                ? [
                    <tr key={`${rule.field}-editor`} className="bg-sunk">
                      <td colSpan={5} className="border-hairline border-b px-3 pt-1 pb-3">
                        <RuleEditor
                          rule={rule}
                          columns={columns}
                          faults={mine}
                          destinationId={props.ends.destinationId}
                          words={props.words[rule.field]}
                          onChange={onChange}
                          onRemove={() => onRemove(rule.field)}
                        />
                      </td>
                    </tr>,
                  ]
                : []),
            ];
          })}
        </tbody>
      </table>
      <Failure error={propose.error} />
      <div className="flex flex-wrap items-center gap-3 px-3 py-2.5">
        <Select
          aria-label="Add a rule for a field"
          value=""
          onChange={(e) => {
            const column = columns.find((one) => one.name === e.target.value) ?? columnsLeft[0] ?? columns[0];
            if (e.target.value) {
              onAdd(freshRule(e.target.value, { kind: 'column', column: column?.name ?? '' }));
              setOpen(true);
            }
          }}
        >
          <option value="">Add a rule for…</option>
          {unruled.map((field) => (
            <option key={field.name} value={field.name}>
              {field.name}, {field.kind.toLowerCase()}
              {field.required ? ', required' : ''}
              {field.readOnly ? ', read-only' : field.writable ? '' : ', not writable'}
            </option>
          ))}
        </Select>
        <Button onClick={() => propose.mutate()} disabled={propose.isPending}>
          Propose by name
        </Button>
        <RulesOf
          routeId={props.routeId}
          fields={unruled.map((field) => field.name)}
          onTake={props.onPropose}
        />
        <span className="text-soft min-w-0 flex-1">
          Left over: fields{' '}
          {unruled
            .filter((field) => field.writable && !field.readOnly)
            .map((field) => field.name)
            .join(', ') || 'none'}
          ; columns {columnsLeft.map((column) => column.name).join(', ') || 'none'}.
        </span>
      </div>
      {faults
        .filter((fault) => fault.field !== '' && !rules.some((rule) => rule.field === fault.field))
        .map((fault) => (
          <p key={fault.field + fault.message} className="text-removed m-0 px-3 pb-2">
            {fault.field}: {fault.message}
          </p>
        ))}
    </Card>
  );
}
