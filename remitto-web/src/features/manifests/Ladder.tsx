import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { api, ok } from '../../api/client';
import type { LadderLoss, ReachLadder } from '../../api/types';
import { count } from '../../components/format';
import { Failure, Skeleton } from '../../components/ui';

const STEPS: Record<ReachLadder['rungs'][number]['step'], string> = {
  IN_AUDIENCE: 'In the audience',
  ALLOWED: 'May be reached',
  HAS_ADDRESS: 'Has a matching address',
  COUNTED_ONCE: 'Counted once',
  ACCEPTED: 'Accepted by the destination',
  FOUND: 'Matched by the destination',
};

/** The records of a loss, or of a step, on the manifest's page. */
function lines(runId: number, loss: Pick<LadderLoss, 'verdict' | 'code' | 'state'>): string {
  const query = new URLSearchParams({ verdict: loss.verdict });
  if (loss.code) query.set('code', loss.code);
  if (loss.state !== 'NONE') query.set('state', loss.state);
  return `/manifests/${runId}?${query}`;
}

/** The steps from people to people reached, each with what was lost and why. */
export function Ladder({ runId }: { runId: number }) {
  const ladder = useQuery({
    queryKey: ['ladder', runId],
    queryFn: () => ok(api.GET('/api/runs/{id}/ladder', { params: { path: { id: runId } } })),
    retry: false,
  });
  if (ladder.error) return <Failure error={ladder.error} />;
  if (!ladder.data) return <Skeleton rows={5} />;
  const { rungs, elsewhere } = ladder.data;
  const most = Math.max(1, rungs[0]?.people ?? 0);
  return (
    <div>
      <table className="w-full border-collapse">
        <tbody>
          {rungs.map((rung) => (
            <tr key={rung.step}>
              <th scope="row" className="w-[168px] py-1 text-left align-top font-normal">
                {STEPS[rung.step]}
              </th>
              <td className="w-[34%] py-1 align-top">
                <div
                  aria-hidden
                  className={`mt-0.5 h-[16px] rounded-sm ${rung.step === 'FOUND' ? 'bg-deep opacity-60' : 'bg-deep'}`}
                  style={{ width: `${Math.max(0.4, (100 * rung.people) / most)}%` }}
                />
              </td>
              <td className="w-[72px] px-2 py-1 text-right align-top font-mono">{count(rung.people)}</td>
              <td className="text-soft py-1 align-top">
                {rung.step === 'IN_AUDIENCE' && (
                  <Link className="text-deep underline" to={`/manifests/${runId}?verdict=ALL`}>
                    all of the manifest
                  </Link>
                )}
                {rung.step === 'ACCEPTED' && rung.losses.length === 0 && (
                  <Link
                    className="text-deep underline"
                    to={`/manifests/${runId}?verdict=ALL&state=ACKNOWLEDGED`}
                  >
                    those sent by this manifest
                  </Link>
                )}
                {rung.step === 'FOUND' &&
                  most > 0 &&
                  `${Math.round((1000 * rung.people) / most) / 10}% of the audience, as the destination reports`}
                {rung.losses.map((loss) => (
                  <Link
                    key={`${loss.verdict}${loss.code}${loss.state}${loss.reason}`}
                    className="text-soft hover:text-ink block underline decoration-dotted"
                    to={lines(runId, loss)}
                  >
                    −{count(loss.people)} {loss.reason.charAt(0).toLowerCase() + loss.reason.slice(1)}
                  </Link>
                ))}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {elsewhere > 0 && (
        <p className="text-soft m-0 mt-1">
          Also, {count(elsewhere)} who left the audience are handled by this manifest.
        </p>
      )}
    </div>
  );
}
