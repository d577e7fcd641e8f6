import { useState } from 'react';
import type { Column, Expectation, ExpectationState } from '../../api/types';
import { counted } from '../../components/format';
import { Ago } from '../../components/Moment';
import { Button, Pill, Select } from '../../components/ui';
import { Act, Editable } from '../session/Editors';
import { useIsEditor } from '../session/useSession';
import { DemandFields } from './DemandFields';
import { fresh, isAboutCells, kindsOf, RESPONSES, type Kind } from './demands';
import { UnexpectedRows } from './UnexpectedRows';

interface Props {
  datasetId: number;
  columns: Column[];
  value: Expectation;
  /** What the version in service says of it; absent for one that is not saved or not in service. */
  state: ExpectationState | undefined;
  onChange: (value: Expectation) => void;
  onRemove: () => void;
}

/** One expectation as a sentence, and whether the last read met it. */
export function ExpectationRow({ datasetId, columns, value, state, onChange, onRemove }: Props) {
  const [shown, setShown] = useState(false);
  const editor = useIsEditor();
  const of = value.column ?? 'the dataset';
  const column = columns.find((one) => one.name === value.column);
  const kinds = kindsOf(column, value.column);
  const choose = (name: string) => {
    const chosen = columns.find((one) => one.name === name);
    const possible = kindsOf(chosen, name || undefined);
    const kept = possible.some(([kind]) => kind === value.demand.kind);
    onChange({
      ...value,
      column: name || undefined,
      demand: kept ? value.demand : fresh(possible[0]?.[0] ?? 'not-empty'),
      response: name === '' && value.response === 'HOLD_ROWS' ? 'STOP_ROUTES' : value.response,
    });
  };
  return (
    <li className="border-hairline border-t py-2">
      <div className="flex flex-wrap items-center gap-2">
        <Editable>
          <div className="flex flex-wrap items-center gap-2">
            <Select
              aria-label="Column or dataset"
              className="font-mono"
              value={value.column ?? ''}
              onChange={(e) => choose(e.target.value)}
            >
              <option value="">the dataset</option>
              {columns.map((one) => (
                <option key={one.name} value={one.name}>
                  {one.name}
                </option>
              ))}
              {value.column && !column && <option value={value.column}>{value.column} (gone)</option>}
            </Select>
            <Select
              aria-label={`What is expected of ${of}`}
              value={value.demand.kind}
              onChange={(e) => onChange({ ...value, demand: fresh(e.target.value as Kind) })}
            >
              {kinds.map(([kind, words]) => (
                <option key={kind} value={kind}>
                  {words}
                </option>
              ))}
            </Select>
            <DemandFields
              key={value.demand.kind}
              demand={value.demand}
              of={of}
              onChange={(demand) => onChange({ ...value, demand })}
            />
            <span className="text-soft">otherwise</span>
            <Select
              aria-label={`If ${of} does not meet this`}
              value={value.response}
              onChange={(e) => onChange({ ...value, response: e.target.value as Expectation['response'] })}
            >
              {RESPONSES.filter(([response]) => response !== 'HOLD_ROWS' || isAboutCells(value)).map(
                ([response, words]) => (
                  <option key={response} value={response}>
                    {words}
                  </option>
                ),
              )}
            </Select>
          </div>
        </Editable>
        <span className="ml-auto flex items-center gap-2">
          <Verdict state={state} />
          {editor && isAboutCells(value) && (
            <Button kind="quiet" aria-expanded={shown} onClick={() => setShown(!shown)}>
              {shown ? 'Hide rows' : 'Show rows'}
            </Button>
          )}
          <Act kind="quiet" onClick={onRemove} aria-label={`Remove the expectation of ${of}`}>
            Remove
          </Act>
        </span>
      </div>
      {state?.met === false && (
        <p className="text-removed mt-1 mb-0">
          {state.detail}{' '}
          {state.brokenSince && (
            <>
              Not met since <Ago at={state.brokenSince} />.
            </>
          )}
        </p>
      )}
      {shown && (
        <div className="mt-1 overflow-x-auto">
          <UnexpectedRows datasetId={datasetId} expectation={value} />
        </div>
      )}
    </li>
  );
}

function Verdict({ state }: { state: ExpectationState | undefined }) {
  if (!state) return <span className="text-soft">not in service</span>;
  if (state.met === undefined) return <span className="text-soft">not checked yet</span>;
  return (
    <>
      {state.timesChecked > 1 && (
        <span className="text-soft">
          met in {state.timesMet} of {counted(state.timesChecked, 'read')}
        </span>
      )}
      <Pill tone={state.met ? 'good' : 'bad'}>{state.met ? 'met' : 'not met'}</Pill>
    </>
  );
}
