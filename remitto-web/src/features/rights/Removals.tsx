import type { ReactNode } from 'react';
import type { Removal } from '../../api/types';
import { Ago } from '../../components/Moment';
import { Card, Pill, TD, TH } from '../../components/ui';

const STATES: Record<Removal['state'], { words: string; tone: 'plain' | 'good' | 'warn' }> = {
  PENDING: { words: 'to be removed', tone: 'plain' },
  REMOVED: { words: 'removed', tone: 'good' },
  NOT_THERE: { words: 'was not found', tone: 'good' },
  BY_HAND: { words: 'manual step needed', tone: 'warn' },
  DONE_BY_HAND: { words: 'done manually', tone: 'good' },
};

/** Records at destinations, and how far their removal is. */
export function Removals({
  title,
  removals,
  actions,
}: {
  title: string;
  removals: Removal[];
  actions?: (removal: Removal) => ReactNode;
}) {
  return (
    <Card title={title}>
      {removals.length === 0 ? (
        <p className="text-soft m-0 px-4 pb-3">No route has sent a record of this person to a destination.</p>
      ) : (
        <table className="w-full border-collapse">
          <thead>
            <tr>
              <th className={TH}>Destination</th>
              <th className={TH}>Object</th>
              <th className={TH}>Record in the destination</th>
              <th className={TH}>State</th>
              <th className={TH}>At</th>
            </tr>
          </thead>
          <tbody>
            {removals.map((one) => (
              <tr key={one.number}>
                <td className={TD}>{one.destination}</td>
                <td className={TD}>{one.object}</td>
                <td className={`${TD} font-mono`}>
                  {one.remoteId === '' ? (
                    <span className="text-soft font-sans">no longer kept</span>
                  ) : (
                    <span title={one.remoteId}>
                      {one.remoteId.length > 16 ? `${one.remoteId.slice(0, 16)}…` : one.remoteId}
                    </span>
                  )}
                </td>
                <td className={TD}>
                  <Pill tone={STATES[one.state].tone}>{STATES[one.state].words}</Pill>
                  {one.answer !== '' && <span className="text-soft block">{one.answer}</span>}
                  {actions?.(one)}
                </td>
                <td className={TD}>{one.at && <Ago at={one.at} />}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </Card>
  );
}
