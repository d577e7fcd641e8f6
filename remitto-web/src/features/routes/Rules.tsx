import { useMutation } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { api, ok } from '../../api/client';
import type {
  Column,
  Ends,
  Field,
  FieldMeeting,
  FieldRule,
  RouteFault,
  RuleWords,
  Run,
} from '../../api/types';
import { counted } from '../../components/format';
import { COUNTRY, zone } from '../../components/here';
import { Card, Failure, Input, Select, TH } from '../../components/ui';
import { RuleRow } from './RuleRow';
import { RulesOf } from './RulesOf';
import { focusRule } from './ruleKeys';
import { freshRule } from './words';
import { Act, Editors } from '../session/Editors';

interface Props {
  rules: FieldRule[];
  match: string[];
  fields: Field[];
  columns: Column[];
  faults: RouteFault[];
  /** Fields that other routes write too. */
  meetings?: FieldMeeting[];
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

/** With more rules than this they can be searched. */
const MANY = 12;

/** Shown in full up to so many; a field of a wide object is found by typing. */
const NAMED = 12;

function named(names: string[]): string {
  if (names.length === 0) return 'none';
  const rest = names.length - NAMED;
  return names.slice(0, NAMED).join(', ') + (rest > 0 ? ` and ${rest} more` : '');
}

function says(rule: FieldRule): string {
  return `${rule.field} ${JSON.stringify(rule.receives)}`.toLowerCase();
}

export function Rules(props: Props) {
  const { rules, match, fields, columns, faults, selected, onSelect, onChange, onAdd, onRemove } = props;
  const [open, setOpen] = useState(false);
  const [find, setFind] = useState('');
  const list = useRef<HTMLTableElement>(null);
  const wanted = find.trim().toLowerCase();
  const shown = rules.filter((rule) => wanted === '' || says(rule).includes(wanted));
  const unruled = fields.filter((field) => !rules.some((rule) => rule.field === field.name));
  const used = new Set(rules.flatMap((rule) => ('column' in rule.receives ? [rule.receives.column] : [])));
  const columnsLeft = columns.filter((column) => !used.has(column.name));
  const propose = useMutation({
    mutationFn: () =>
      ok(
        api.POST('/api/routes/propose', {
          body: { ends: props.ends, country: COUNTRY, zone: zone() },
        }),
      ),
    onSuccess: (proposal) =>
      props.onPropose(proposal.rules.filter((rule) => !rules.some((one) => one.field === rule.field))),
  });
  return (
    <Card>
      {rules.length > MANY && (
        <div className="flex items-center gap-3 px-3 pt-2.5">
          <Input
            aria-label="Find a rule"
            placeholder="Find a rule by field or column"
            className="w-[240px]"
            value={find}
            onChange={(e) => setFind(e.target.value)}
            onKeyDown={(e) => {
              if (e.key === 'ArrowDown') {
                e.preventDefault();
                focusRule(list.current, shown[0]?.field);
              }
            }}
          />
          <span className="text-soft">
            {counted(shown.length, 'rule')}. Use arrow keys to move, Enter to open, Escape to close.
          </span>
        </div>
      )}
      <table ref={list} className="w-full table-fixed border-collapse">
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
            <th className={TH}>Value source</th>
            <th className={TH}>Write policy</th>
            <th className={TH}>If empty</th>
            <th className={`${TH} text-right`}>
              {props.last ? `In no. ${props.last.id}` : <span className="sr-only">In the last manifest</span>}
            </th>
          </tr>
        </thead>
        <tbody>
          {shown.map((rule) => {
            const active = selected === rule.field;
            return (
              <RuleRow
                key={rule.field}
                rule={rule}
                field={fields.find((one) => one.name === rule.field)}
                isKey={match[0] === rule.field}
                active={active}
                open={open}
                faults={faults.filter(
                  (fault) => fault.field === rule.field && (fault.blocking || (active && open)),
                )}
                columns={columns}
                words={props.words[rule.field]}
                last={props.last}
                meeting={props.meetings?.find((one) => one.field === rule.field)}
                ends={props.ends}
                onToggle={() => {
                  setOpen(active ? !open : true);
                  onSelect(rule.field);
                }}
                onClose={() => {
                  setOpen(false);
                  focusRule(list.current, rule.field);
                }}
                onChange={onChange}
                onRemove={() => onRemove(rule.field)}
              />
            );
          })}
        </tbody>
      </table>
      <Failure error={propose.error} />
      <div className="flex flex-wrap items-center gap-3 px-3 py-2.5">
        <Editors>
          <Select
            aria-label="Add a rule for a field"
            value=""
            onChange={(e) => {
              const column = columns.find((one) => one.name === e.target.value);
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
        </Editors>
        <Act onClick={() => propose.mutate()} disabled={propose.isPending}>
          Propose rules
        </Act>
        <Editors>
          <RulesOf
            routeId={props.routeId}
            fields={unruled.map((field) => field.name)}
            onTake={props.onPropose}
          />
        </Editors>
        <span className="text-soft min-w-0 flex-1">
          Unused: fields{' '}
          {named(unruled.filter((field) => field.writable && !field.readOnly).map((field) => field.name))};
          columns {named(columnsLeft.map((column) => column.name))}.
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
