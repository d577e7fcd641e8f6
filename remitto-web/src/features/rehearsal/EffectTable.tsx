import type { Effect, Verdict } from '../../api/types';
import { count, counted } from '../../components/format';
import { TD, TH } from '../../components/ui';
import { Sign, VERDICTS } from '../../components/verdicts';

const ORDER: Verdict[] = ['ADDED', 'CHANGED', 'REMOVED', 'UNCHANGED', 'HELD', 'LEFT_OUT'];

function Under({ verdict }: { verdict?: Verdict }) {
  return verdict ? <Sign verdict={verdict} /> : <span className="text-soft">no row</span>;
}

/** Two versions side by side: records by verdict, fields, and the records that differ. */
export function EffectTable({ effect }: { effect: Effect }) {
  const fields = effect.fields.filter(
    (field) => field.writtenBefore !== field.writtenAfter || field.heldBefore !== field.heldAfter,
  );
  return (
    <div className="mt-3 flex flex-col gap-3">
      <div role="status">
        <strong>
          {effect.differ === 0
            ? 'No record would change.'
            : `${counted(effect.differ, 'record')} would change.`}
        </strong>{' '}
        <span className="text-soft">
          {effect.whole ? `All ${count(effect.rows)} rows` : `The first ${count(effect.rows)} rows`} were
          compared.
          {effect.gone > 0 &&
            ` ${counted(effect.gone, 'record')} would have no row any more and leave the dataset.`}
          {effect.come > 0 && ` ${counted(effect.come, 'record')} would have a row for the first time.`}
        </span>
      </div>
      <table className="border-collapse">
        <thead>
          <tr>
            <th className={TH}>Records</th>
            <th className={`${TH} text-right`}>in service</th>
            <th className={`${TH} text-right`}>with the change</th>
          </tr>
        </thead>
        <tbody>
          {ORDER.filter((one) => (effect.before[one] ?? 0) + (effect.after[one] ?? 0) > 0).map((one) => (
            <tr key={one}>
              <td className={TD}>
                <Sign verdict={one} /> {VERDICTS[one].word}
              </td>
              <td className={`${TD} text-right font-mono`}>{count(effect.before[one] ?? 0)}</td>
              <td className={`${TD} text-right font-mono`}>{count(effect.after[one] ?? 0)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {fields.length > 0 && (
        <table className="border-collapse">
          <thead>
            <tr>
              <th className={TH}>Field</th>
              <th className={`${TH} text-right`}>written in</th>
              <th className={`${TH} text-right`}>with the change</th>
              <th className={`${TH} text-right`}>held in</th>
              <th className={`${TH} text-right`}>with the change</th>
            </tr>
          </thead>
          <tbody>
            {fields.map((field) => (
              <tr key={field.field}>
                <td className={`${TD} font-mono font-semibold`}>{field.field}</td>
                <td className={`${TD} text-right font-mono`}>{count(field.writtenBefore)}</td>
                <td className={`${TD} text-right font-mono`}>{count(field.writtenAfter)}</td>
                <td className={`${TD} text-right font-mono`}>{count(field.heldBefore)}</td>
                <td className={`${TD} text-right font-mono`}>{count(field.heldAfter)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {effect.examples.length > 0 && (
        <div
          className="max-h-[360px] overflow-auto"
          role="region"
          aria-label="Records that differ"
          tabIndex={0}
        >
          <table className="w-full border-collapse">
            <thead>
              <tr>
                <th className={TH}>Record</th>
                <th className={TH}>Field</th>
                <th className={TH}>In the destination</th>
                <th className={TH}>In service</th>
                <th className={TH}>With the change</th>
              </tr>
            </thead>
            <tbody>
              {effect.examples.map((one) => (
                <tr key={one.key}>
                  <td className={TD}>
                    <span className="font-mono">{one.key}</span>{' '}
                    <span className="text-soft">{one.label}</span>
                    <div>
                      <Under verdict={one.before} /> → <Under verdict={one.after} />
                    </div>
                  </td>
                  <td className={`${TD} font-mono`}>
                    {one.fields.map((field) => (
                      <div key={field.field}>{field.field}</div>
                    ))}
                  </td>
                  {(['there', 'before', 'after'] as const).map((side) => (
                    <td key={side} className={`${TD} font-mono`}>
                      {one.fields.map((field) => {
                        const shown = field[side];
                        return (
                          <div key={field.field} className="truncate">
                            {shown === undefined ? (
                              <span className="text-soft">–</span>
                            ) : typeof shown === 'string' ? (
                              shown || <span className="text-soft">empty</span>
                            ) : shown.outcome === 'WRITTEN' ? (
                              <span className="text-added">{shown.value || '(cleared)'}</span>
                            ) : (
                              <span className="text-held" title={shown.reason}>
                                {shown.outcome === 'HELD' ? '‖ held' : 'waits'}
                              </span>
                            )}
                          </div>
                        );
                      })}
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
    </div>
  );
}
