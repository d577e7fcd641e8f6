import type { ReactNode } from 'react';
import type { Basis, Column, Field, FieldRule, Route, RouteFault, RouteSpec } from '../../api/types';
import { Card, Input, Labelled, Select, Token } from '../../components/ui';
import { FirstRunToken } from './FirstRunToken';
import { GuardsToken } from './GuardsToken';
import { LeaversToken } from './Leaving';
import { MODES } from './modes';
import { AfterToken, WavesToken } from './PaceTokens';
import { ScheduleToken } from './ScheduleToken';

interface Props {
  route: Route;
  spec: RouteSpec;
  columns: Column[];
  fields: Field[];
  people: boolean;
  faults: RouteFault[];
  onChange: (spec: RouteSpec) => void;
}

function receives(rule: FieldRule | undefined): string {
  if (!rule) return '?';
  if (rule.receives.kind === 'column') return rule.receives.column;
  if (rule.receives.kind === 'record') return `record of ${rule.receives.column}`;
  return rule.receives.kind === 'fixed' ? `"${rule.receives.text}"` : 'expression';
}

function Row({ name, children }: { name: string; children: ReactNode }) {
  return (
    <div className="border-hairline flex items-baseline gap-4 border-b px-4 py-1.5 last:border-0">
      <div className="w-[58px] font-semibold">{name}</div>
      <div className="flex flex-1 flex-wrap items-baseline gap-x-2 gap-y-1">{children}</div>
    </div>
  );
}

/** What the route does, as sentences with parts that can be changed. */
export function Sentences({ route, spec, columns, fields, people, faults, onChange }: Props) {
  const rule = (field: string) => spec.rules.find((one) => one.field === field);
  const ruled = fields.filter((field) => rule(field.name));
  return (
    <Card>
      <Row name="Send">
        <span>
          rows of <strong>{route.dataset}</strong>;
        </span>
        <Token label="Mode" text={MODES[spec.mode].text}>
          {(Object.keys(MODES) as RouteSpec['mode'][]).map((mode) => (
            <label key={mode} className="flex items-baseline gap-2">
              <input
                type="radio"
                name="mode"
                checked={spec.mode === mode}
                onChange={() =>
                  onChange({
                    ...spec,
                    mode,
                    leavers: mode === 'REMOVE' || mode === 'APPEND' ? { kind: 'stay' } : spec.leavers,
                  })
                }
              />
              <span>
                <strong>{MODES[mode].text}</strong>
                <span className="text-soft block">{MODES[mode].means}</span>
              </span>
            </label>
          ))}
        </Token>
        {spec.mode !== 'REMOVE' && spec.mode !== 'APPEND' && (
          <>
            <span>when a row leaves</span>
            <LeaversToken
              spec={spec}
              fields={fields}
              onChange={(leavers) => onChange({ ...spec, leavers })}
            />
          </>
        )}
      </Row>
      <Row name="Match">
        {spec.match.map((name, i) => (
          <span key={name} className="flex items-baseline gap-2">
            {i > 0 && <span>then</span>}
            <Token
              label={`Match by ${name}`}
              text={
                <span className="font-mono">
                  {receives(rule(name))} = {name}
                </span>
              }
            >
              <Labelled label={i === 0 ? 'Key field' : 'Additional key'}>
                <Select
                  value={name}
                  onChange={(e) =>
                    onChange({ ...spec, match: spec.match.map((one, j) => (j === i ? e.target.value : one)) })
                  }
                >
                  {ruled.map((field) => (
                    <option key={field.name} value={field.name}>
                      {field.name}
                      {field.unique ? ' (unique)' : ''}
                    </option>
                  ))}
                </Select>
              </Labelled>
              {i > 0 && (
                <button
                  type="button"
                  className="text-deep cursor-pointer text-left"
                  onClick={() => onChange({ ...spec, match: spec.match.filter((one) => one !== name) })}
                >
                  Remove
                </button>
              )}
            </Token>
          </span>
        ))}
        <Token label="Add a match key" text="+">
          <Labelled label="Match by">
            <Select
              value=""
              onChange={(e) =>
                e.target.value && onChange({ ...spec, match: [...spec.match, e.target.value] })
              }
            >
              <option value="">choose a field that has a rule</option>
              {ruled
                .filter((field) => !spec.match.includes(field.name))
                .map((field) => (
                  <option key={field.name} value={field.name}>
                    {field.name}
                    {field.unique ? ' (unique)' : ''}
                  </option>
                ))}
            </Select>
          </Labelled>
        </Token>
        <span className="text-soft">if two records match, the row is held</span>
      </Row>
      {people && (
        <Row name="Legal basis">
          <BasisToken
            basis={spec.basis}
            columns={columns}
            onChange={(basis) => onChange({ ...spec, basis })}
          />
          <span className="text-soft">
            {spec.basis.kind === 'consent'
              ? 'everyone else is left out, with a reason'
              : spec.basis.kind === 'stated'
                ? 'stated by you'
                : ''}
          </span>
        </Row>
      )}
      {spec.mode !== 'REMOVE' && (
        <Row name="First">
          <FirstRunToken choice={spec.firstRun} onChange={(firstRun) => onChange({ ...spec, firstRun })} />
        </Row>
      )}
      {columns.some((column) => column.name === 'person_id' && column.role === 'KEY') && (
        <Row name="Joined">
          <Token
            label="When a record is merged into another"
            text={spec.joined === 'LEAVES' ? 'treat as left' : 'put up for review'}
          >
            <Labelled
              label="The record of a person who was merged into another"
              note="The surviving person is sent in either case; it keeps the older id."
            >
              <Select
                value={spec.joined ?? 'REVIEW'}
                onChange={(e) => onChange({ ...spec, joined: e.target.value as 'REVIEW' | 'LEAVES' })}
              >
                <option value="REVIEW">hold it until the two are merged in the destination</option>
                <option value="LEAVES">treat it like any record that left the dataset</option>
              </Select>
            </Labelled>
          </Token>
          <span className="text-soft">when two people are merged</span>
        </Row>
      )}
      <Row name="Guards">
        <GuardsToken guards={spec.guards} onChange={(guards) => onChange({ ...spec, guards })} />
        <span className="text-soft">
          {spec.guards.stopOnEmptyDataset ? 'or when the dataset is empty; ' : ''}such a run waits for
          approval
        </span>
      </Row>
      <Row name="When">
        <ScheduleToken schedule={spec.schedule} onChange={(schedule) => onChange({ ...spec, schedule })} />
        {spec.schedule.kind !== 'on-change' && <span className="text-soft">{spec.schedule.zone},</span>}
        <AfterToken
          routeId={route.id}
          after={spec.after}
          onChange={(after) => onChange({ ...spec, after })}
        />
        <WavesToken waves={spec.waves} onChange={(waves) => onChange({ ...spec, waves })} />
      </Row>
      {faults.map((fault) => (
        <p
          key={fault.message}
          className={`m-0 px-4 py-1.5 ${fault.blocking ? 'text-removed' : 'text-changed'}`}
        >
          {fault.message}
        </p>
      ))}
    </Card>
  );
}

function BasisToken({
  basis,
  columns,
  onChange,
}: {
  basis: Basis;
  columns: Column[];
  onChange: (basis: Basis) => void;
}) {
  const text =
    basis.kind === 'consent'
      ? `who gave consent to ${basis.purpose || '…'} (${basis.column || '…'})`
      : basis.kind === 'stated'
        ? basis.reason || 'another legal basis, to be stated'
        : 'state the legal basis';
  const consent = columns.find((column) => column.role === 'CONSENT');
  return (
    <Token label="Legal basis" text={text}>
      <label className="flex items-center gap-2">
        <input
          type="radio"
          name="basis"
          checked={basis.kind === 'consent'}
          onChange={() => onChange({ kind: 'consent', purpose: '', column: consent?.name ?? '' })}
        />
        only with consent
      </label>
      {basis.kind === 'consent' && (
        <>
          <Labelled label="Purpose">
            <Input value={basis.purpose} onChange={(e) => onChange({ ...basis, purpose: e.target.value })} />
          </Labelled>
          <Labelled label="Consent column">
            <Select value={basis.column} onChange={(e) => onChange({ ...basis, column: e.target.value })}>
              {!columns.some((column) => column.name === basis.column) && (
                <option value={basis.column}>{basis.column || 'choose…'}</option>
              )}
              {columns.map((column) => (
                <option key={column.name}>{column.name}</option>
              ))}
            </Select>
          </Labelled>
        </>
      )}
      <label className="flex items-center gap-2">
        <input
          type="radio"
          name="basis"
          checked={basis.kind === 'stated'}
          onChange={() => onChange({ kind: 'stated', reason: '' })}
        />
        another legal basis
      </label>
      {basis.kind === 'stated' && (
        <Labelled label="In words">
          <Input value={basis.reason} onChange={(e) => onChange({ ...basis, reason: e.target.value })} />
        </Labelled>
      )}
    </Token>
  );
}
