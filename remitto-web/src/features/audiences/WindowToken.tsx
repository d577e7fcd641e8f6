import type { Window } from '../../api/types';
import { Input, Labelled, Select, Token } from '../../components/ui';
import { freshWindow, SPAN_WORDS, WINDOW_KINDS, windowWords } from './conditions';
import { Numeric } from './TestToken';
import { today } from './today';

interface Props {
  window: Window;
  onChange: (window: Window) => void;
}

/** Which times count, as an editable part of a sentence. */
export function WindowToken({ label, window, onChange }: Props & { label: string }) {
  return (
    <Token label={label} text={windowWords(window)}>
      <WindowFields window={window} onChange={onChange} />
    </Token>
  );
}

export function WindowFields({ window, onChange }: Props) {
  const day = (label: string, value: string, onDay: (day: string) => void) => (
    <Labelled label={label}>
      <Input
        type="date"
        value={value}
        onChange={(event) => {
          if (event.target.value) onDay(event.target.value);
        }}
      />
    </Labelled>
  );
  return (
    <>
      <Labelled label="Time">
        <Select
          value={window.kind}
          onChange={(event) => onChange(freshWindow(event.target.value as Window['kind'], today()))}
        >
          {WINDOW_KINDS.map(([kind, words]) => (
            <option key={kind} value={kind}>
              {words}
            </option>
          ))}
        </Select>
      </Labelled>
      {window.kind === 'last-days' && (
        <Numeric
          label="Days back from today; 0 is today"
          value={window.days}
          onNumber={(days) => onChange({ ...window, days })}
        />
      )}
      {window.kind === 'last-hours' && (
        <Numeric
          label="Hours back from now, exactly"
          value={window.hours}
          onNumber={(hours) => onChange({ ...window, hours })}
        />
      )}
      {window.kind === 'from-to' && (
        <div className="flex gap-2">
          {day('From, included', window.from, (from) => onChange({ ...window, from }))}
          {day('To, included', window.to, (to) => onChange({ ...window, to }))}
        </div>
      )}
      {window.kind === 'since' && day('Day, included', window.day, (on) => onChange({ ...window, day: on }))}
      {window.kind === 'until' &&
        day('Day, not included', window.day, (on) => onChange({ ...window, day: on }))}
      {window.kind === 'calendar' && (
        <div className="flex gap-2">
          <Labelled label="Period">
            <Select
              value={window.span}
              onChange={(event) => onChange({ ...window, span: event.target.value as typeof window.span })}
            >
              {SPAN_WORDS.map(([span, words]) => (
                <option key={span} value={span}>
                  {words}
                </option>
              ))}
            </Select>
          </Labelled>
          <Numeric
            label="How many periods back; 0 is the current one"
            value={window.back}
            onNumber={(back) => onChange({ ...window, back })}
          />
        </div>
      )}
    </>
  );
}
