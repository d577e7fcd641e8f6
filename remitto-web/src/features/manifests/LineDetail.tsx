import { useEffect, useRef } from 'react';
import type { LineView } from '../../api/types';
import { moment } from '../../components/format';
import { Sign, VERDICTS } from '../../components/verdicts';
import { RecordPageLink } from '../destinations/RecordPageLink';
import { ExplainLink } from '../explain/ExplainLink';
import type { Place } from './Lines';

const capital = (word: string) => word.charAt(0).toUpperCase() + word.slice(1);

/** What became of a value that the manifest writes, by what became of its line. */
const WRITTEN_WORDS: Record<LineView['state'], string> = {
  NONE: 'to be written',
  PLANNED: 'to be written',
  SENDING: 'being sent',
  UNKNOWN: 'outcome unknown',
  ACKNOWLEDGED: 'written',
  REFUSED: 'refused',
  MOVED_ON: 'not sent',
  FORBIDDEN: 'not sent',
  CANCELLED: 'not sent',
};

const OUTCOME_WORDS: Record<Exclude<LineView['fields'][number]['outcome'], 'WRITTEN'>, string> = {
  SAME: 'same',
  KEPT: 'kept',
  WAITS: 'waits',
  HELD: 'held',
};

export function Old({ text }: { text: string }) {
  return <del className="text-removed font-mono">{text === '' ? '(empty)' : text}</del>;
}

/** Says of a value in the destination that another route put it there. */
export function OtherRoute({ name }: { name: string }) {
  return (
    <span
      className="bg-held-on text-held rounded px-1 text-[0.75rem] whitespace-nowrap"
      title={`The route ${name} wrote the current value`}
    >
      by {name}
    </span>
  );
}

/** One line beside the list: each field with what becomes of it and why. */
export function LineDetail({ line, place, onClose }: { line: LineView; place: Place; onClose: () => void }) {
  const heading = useRef<HTMLHeadingElement>(null);
  useEffect(() => heading.current?.focus(), [line.line]);
  useEffect(() => {
    const escape = (event: KeyboardEvent) => {
      if (event.key === 'Escape') onClose();
    };
    document.addEventListener('keydown', escape);
    return () => document.removeEventListener('keydown', escape);
  }, [onClose]);
  return (
    <section
      className="border-hairline bg-sunk w-full shrink-0 border-t px-4 py-3 xl:w-[340px] xl:border-t-0 xl:border-l xl:max-h-[calc(100vh-270px)] overflow-auto"
      aria-label={`Record ${line.key}`}
    >
      <div className="flex items-baseline justify-between gap-2">
        <h3
          ref={heading}
          tabIndex={-1}
          className="m-0 text-[0.8125rem] font-semibold wrap-anywhere outline-none"
        >
          <Sign verdict={line.verdict} /> {line.key} {line.label}
        </h3>
        <button type="button" className="text-deep cursor-pointer px-1 py-0.5" onClick={onClose}>
          Close
        </button>
      </div>
      <p className="text-soft my-1 wrap-anywhere">
        {line.reason || capital(VERDICTS[line.verdict].word)}
        {line.thereReadAt && `. Values in the destination read ${moment(line.thereReadAt)}`}
        {line.answer && `. Answer: ${line.answer}`}
      </p>
      {line.remoteId && (
        <p className="m-0 mb-2">
          Record <span className="font-mono">{line.remoteId}</span>{' '}
          {line.verdict !== 'REMOVED' && (
            <RecordPageLink
              destinationId={place.destinationId}
              object={place.object}
              remoteId={line.remoteId}
            />
          )}
        </p>
      )}
      <ul className="m-0 list-none p-0">
        {line.fields.map((field) => (
          <li key={field.field} className="border-hairline border-t py-1.5">
            <div className="flex items-baseline justify-between gap-2">
              <span className="font-medium wrap-anywhere">{field.field}</span>
              <span className="text-soft">
                {field.outcome === 'WRITTEN' ? WRITTEN_WORDS[line.state] : OUTCOME_WORDS[field.outcome]}
              </span>
            </div>
            <div className="font-mono wrap-anywhere">
              {field.old !== undefined && field.outcome === 'WRITTEN' && line.verdict === 'CHANGED' && (
                <Old text={field.old} />
              )}{' '}
              {field.fresh ?? field.old}
            </div>
            {field.otherRoute && <OtherRoute name={field.otherRoute} />}
            {field.reason && <div className="text-soft wrap-anywhere">{field.reason}</div>}
            {line.remoteId && line.verdict !== 'REMOVED' && (
              <ExplainLink
                destinationId={place.destinationId}
                object={place.object}
                remoteId={line.remoteId}
                field={field.field}
              />
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
