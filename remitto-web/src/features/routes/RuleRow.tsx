import { Link } from 'react-router';
import type { KeyboardEvent } from 'react';
import type {
  Column,
  DatasetLookUp,
  Ends,
  Field,
  FieldMeeting,
  FieldRule,
  RouteFault,
  RuleWords,
  Run,
} from '../../api/types';
import { count } from '../../components/format';
import { TD } from '../../components/ui';
import { MeetingWords } from '../fieldbook/Meetings';
import { walk } from './ruleKeys';
import { RuleEditor } from './rule/RuleEditor';
import { shaperName } from './rule/shapers';
import { IF_EMPTY, WRITTEN } from './words';
import { Editable } from '../session/Editors';

/** What of a row is received, by the names it has there. */
function given(where: DatasetLookUp): string {
  return where.parts.length === 0 ? where.give : where.parts.map((part) => part.name).join(', ');
}

/** How many rows, when not all. */
function firstOf({ pick }: DatasetLookUp): string {
  if (!pick || pick.most === 0) return '';
  return `${pick.newestFirst ? 'the last' : 'the first'} ${pick.most} by ${pick.orderBy}: `;
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
          {firstOf(rule.receives.where)}
          <span className="font-mono">{given(rule.receives.where)}</span> found by{' '}
          <span className="font-mono">{rule.receives.column}</span>
        </span>
      )}
      {rule.receives.kind === 'there' && (
        <span>
          the {rule.receives.object} in the destination by{' '}
          <span className="font-mono">{rule.receives.column}</span>
        </span>
      )}
      {rule.receives.kind === 'expression' && <span className="font-mono">{rule.receives.expression}</span>}
      {rule.shapers.map((shaper, i) => (
        <span key={i} className="border-hairline ml-1 rounded border px-1 text-[0.75rem] whitespace-nowrap">
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

interface Props {
  rule: FieldRule;
  field?: Field;
  isKey: boolean;
  /** The rule that is followed; open when its editor is shown as well. */
  active: boolean;
  open: boolean;
  faults: RouteFault[];
  /** Other routes that write the field. */
  meeting?: FieldMeeting;
  columns: Column[];
  words?: RuleWords;
  last?: Run;
  ends: Ends;
  onToggle: () => void;
  onClose: () => void;
  onChange: (rule: FieldRule) => void;
  onRemove: () => void;
}

/** One rule in the list, with its editor below it when it is open. */
export function RuleRow(props: Props) {
  const { rule, field, active, open, faults, meeting, words } = props;
  const shaded = active ? 'bg-sunk' : '';
  const closeOnEscape = (event: KeyboardEvent) => {
    if (event.key === 'Escape' && !event.defaultPrevented) props.onClose();
  };
  return (
    <>
      <tr className={shaded}>
        <td className={`${TD} truncate`}>
          <button
            type="button"
            data-rule={rule.field}
            aria-expanded={active && open}
            className="cursor-pointer font-semibold hover:underline"
            onClick={props.onToggle}
            onKeyDown={(e) => walk(e, e.currentTarget.closest('table'))}
          >
            {rule.field}
          </button>{' '}
          <span className="text-soft">{props.isKey ? 'key' : field?.required ? 'required' : ''}</span>
        </td>
        <td className={`${TD} truncate`}>
          <Received rule={rule} />
        </td>
        <td className={`${TD} truncate`} title={words?.sentence}>
          {WRITTEN[rule.written]}
          {rule.timing && <span className="text-soft"> timed</span>}
          {rule.consent && <span className="text-soft"> with consent</span>}
          {meeting && (
            <span
              className={`block truncate ${meeting.settled ? 'text-soft' : 'text-held'}`}
              title={meeting.words}
            >
              also {meeting.others.map((other) => other.route).join(', ')}
            </span>
          )}
        </td>
        <td className={`${TD} truncate`}>
          {IF_EMPTY[rule.ifEmpty]}
          {rule.ifEmpty === 'DEFAULT' && <span className="font-mono"> {rule.defaultText}</span>}
        </td>
        <td className={`${TD} text-right font-mono`}>
          {props.last && <Written run={props.last} field={rule.field} />}
        </td>
      </tr>
      {faults.length > 0 && (
        <tr className={shaded}>
          <td colSpan={5} className="border-hairline border-b px-3 pb-1.5">
            {faults.map((fault) => (
              <div key={fault.message} className={fault.blocking ? 'text-removed' : 'text-changed'}>
                {fault.line > 0 && `At ${fault.line}:${fault.column + 1}: `}
                {fault.message}
              </div>
            ))}
          </td>
        </tr>
      )}
      {active && open && (
        // The editor's own controls take the keys first; what they leave closes the editor.
        <tr className="bg-sunk" onKeyDown={closeOnEscape}>
          <td colSpan={5} className="border-hairline border-b px-3 pt-1 pb-3">
            {meeting && (
              <div className={meeting.settled ? 'text-soft' : 'text-held'} role="status">
                <MeetingWords meeting={meeting} ends={props.ends} />
              </div>
            )}
            <Editable>
              <RuleEditor
                rule={rule}
                columns={props.columns}
                faults={faults}
                destinationId={props.ends.destinationId}
                words={words}
                onChange={props.onChange}
                onRemove={props.onRemove}
              />
            </Editable>
          </td>
        </tr>
      )}
    </>
  );
}
