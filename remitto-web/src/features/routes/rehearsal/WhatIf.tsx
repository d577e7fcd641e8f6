import { useMutation } from '@tanstack/react-query';
import { api, ok } from '../../../api/client';
import type { Effect, RouteSpec, Verdict } from '../../../api/types';
import { count, counted } from '../../../components/format';
import { Button, Card, Failure, Skeleton, TD, TH } from '../../../components/ui';
import { Sign, VERDICTS } from '../../../components/verdicts';

const ORDER: Verdict[] = ['ADDED', 'CHANGED', 'REMOVED', 'UNCHANGED', 'HELD', 'LEFT_OUT'];

/** What unsaved rules would do to the rows as they are, beside what the version in service does. */
export function WhatIf({ routeId, spec, blocked }: { routeId: number; spec: RouteSpec; blocked: boolean }) {
  const look = useMutation({
    mutationFn: () =>
      ok(api.POST('/api/routes/{id}/what-if', { params: { path: { id: routeId } }, body: { spec } })),
  });
  return (
    <Card title="What would this change do">
      <div className="px-4 pb-3">
        <div className="flex items-center gap-3">
          <Button disabled={look.isPending || blocked} onClick={() => look.mutate()}>
            {look.data ? 'Look again' : 'Judge the rows by both'}
          </Button>
          <span className="text-soft">
            {blocked
              ? 'Mend the faults first.'
              : 'Nothing is sent, and nothing is written down; the rows are judged by both versions as they are now.'}
          </span>
        </div>
        <Failure error={look.error} />
        {look.isPending && <Skeleton rows={3} />}
        {look.data && !look.isPending && <EffectTable effect={look.data} />}
      </div>
    </Card>
  );
}

function EffectTable({ effect }: { effect: Effect }) {
  const fields = effect.fields.filter(
    (field) => field.writtenBefore !== field.writtenAfter || field.heldBefore !== field.heldAfter,
  );
  return (
    <div className="mt-3 flex flex-col gap-3">
      <div role="status">
        <strong>
          {effect.differ === 0
            ? 'No record would be treated differently.'
            : `${counted(effect.differ, 'record')} would be treated differently.`}
        </strong>{' '}
        <span className="text-soft">
          {effect.whole ? `All ${count(effect.rows)} rows` : `The first ${count(effect.rows)} rows`} were
          judged.
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
                <th className={TH}>There</th>
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
                      <Sign verdict={one.before} /> → <Sign verdict={one.after} />
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
